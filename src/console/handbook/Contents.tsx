/** What the handbook holds, and a field to search it. */
import type { RefObject } from 'react';
import type { HandbookEntry } from '../../core/handbook/page.ts';
import { counted } from '../../core/text/counted.ts';
import { OptionList } from '../parts/OptionList.tsx';
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

function Row({ entry, isChosen }: { entry: HandbookEntry; isChosen: boolean }) {
  return (
    <>
      <span className="flex w-full items-center gap-1.5">
        <span className={`truncate ${isChosen ? 'font-semibold' : ''}`}>{entry.name}</span>
        <span className="flex-1" />
        {entry.verdict && entry.verdict !== 'passed' && <VerdictShape verdict={entry.verdict} size={11} />}
      </span>
      <span className="w-full truncate text-[11px] text-soft">{entry.about || counted(entry.looks, 'look')}</span>
    </>
  );
}

export function Contents({ found, page, wanted, field, onSearch, onOpen }: Props) {
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
      <OptionList
        label="Components"
        entries={found}
        at={found.findIndex(({ component }) => component === page)}
        rowHeight={rowHeight}
        keyOf={({ component }) => component}
        onChoose={({ component }) => onOpen(component)}
        shape="flex flex-col justify-center px-4"
        render={(entry, isChosen) => <Row entry={entry} isChosen={isChosen} />}
        none={<p className="p-4 text-soft">No page has these words.</p>}
      />
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
