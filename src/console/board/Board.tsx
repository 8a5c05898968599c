/** The board: all looks as a contact sheet, grouped by component. */
import { useVirtualizer } from '@tanstack/react-virtual';
import { ToggleGroup } from 'radix-ui';
import { useEffect, useMemo, useRef, useState } from 'react';
import { useNavigate, useSearchParams } from 'react-router';
import { shortName } from '../../core/look/look.ts';
import { matchesPattern } from '../../core/look/pattern.ts';
import { type ResultSummary, standing } from '../../core/run/run.ts';
import { type Verdict as VerdictName, verdicts } from '../../core/run/verdict.ts';
import { useLooks, useStart } from '../data.ts';
import { useKeys } from '../keys.ts';
import { Blank, Trouble, Waiting } from '../parts/Blank.tsx';
import { Button } from '../parts/Button.tsx';
import { VerdictShape } from '../parts/Verdict.tsx';
import { layOut } from './rows.ts';
import { Tile, tileHeight, tileWidth } from './Tile.tsx';

const gap = 14;
const headerHeight = 40;

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

export function Board() {
  const looks = useLooks();
  if (looks.isPending) return <Waiting what="Laying out the board…" />;
  if (looks.isError) return <Trouble error={looks.error} />;
  if (looks.data.length === 0) {
    return (
      <Blank title="Nothing has been run yet">
        <p>
          Run all looks from here, or in a terminal with <code className="font-mono">sguardo run</code>. Each one
          appears as soon as it is done.
        </p>
      </Blank>
    );
  }
  return <Sheet looks={looks.data} />;
}

