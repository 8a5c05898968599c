/** The board: all looks as a contact sheet, in groups by folder and component. */
import { useVirtualizer } from '@tanstack/react-virtual';
import { useCallback, useEffect, useMemo, useRef, useState } from 'react';
import { useNavigate } from 'react-router';
import { lookKey } from '../../core/look/look.ts';
import type { BoardLook, Variant } from '../../core/run/board.ts';
import { verdicts } from '../../core/run/verdict.ts';
import { benchPath } from '../bench/useDesk.ts';
import { useBoard, useStart } from '../data.ts';
import { useKeys } from '../keys.ts';
import { Blank, Trouble, Waiting } from '../parts/Blank.tsx';
import { Button } from '../parts/Button.tsx';
import { FilterBar } from './FilterBar.tsx';
import { Group, groupHeight } from './Group.tsx';
import { foldersOf, groupKeys, type Row, rowsOf } from './rows.ts';
import { Tile, tileHeight, tileWidth } from './Tile.tsx';
import { useChoice } from './useChoice.ts';
import { useFilters } from './useFilters.ts';
import { useFolds } from './useFolds.ts';

const gap = 14;

const none: ReadonlySet<string> = new Set();

export function Board() {
  const board = useBoard();
  if (board.isPending) return <Waiting what="Laying out the board…" />;
  if (board.isError) return <Trouble error={board.error} />;
  if (board.data.length > 0) return <Sheet looks={board.data} />;
  return (
    <Blank title="Nothing has been run yet">
      <p>
        Run all looks from here, or in a terminal with <code className="font-mono">sguardo run</code>. Each one appears
        as soon as it is done.
      </p>
    </Blank>
  );
}

/** The width of an element, followed as it changes. */
function useWidth<T extends HTMLElement>(): [React.RefObject<T | null>, number] {
  const ref = useRef<T>(null);
  const [width, setWidth] = useState(1200);
  useEffect(() => {
    if (!ref.current) return;
    const observer = new ResizeObserver(([entry]) => setWidth(entry!.contentRect.width));
    observer.observe(ref.current);
    return () => observer.disconnect();
  }, []);
  return [ref, width];
}

/** The environment whose picture a tile shows: the one asked for, or where it stands worst. */
function useShown() {
  const [asked, setAsked] = useState<Record<string, string>>({});
  const show = useCallback(
    ({ component, look }: BoardLook, environment: string) =>
      setAsked((now) => ({ ...now, [lookKey(component, look)]: environment })),
    [],
  );
  const shownOf = ({ component, look, variants }: BoardLook): Variant => {
    const wanted = variants.find(({ environment }) => environment === asked[lookKey(component, look)]);
    const worst = verdicts.find((verdict) => variants.some((variant) => variant.verdict === verdict));
    return wanted ?? variants.find(({ verdict }) => verdict === worst)!;
  };
  const showNext = (look: BoardLook): void => {
    const at = look.variants.indexOf(shownOf(look));
    show(look, look.variants[(at + 1) % look.variants.length]!.environment);
  };
  return { show, shownOf, showNext };
}

function Sheet({ looks }: { looks: BoardLook[] }) {
  const start = useStart();
  const navigate = useNavigate();
  const search = useRef<HTMLInputElement>(null);
  const filters = useFilters(looks);
  const folds = useFolds();
  const { show, shownOf, showNext } = useShown();
  const [area, width] = useWidth<HTMLDivElement>();
  const columns = Math.max(1, Math.floor((width + gap) / (tileWidth + gap)));
  const folder = useMemo(() => foldersOf(filters.shown), [filters.shown]);
  // What is searched for is shown wherever it is.
  const folded = filters.text ? none : folds.folded;
  const rows = useMemo(() => rowsOf(folder, columns, folded), [folder, columns, folded]);
  const virtual = useVirtualizer({
    count: rows.length,
    getScrollElement: () => area.current,
    estimateSize: (i) => (rows[i]!.kind === 'tiles' ? tileHeight + gap : groupHeight),
    getItemKey: (i) => rows[i]!.key + (rows[i]!.kind === 'tiles' ? ' ' : ''),
    overscan: 4,
  });
  useEffect(() => virtual.measure(), [virtual, rows]);
  const choice = useChoice(rows, (row) => virtual.scrollToIndex(row));
  const groups = useMemo(() => groupKeys(folder), [folder]);
  const isAnyOpen = groups.some((key) => !folds.folded.has(key));
  const foldAll = (): void => folds.setAll(isAnyOpen ? groups : []);
  const foldAround = (wanted: boolean): void => {
    const { look, group } = choice;
    const key = group?.key ?? look?.component;
    if (key === undefined) return;
    folds.fold(key, wanted);
    choice.choose(key);
  };
  const run = ({ component, look, variants }: BoardLook): void =>
    start({ looks: [{ component, look }], environments: variants.map(({ environment }) => environment), fresh: true });
  useKeys({
    '/': () => search.current?.focus(),
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
    F: foldAll,
    r: () => choice.look && run(choice.look),
  });
  const tile = (width - gap * (columns - 1)) / columns;
  const renderRow = (row: Row): React.ReactNode => {
    if (row.kind !== 'tiles')
      return (
        <Group group={row} isChosen={row.key === choice.key} onFold={(isFolded) => folds.fold(row.key, isFolded)} />
      );
    return (
      <div className="flex" style={{ gap }}>
        {row.looks.map((look) => (
          <Tile
            key={look.look}
            look={look}
            shown={shownOf(look)}
            width={tile}
            isChosen={look === choice.look}
            onShow={show}
          />
        ))}
      </div>
    );
  };
  return (
    <div className="flex h-full flex-col">
      <FilterBar filters={filters} search={search} foldAll={foldAll} isAnyOpen={isAnyOpen} />
      <div ref={area} className="min-h-0 flex-1 overflow-y-auto px-4">
        {filters.shown.length === 0 ? (
          <Blank title="No looks match">
            <Button onClick={filters.clear}>Show all looks</Button>
          </Blank>
        ) : (
          <div className="relative" style={{ height: virtual.getTotalSize() + 16 }}>
            {virtual.getVirtualItems().map(({ key, index, start: top }) => (
              <div key={key} className="absolute right-0 left-0" style={{ transform: `translateY(${top}px)` }}>
                {renderRow(rows[index]!)}
              </div>
            ))}
          </div>
        )}
      </div>
    </div>
  );
}
