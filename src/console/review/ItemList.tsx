/** The captures to review, in a list of any length. */
import { useVirtualizer } from '@tanstack/react-virtual';
import { useEffect, useRef } from 'react';
import { lookTitle } from '../../core/look/look.ts';
import { VerdictShape } from '../parts/Verdict.tsx';
import { type Item, kindOf } from './items.ts';

type Props = { items: readonly Item[]; at: number; onChoose(index: number): void };

function Row({ item }: { item: Item }) {
  const { result, capture } = item;
  return (
    <>
      <VerdictShape verdict={kindOf(item)} />
      <span className="min-w-0">
        <span className="block truncate font-medium">{lookTitle(result.component, result.look)}</span>
        <span className="block truncate text-[11px] text-soft">
          {kindOf(item)} · {result.environment}
          {capture.name === 'end' ? '' : ` · ${capture.name}`}
        </span>
      </span>
    </>
  );
}

export function ItemList({ items, at, onChoose }: Props) {
  const list = useRef<HTMLDivElement>(null);
  const virtual = useVirtualizer({
    count: items.length,
    getScrollElement: () => list.current,
    estimateSize: () => 48,
    overscan: 6,
  });
  useEffect(() => virtual.scrollToIndex(at), [virtual, at]);
  return (
    <div
      ref={list}
      className="min-h-0 overflow-y-auto border-r border-rule bg-sheet"
      role="listbox"
      aria-label="Captures to review"
    >
      <div className="relative" style={{ height: virtual.getTotalSize() }}>
        {virtual.getVirtualItems().map((row) => (
          <button
            key={row.key}
            type="button"
            role="option"
            aria-selected={row.index === at}
            onClick={() => onChoose(row.index)}
            className={`absolute flex h-12 w-full items-center gap-2.5 border-b border-rule px-3 text-left ${
              row.index === at ? 'bg-wash' : 'hover:bg-well'
            }`}
            style={{ transform: `translateY(${row.start}px)` }}
          >
            <Row item={items[row.index]!} />
          </button>
        ))}
      </div>
    </div>
  );
}
