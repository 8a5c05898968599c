/** The rows of the board that are in sight, and how keys lead through all of them. */
import { useVirtualizer } from '@tanstack/react-virtual';
import { useEffect, useMemo, useRef, useState } from 'react';
import { useNavigate } from 'react-router';
import type { BoardLook } from '../../core/run/board.ts';
import { benchPath } from '../bench/useDesk.ts';
import { useStart } from '../data.ts';
import { useKeys } from '../keys.ts';
import { Group, groupHeight } from './Group.tsx';
import { type Folder, type Row, rowsOf } from './layout.ts';
import { FlyingTile, Tile, tileHeight, tileWidth } from './Tile.tsx';
import { type Choice, useChoice } from './useChoice.ts';
import { useFlying } from './useFlying.ts';
import type { Folds } from './useFolds.ts';
import { useShown } from './useShown.ts';

const gap = 14;

/** Follows links in an element within the console, as a router's own do, of which thousands would take long to make. */
function useLinks(ref: React.RefObject<HTMLElement | null>): void {
  const navigate = useNavigate();
  useEffect(() => {
    const area = ref.current!;
    const follow = (event: MouseEvent): void => {
      const isPlain = event.button === 0 && !event.ctrlKey && !event.metaKey && !event.shiftKey && !event.altKey;
      const to = event.target instanceof Element ? event.target.closest('a')?.getAttribute('href') : null;
      if (!isPlain || !to) return;
      event.preventDefault();
      void navigate(to);
    };
    area.addEventListener('click', follow);
    return () => area.removeEventListener('click', follow);
  }, [ref, navigate]);
}

/** The width of an element, followed as it changes. */
function useWidth(ref: React.RefObject<HTMLElement | null>): number {
  const [width, setWidth] = useState(1200);
  useEffect(() => {
    if (!ref.current) return;
    const observer = new ResizeObserver(([entry]) => setWidth(entry!.contentRect.width));
    observer.observe(ref.current);
    return () => observer.disconnect();
  }, [ref]);
  return width;
}

type Keyed = { choice: Choice; fold: Folds['fold'] } & Pick<ReturnType<typeof useShown>, 'shownOf' | 'showNext'>;

/** The keys of the board: to the next row or tile, to fold, and to open, show or run what is chosen. */
function useRowKeys({ choice, fold, shownOf, showNext }: Keyed): void {
  const start = useStart();
  const navigate = useNavigate();
  /** Folds or unfolds the group that is chosen, or that the chosen tile is in. */
  const foldAround = (isFolded: boolean): void => {
    const key = choice.group?.key ?? choice.look?.component;
    if (key === undefined) return;
    fold(key, isFolded);
    choice.choose(key);
  };
  const run = ({ component, look, variants }: BoardLook): void =>
    start({ looks: [{ component, look }], environments: variants.map(({ environment }) => environment), fresh: true });
  useKeys({
    ArrowDown: () => choice.moveRows(1),
    ArrowUp: () => choice.moveRows(-1),
    ArrowRight: () => (choice.group?.isFolded ? foldAround(false) : choice.moveTiles(1)),
    ArrowLeft: () => (choice.group && !choice.group.isFolded ? foldAround(true) : choice.moveTiles(-1)),
    Home: () => choice.toEnd('first'),
    End: () => choice.toEnd('last'),
    Enter: () => {
      if (choice.look) void navigate(benchPath(shownOf(choice.look)));
      else if (choice.group) foldAround(!choice.group.isFolded);
    },
    e: () => choice.look && showNext(choice.look),
    f: () => foldAround(!choice.group?.isFolded),
    r: () => choice.look && run(choice.look),
  });
}

type Props = {
  folder: Folder;
  folded: ReadonlySet<string>;
  fold: Folds['fold'];
  /** Names of environments, as the configuration has them. */
  order: readonly string[];
};

export function Rows({ folder, folded, fold, order }: Props) {
  const { show, shownOf, showNext } = useShown(order);
  const area = useRef<HTMLDivElement>(null);
  const width = useWidth(area);
  useLinks(area);
  const columns = Math.max(1, Math.floor((width + gap) / (tileWidth + gap)));
  const rows = useMemo(() => rowsOf(folder, columns, folded), [folder, columns, folded]);
  const virtual = useVirtualizer({
    count: rows.length,
    getScrollElement: () => area.current,
    estimateSize: (i) => (rows[i]!.kind === 'tiles' ? tileHeight + gap : groupHeight),
    overscan: 2,
  });
  const isPassing = useRef(false);
  isPassing.current = virtual.isScrolling;
  const isFlying = useFlying(virtual);
  useEffect(() => virtual.measure(), [virtual, rows]);
  const choice = useChoice(rows, (row) => virtual.scrollToIndex(row));
  useRowKeys({ choice, shownOf, showNext, fold });
  const tile = (width - gap * (columns - 1)) / columns;
  const renderRow = (row: Row): React.ReactNode => {
    if (row.kind !== 'tiles')
      return <Group group={row} isChosen={row.key === choice.key} onFold={(isFolded) => fold(row.key, isFolded)} />;
    return (
      <div className="flex" style={{ gap }}>
        {row.looks.map((look, column) =>
          isFlying ? (
            <FlyingTile key={column} name={look.look} width={tile} />
          ) : (
            <Tile
              key={column}
              look={look}
              shown={shownOf(look)}
              width={tile}
              isChosen={look === choice.look}
              onShow={show}
              order={order}
              isPassing={isPassing}
            />
          ),
        )}
      </div>
    );
  };
  return (
    <div ref={area} className="min-h-0 flex-1 overflow-y-auto px-4">
      <div className="relative" style={{ height: virtual.getTotalSize() + 16 }}>
        {virtual.getVirtualItems().map(({ index, start: top }) => (
          <div key={index} className="absolute right-0 left-0" style={{ transform: `translateY(${top}px)` }}>
            {renderRow(rows[index]!)}
          </div>
        ))}
      </div>
    </div>
  );
}
