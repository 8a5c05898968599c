/** A problem with all that is known of it: what, what was there instead, where, and what to do. */
import type { Problem } from '../../core/problem/problem.ts';
import { CopyButton } from './CopyButton.tsx';

/** The line of code that a remedy gives, ready to be pasted. */
const lineToPaste = ({ code, remedy }: Problem): string | null =>
  code === 'request-unanswered' ? (/answers: \{.*\}/.exec(remedy)?.[0] ?? null) : null;

type Props = {
  problem: Problem;
  /** What it is about, where nothing around it says so. */
  about?: string;
  /** The file whose source stands beside, if any: the code around the problem's place is not shown twice. */
  shownFile?: string | null;
};

export function ProblemCard({ problem, about, shownFile = null }: Props) {
  const line = lineToPaste(problem);
  return (
    <div className="rounded-md border border-failed/50 bg-failed/7 px-3 py-2" role="alert">
      <p className="font-medium whitespace-pre-line">
        {about && <span className="text-failed">✗ {about}: </span>}
        {problem.message}
      </p>
      {problem.found && problem.found.length > 0 && (
        <>
          <p className="mt-1.5 text-[11px] text-soft">What was there</p>
          <ul className="font-mono text-[11.5px]">
            {problem.found.map((found) => (
              <li key={found}>{found}</li>
            ))}
          </ul>
        </>
      )}
      {problem.frame && (shownFile === null || !problem.place?.startsWith(`${shownFile}:`)) && (
        <pre className="mt-1.5 overflow-x-auto font-mono text-[11px] leading-4">{problem.frame}</pre>
      )}
      {problem.place && <p className="mt-1 font-mono text-[11px] text-soft">{problem.place}</p>}
      <div className="mt-1.5 flex items-start gap-2 text-soft">
        <p className="whitespace-pre-line">→ {problem.remedy}</p>
        {line && <CopyButton text={line} what="the line" />}
      </div>
    </div>
  );
}
