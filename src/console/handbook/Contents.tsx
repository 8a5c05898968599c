/** What the handbook holds, and a field to search it. */
import { useVirtualizer } from '@tanstack/react-virtual';
import { type RefObject, useEffect, useRef } from 'react';
import type { HandbookEntry } from '../../core/handbook/page.ts';
import { counted } from '../../core/text/counted.ts';
import { VerdictShape } from '../parts/Verdict.tsx';
import { tokensPage } from './tokensPage.ts';

type Props = {
  found: readonly HandbookEntry[];
  page: string;
  wanted: string;
  field: RefObject<HTMLInputElement | null>;
  onSearch(text: string): void;
  onOpen(page: string): void;
};

const rowHeight = 42;

export function Contents({ found, page, wanted, field, onSearch, onOpen }: Props) {
  const area = useRef<HTMLDivElement>(null);
  const rows = useVirtualizer({
    count: found.length,
    getScrollElement: () => area.current,
    estimateSize: () => rowHeight,
    overscan: 12,
  });
  const at = found.findIndex(({ component }) => component === page);
  useEffect(() => {
    if (at >= 0) rows.scrollToIndex(at);
  }, [at, rows]);
  return (
    <nav className="flex min-h-0 flex-col border-r border-rule" aria-label="Handbook">
      <div className="shrink-0 border-b border-rule px-4 py-3">
        <h1 className="mb-2 text-[14px] font-semibold">Handbook</h1>
        <input
          ref={field}
          type="search"
          value={wanted}
          onChange={(event) => onSearch(event.target.value)}
          onKeyDown={(event) => {
            if (event.key === 'Enter' && found[0]) onOpen(found[0].component);
            if (event.key === 'Escape') event.currentTarget.blur();
          }}
          placeholder="Search (/)"
          aria-label="Search the handbook"
          className="h-7 w-full rounded-md border border-rule bg-sheet px-2"
        />
      </div>
      <div ref={area} className="min-h-0 flex-1 overflow-y-auto" role="listbox" aria-label="Components">
        {found.length === 0 && <p className="p-4 text-soft">No page has these words.</p>}
        <div className="relative w-full" style={{ height: rows.getTotalSize() }}>
          {rows.getVirtualItems().map(({ index, start }) => {
            const entry = found[index]!;
            const isChosen = entry.component === page;
            return (
              <button
                key={entry.component}
                type="button"
                role="option"
                aria-selected={isChosen}
                tabIndex={-1}
                onClick={() => onOpen(entry.component)}
                style={{ transform: `translateY(${start}px)`, height: rowHeight }}
                className={`absolute left-0 flex w-full flex-col justify-center px-4 text-left ${
                  isChosen ? 'bg-wash' : 'hover:bg-well'
                }`}
              >
                <span className="flex w-full items-center gap-1.5">
                  <span className={`truncate ${isChosen ? 'font-semibold' : ''}`}>{entry.name}</span>
                  <span className="flex-1" />
                  {entry.verdict && entry.verdict !== 'passed' && <VerdictShape verdict={entry.verdict} size={11} />}
                </span>
                <span className="w-full truncate text-[11px] text-soft">
                  {entry.about || counted(entry.looks, 'look')}
                </span>
              </button>
            );
          })}
        </div>
      </div>
      <button
        type="button"
        onClick={() => onOpen(tokensPage)}
        aria-current={page === tokensPage ? 'page' : undefined}
        className={`h-10 shrink-0 border-t border-rule px-4 text-left ${
          page === tokensPage ? 'bg-wash font-semibold' : 'hover:bg-well'
        }`}
      >
        Tokens
      </button>
    </nav>
  );
}
