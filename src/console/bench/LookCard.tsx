/** What there is to know about the look as a whole: its captures, notes and history. */
import { Link } from 'react-router';
import { inOrder } from '../../core/problem/notes.ts';
import type { ResultSummary } from '../../core/run/run.ts';
import { service, useHistory } from '../data.ts';
import { day } from '../parts/day.ts';
import { NoteCard } from '../parts/NoteCard.tsx';
import { Verdict } from '../parts/Verdict.tsx';

const words = { approve: 'Approved', adopt: 'Taken in', reject: 'Rejected', undo: 'Taken back' } as const;

/** Where the whole history of a look is. */
const historyPath = ({ component, look, environment }: ResultSummary): string =>
  `/history?${new URLSearchParams({ component, look, environment })}`;

export function LookCard({ result }: { result: ResultSummary }) {
  const history = useHistory(result);
  return (
    <div className="flex flex-col gap-3 p-3">
      {inOrder(result.notes).map((note) => (
        <NoteCard key={note} note={note} />
      ))}
      <section>
        <h2 className="mb-1 text-[11px] font-semibold text-soft">Captures</h2>
        {result.captures.length === 0 && <p className="text-soft">None.</p>}
        <ul className="flex flex-wrap gap-2">
          {result.captures.map((capture) => (
            <li key={capture.name} className="w-28">
              <a
                href={service.pictureUrl(capture.hash)}
                target="_blank"
                rel="noreferrer"
                className="checks flex h-16 items-center justify-center overflow-hidden rounded border border-rule"
              >
                <img src={service.pictureUrl(capture.hash)} alt={`Capture ${capture.name}`} className="max-h-full" />
              </a>
              <span className="block truncate text-[11px]">
                {capture.name}{' '}
                <span className="text-soft">
                  {capture.decision ? words[capture.decision.kind].toLowerCase() : capture.state.kind}
                </span>
              </span>
            </li>
          ))}
        </ul>
      </section>
      <section>
        <h2 className="mb-1 flex items-baseline justify-between text-[11px] font-semibold text-soft">
          History
          <Link to={historyPath(result)} className="font-normal text-accent underline">
            All, and compare any two
          </Link>
        </h2>
        <ul className="flex flex-col gap-0.5">
          {(history.data?.decisions ?? []).slice(0, 4).map((decision) => (
            <li key={`d${decision.id}`} className="text-[11.5px]">
              <span className="font-medium">{words[decision.kind]}</span> {decision.capture} by {decision.who}
              <span className="text-soft"> · {day(decision.at)}</span>
              {decision.why && <span className="block pl-3 text-soft">“{decision.why}”</span>}
              {decision.fixer && <span className="block pl-3 text-soft">To be fixed by {decision.fixer}</span>}
            </li>
          ))}
          {(history.data?.results ?? []).slice(0, 12).map((one) => (
            <li key={one.id}>
              <Link
                to={`/bench/${one.id}`}
                className={`flex items-center gap-3 rounded px-1 hover:bg-well ${
                  one.id === result.id ? 'bg-wash' : ''
                }`}
              >
                <span className="w-20">
                  <Verdict verdict={one.verdict} />
                </span>
                <span className="text-soft tabular-nums">
                  run {one.run}
                  {one.repetition > 1 ? `, repetition ${one.repetition}` : ''}
                </span>
                <span className="text-soft tabular-nums">{one.took} ms</span>
              </Link>
            </li>
          ))}
        </ul>
      </section>
    </div>
  );
}