function Sheet({ looks }: { looks: ResultSummary[] }) {
  const start = useStart();
  const [query, setQuery] = useSearchParams();
  const navigate = useNavigate();
  const search = useRef<HTMLInputElement>(null);
  // The address only follows what is typed: it is updated too late for somebody who types fast.
  const [text, setText] = useState(query.get('q') ?? '');
  const shownVerdicts = query.getAll('verdict') as VerdictName[];
  const environment = query.get('env') ?? '';
  const environments = useMemo(() => [...new Set(looks.map((look) => look.environment))], [looks]);
  const set = (change: (next: URLSearchParams) => void): void => {
    const next = new URLSearchParams(query);
    change(next);
    setQuery(next, { replace: true });
  };

  const found = useMemo(
    () =>
      looks.filter(
        (look) => (!environment || look.environment === environment) && (!text || matchesPattern(look, text)),
      ),
    [looks, environment, text],
  );
  const counts = useMemo(() => {
    const all: Record<string, number> = {};
    for (const look of found) all[standing(look)] = (all[standing(look)] ?? 0) + 1;
    return all;
  }, [found]);
  const shown = useMemo(
    () => found.filter((look) => shownVerdicts.length === 0 || shownVerdicts.includes(standing(look))),
    [found, shownVerdicts.join()],
  );

  const [area, width] = useWidth<HTMLDivElement>();
  const columns = Math.max(1, Math.floor((width + gap) / (tileWidth + gap)));
  const rows = useMemo(() => layOut(shown, columns), [shown, columns]);
  const order = useMemo(() => rows.flatMap((row) => (row.kind === 'tiles' ? row.looks : [])), [rows]);
  const [chosen, setChosen] = useState<number | null>(null);
  const at = order.findIndex((look) => look.id === chosen);

  const virtual = useVirtualizer({
    count: rows.length,
    getScrollElement: () => area.current,
    estimateSize: (i) => (rows[i]!.kind === 'header' ? headerHeight : tileHeight + gap),
    overscan: 4,
  });
  useEffect(() => virtual.measure(), [virtual, rows]);

  const move = (by: number): void => {
    const next = order[Math.max(0, Math.min(order.length - 1, at < 0 ? 0 : at + by))];
    if (!next) return;
    setChosen(next.id);
    virtual.scrollToIndex(rows.findIndex((row) => row.kind === 'tiles' && row.looks.includes(next)));
  };
  useKeys({
    '/': () => search.current?.focus(),
    ArrowRight: () => move(1),
    ArrowLeft: () => move(-1),
    ArrowDown: () => move(columns),
    ArrowUp: () => move(-columns),
    Enter: () => at >= 0 && void navigate(`/bench/${order[at]!.id}`),
    r: () =>
      at >= 0 &&
      start({ patterns: [`${order[at]!.component}/${order[at]!.look}`], environments: [order[at]!.environment] }),
  });

  return (
    <div className="flex h-full flex-col">
      <div className="flex shrink-0 flex-wrap items-center gap-3 border-b border-rule px-4 py-2">
        <label className="relative">
          <span className="sr-only">Search looks</span>
          <input
            ref={search}
            value={text}
            placeholder="Search looks"
            onChange={({ target }) => {
              setText(target.value);
              set((next) => (target.value ? next.set('q', target.value) : next.delete('q')));
            }}
            onKeyDown={(event) => event.key === 'Escape' && event.currentTarget.blur()}
            className="h-7 w-52 rounded-md border border-rule bg-sheet px-2.5 placeholder:text-soft"
          />
          {!text && <kbd className="pointer-events-none absolute top-1.5 right-2">/</kbd>}
        </label>
        <ToggleGroup.Root
          type="multiple"
          aria-label="Show only these verdicts"
          value={shownVerdicts}
          onValueChange={(values: string[]) =>
            set((next) => {
              next.delete('verdict');
              for (const value of values) next.append('verdict', value);
            })
          }
          className="flex gap-1"
        >
          {verdicts.map((verdict) => (
            <ToggleGroup.Item
              key={verdict}
              value={verdict}
              disabled={!counts[verdict] && !shownVerdicts.includes(verdict)}
              className="inline-flex h-7 items-center gap-1.5 rounded-md border border-transparent px-2 text-soft hover:text-ink disabled:opacity-40 data-[state=on]:border-accent data-[state=on]:bg-wash data-[state=on]:text-ink"
            >
              <VerdictShape verdict={verdict} />
              {verdict}
              <span className="font-semibold tabular-nums">{counts[verdict] ?? 0}</span>
            </ToggleGroup.Item>
          ))}
        </ToggleGroup.Root>
        <span className="flex-1" />
        {environments.length > 1 && (
          <ToggleGroup.Root
            type="single"
            aria-label="Environment"
            value={environment || 'all'}
            onValueChange={(value: string) =>
              set((next) => (value && value !== 'all' ? next.set('env', value) : next.delete('env')))
            }
            className="flex overflow-hidden rounded-md border border-rule"
          >
            {['all', ...environments].map((name) => (
              <ToggleGroup.Item
                key={name}
                value={name}
                className="h-6.5 px-2.5 text-soft not-first:border-l not-first:border-rule hover:text-ink data-[state=on]:bg-wash data-[state=on]:font-medium data-[state=on]:text-ink"
              >
                {name}
              </ToggleGroup.Item>
            ))}
          </ToggleGroup.Root>
        )}
      </div>
      <div ref={area} className="min-h-0 flex-1 overflow-y-auto px-4">
        {shown.length === 0 ? (
          <Blank title="No look is like that">
            <Button
              onClick={() => {
                setText('');
                setQuery({}, { replace: true });
              }}
            >
              Show all looks
            </Button>
          </Blank>
        ) : (
          <div className="relative" style={{ height: virtual.getTotalSize() + 16 }}>
            {virtual.getVirtualItems().map((item) => {
              const row = rows[item.index]!;
              return (
                <div
                  key={item.key}
                  className="absolute right-0 left-0"
                  style={{ transform: `translateY(${item.start}px)` }}
                >
                  {row.kind === 'header' ? (
                    <h2 className="flex h-10 items-end gap-2 pb-1.5">
                      <span className="text-[13.5px] font-semibold">{shortName(row.component)}</span>
                      <span className="font-mono text-[11px] text-soft">{row.file}</span>
                      <span className="mb-1 flex-1 border-b border-rule" />
                      <span className="text-soft tabular-nums">{row.count}</span>
                    </h2>
                  ) : (
                    <div className="flex" style={{ gap }}>
                      {row.looks.map((look) => (
                        <Tile
                          key={look.id}
                          look={look}
                          width={(width - gap * (columns - 1)) / columns}
                          chosen={look.id === chosen}
                          showEnvironment={environments.length > 1 && !environment}
                        />
                      ))}
                    </div>
                  )}
                </div>
              );
            })}
          </div>
        )}
      </div>
    </div>
  );
}
