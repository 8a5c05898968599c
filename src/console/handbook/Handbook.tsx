/** The handbook: every component with its words, props and looks, and the tokens of the project. */
import { useQuery } from '@tanstack/react-query';
import { useRef, useState } from 'react';
import { useSearchParams } from 'react-router';
import type { ProjectInfo } from '../../core/api/api.ts';
import { type HandbookEntry, search } from '../../core/handbook/page.ts';
import { shortName } from '../../core/look/look.ts';
import { service } from '../data.ts';
import { useKeys } from '../keys.ts';
import { Blank, Trouble, Waiting } from '../parts/Blank.tsx';
import { Contents } from './Contents.tsx';
import { Page } from './Page.tsx';
import { Tokens } from './Tokens.tsx';
import { tokensPage } from './tokensPage.ts';
import { useTitle } from '../title.ts';

export function Handbook({ project }: { project: ProjectInfo }) {
  const page = useSearchParams()[0].get('page');
  useTitle(page === null ? 'Handbook' : `Handbook: ${page === tokensPage ? 'Tokens' : shortName(page)}`);
  const contents = useQuery({ queryKey: ['handbook'], queryFn: () => service.handbook() });
  if (contents.isPending) return <Waiting what="Opening the handbook…" />;
  if (contents.isError) return <Trouble error={contents.error} />;
  if (contents.data.length === 0)
    return (
      <Blank title="The handbook is empty">
        It has a page for every component with looks. Draft some with <code className="font-mono">sguardo draft</code>,
        and run them.
      </Blank>
    );
  return <Desk entries={contents.data} project={project} />;
}

function Desk({ entries, project }: { entries: readonly HandbookEntry[]; project: ProjectInfo }) {
  const [query, setQuery] = useSearchParams();
  const [wanted, setWanted] = useState('');
  const field = useRef<HTMLInputElement>(null);
  const found = search(entries, wanted);
  const pages = [...found.map(({ component }) => component), tokensPage];
  const asked = query.get('page');
  const chosen = asked !== null && (asked === tokensPage || entries.some((one) => one.component === asked));
  const page = chosen ? asked : entries[0]!.component;
  const open = (next: string): void => setQuery({ page: next }, { replace: true });
  const move = (by: number): void => {
    const next = pages[pages.indexOf(page) + by];
    if (next !== undefined) open(next);
  };
  useKeys({ ArrowDown: () => move(1), ArrowUp: () => move(-1), '/': () => field.current?.focus() });
  return (
    <div className="grid h-full grid-cols-[minmax(220px,20vw)_1fr]">
      <Contents found={found} page={page} wanted={wanted} field={field} onSearch={setWanted} onOpen={open} />
      {page === tokensPage ? <Tokens /> : <Page key={page} component={page} project={project} onOpen={open} />}
    </div>
  );
}
