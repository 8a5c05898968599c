/** Where a failing look parts from the last time that it passed, and the edit that did it. */
import { useQuery } from '@tanstack/react-query';
import { Link } from 'react-router';
import type { MarkDifference } from '../../core/cause/failing.ts';
import type { ResultSummary } from '../../core/run/run.ts';
import { service } from '../data.ts';
import { FindEdit } from '../parts/FindEdit.tsx';

/** So many marks are told. */
const mostMarks = 6;

const MarkLine = ({ side, lane, title }: MarkDifference) => (
  <li className={`truncate font-mono text-[11.5px] ${side === 'now' ? 'text-passed' : 'text-failed'}`} title={title}>
    {side === 'now' ? '+' : '−'} {lane}: {title}
  </li>
);

export function Since({ result, onStep }: { result: ResultSummary; onStep(index: number): void }) {
  const since = useQuery({ queryKey: ['since', result.id], queryFn: () => service.since(result.id) });
  if (!since.data) return null;
  const { passed, departure, commits, uncommitted } = since.data;
  if (!passed) return null;
  return (
    <section className="mx-3 my-2 rounded-md border border-rule bg-sheet px-3 py-2" aria-label="Since it passed last">
      <h4 className="font-semibold">
        Since it passed last, in{' '}
        <Link to={`/bench/${passed.result}`} className="hover:text-accent">
          run {passed.run}
        </Link>
      </h4>
      {departure ? (
        <>
          <p className="mt-1">They part at step {departure.step + 1}:</p>
          <button
            type="button"
            className="text-left font-medium hover:text-accent"
            onClick={() => onStep(departure.step)}
          >
            {departure.title}
          </button>
          <p>{departure.what}</p>
          {departure.differences.length > 0 && (
            <ul className="mt-1 list-inside list-disc">
              {departure.differences.map((title) => (
                <li key={title}>{title}</li>
              ))}
            </ul>
          )}
          <ul className="mt-1">
            {departure.marks.slice(0, mostMarks).map((mark) => (
              <MarkLine key={`${mark.side} ${mark.lane} ${mark.title}`} {...mark} />
            ))}
          </ul>
        </>
      ) : (
        <p className="mt-1 text-soft">Every step is as it was then.</p>
      )}
      {commits.length > 0 && (
        <ul className="mt-1 text-soft">
          {commits.slice(0, 5).map(({ id, author, summary }) => (
            <li key={id} className="truncate">
              <span className="font-mono">{id}</span> {summary} · {author}
            </li>
          ))}
        </ul>
      )}
      {uncommitted.length > 0 && (
        <p className="mt-1 truncate text-soft">Not committed yet: {uncommitted.slice(0, 4).join(', ')}</p>
      )}
      <div className="mt-1.5">
        <FindEdit result={result.id} capture={null} pick={([first]) => first} />
      </div>
    </section>
  );
}
