/** The board: all looks as a contact sheet, grouped by component. */
import { useVirtualizer } from '@tanstack/react-virtual';
import { useEffect, useMemo, useRef, useState } from 'react';
import { useNavigate } from 'react-router';
import { shortName } from '../../core/look/look.ts';
import type { ResultSummary } from '../../core/run/run.ts';
import { benchPath } from '../bench/useDesk.ts';
import { useLooks, useStart } from '../data.ts';
import { useKeys } from '../keys.ts';
import { Blank, Trouble, Waiting } from '../parts/Blank.tsx';
import { Button } from '../parts/Button.tsx';
import { FilterBar } from './FilterBar.tsx';
import { layOut, type Row } from './rows.ts';
import { Tile, tileHeight, tileWidth } from './Tile.tsx';
import { useFilters } from './useFilters.ts';

const gap = 14;
const headerHeight = 40;

export function Board() {
  const looks = useLooks();
  if (looks.isPending) return <Waiting what="Laying out the board…" />;
  if (looks.isError) return <Trouble error={looks.error} />;
  if (looks.data.length > 0) return <Sheet looks={looks.data} />;
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

/** The looks that arrow keys go through, and the one that is chosen. */
function useChoice(rows: readonly Row[], columns: number, reveal: (row: number) => void) {
  const order = useMemo(() => rows.flatMap((row) => (row.kind === 'tiles' ? row.looks : [])), [rows]);
  const [chosen, setChosen] = useState<number | null>(null);
  const at = order.findIndex((look) => look.id === chosen);
  const move = (by: number): void => {
    const next = order[Math.max(0, Math.min(order.length - 1, at < 0 ? 0 : at + by))];
    if (!next) return;
    setChosen(next.id);
    reveal(rows.findIndex((row) => row.kind === 'tiles' && row.looks.includes(next)));
  };
  const keys = {
    ArrowRight: () => move(1),
    ArrowLeft: () => move(-1),
    ArrowDown: () => move(columns),
    ArrowUp: () => move(-columns),
  };
  return { chosen: order[at], keys };
}

function Sheet({ looks }: { looks: ResultSummary[] }) {
  const start = useStart();
  const navigate = useNavigate();
  const search = useRef<HTMLInputElement>(null);
  const filters = useFilters(looks);
  const [area, width] = useWidth<HTMLDivElement>();
  const columns = Math.max(1, Math.floor((width + gap) / (tileWidth + gap)));
  const rows = useMemo(() => layOut(filters.shown, columns), [filters.shown, columns]);
  const virtual = useVirtualizer({
    count: rows.length,
    getScrollElement: () => area.current,
    estimateSize: (i) => (rows[i]!.kind === 'header' ? headerHeight : tileHeight + gap),
    overscan: 4,
  });
  useEffect(() => virtual.measure(), [virtual, rows]);
  const { chosen, keys } = useChoice(rows, columns, (row) => virtual.scrollToIndex(row));
  const runChosen = ({ component, look, environment }: ResultSummary): void =>
    start({ looks: [{ component, look }], environments: [environment], fresh: true });
  useKeys({
    ...keys,
    '/': () => search.current?.focus(),
    Enter: () => chosen && void navigate(benchPath(chosen)),
    r: () => chosen && runChosen(chosen),
  });
  const tile = (width - gap * (columns - 1)) / columns;
  const showEnvironment = filters.environments.length > 1 && !filters.environment;
  return (
    <div className="flex h-full flex-col">
      <FilterBar filters={filters} search={search} />
      <div ref={area} className="min-h-0 flex-1 overflow-y-auto px-4">
        {filters.shown.length === 0 ? (
          <Blank title="No looks match">
            <Button onClick={filters.clear}>Show all looks</Button>
          </Blank>
        ) : (
          <div className="relative" style={{ height: virtual.getTotalSize() + 16 }}>
            {virtual.getVirtualItems().map(({ key, index, start: top }) => (
              <div key={key} className="absolute right-0 left-0" style={{ transform: `translateY(${top}px)` }}>
                <BoardRow row={rows[index]!} tile={tile} chosen={chosen?.id} showEnvironment={showEnvironment} />
              </div>
            ))}
          </div>
        )}
      </div>
    </div>
  );
}

type RowProps = { row: Row; tile: number; chosen: number | undefined; showEnvironment: boolean };

function BoardRow({ row, tile, chosen, showEnvironment }: RowProps) {
  if (row.kind === 'tiles')
    return (
      <div className="flex" style={{ gap }}>
        {row.looks.map((look) => (
          <Tile key={look.id} look={look} width={tile} chosen={look.id === chosen} showEnvironment={showEnvironment} />
        ))}
      </div>
    );
  return (
    <h2 className="flex h-10 items-end gap-2 pb-1.5">
      <span className="text-[13.5px] font-semibold">{shortName(row.component)}</span>
      <span className="font-mono text-[11px] text-soft">{row.file}</span>
      <span className="mb-1 flex-1 border-b border-rule" />
      <span className="text-soft tabular-nums">{row.count}</span>
    </h2>
  );
}
