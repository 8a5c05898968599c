/**
 * A list of any length of which one entry is chosen; only those in sight are drawn, and the one that Tab leads to.
 * While it has the focus, what is chosen has it.
 */
import { defaultRangeExtractor, useVirtualizer } from '@tanstack/react-virtual';
import { type ReactNode, useEffect, useRef } from 'react';

type Props<T> = {
  label: string;
  entries: readonly T[];
  /** The chosen one, by its place; -1 for none. It is scrolled to. */
  at: number;
  rowHeight: number;
  keyOf(entry: T): string;
  onChoose(entry: T): void;
  /** How an entry is laid out in its row. */
  shape: string;
  /** How it is told from others when it is chosen. */
  chosenShape?: string;
  render(entry: T, isChosen: boolean): ReactNode;
  /** What stands there when there is none. */
  none?: ReactNode;
};

const usualChosen = 'bg-wash';

export function OptionList<T>({
  label,
  entries,
  at,
  rowHeight,
  keyOf,
  onChoose,
  shape,
  chosenShape = usualChosen,
  render,
  none,
}: Props<T>) {
  const area = useRef<HTMLDivElement>(null);
  const tabbed = Math.max(0, at);
  const rows = useVirtualizer({
    count: entries.length,
    getScrollElement: () => area.current,
    estimateSize: () => rowHeight,
    overscan: 12,
    rangeExtractor: (range) => [...new Set([tabbed, ...defaultRangeExtractor(range)])].sort((a, b) => a - b),
  });
  useEffect(() => {
    if (at >= 0) rows.scrollToIndex(at);
    const { current } = area;
    if (current?.contains(document.activeElement))
      current.querySelector<HTMLElement>('[tabindex="0"]')?.focus({ preventScroll: true });
  }, [at, rows]);
  if (entries.length === 0) return <div className="min-h-0 flex-1 overflow-y-auto">{none}</div>;
  return (
    <div ref={area} className="min-h-0 flex-1 overflow-y-auto" role="listbox" aria-label={label}>
      <div className="relative w-full" style={{ height: rows.getTotalSize() }}>
        {rows.getVirtualItems().map(({ index, start }) => {
          const entry = entries[index]!;
          const isChosen = index === at;
          return (
            <button
              key={keyOf(entry)}
              type="button"
              role="option"
              aria-selected={isChosen}
              aria-setsize={entries.length}
              aria-posinset={index + 1}
              tabIndex={index === tabbed ? 0 : -1}
              className={`absolute left-0 w-full text-left ${shape} ${isChosen ? chosenShape : 'hover:bg-well'}`}
              style={{ transform: `translateY(${start}px)`, height: rowHeight }}
              onClick={() => onChoose(entry)}
            >
              {render(entry, isChosen)}
            </button>
          );
        })}
      </div>
    </div>
  );
}
