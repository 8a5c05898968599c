/** What a page shows when it has nothing else to show. */
import { type ReactNode, useEffect, useState } from 'react';
import { ProblemError } from '../../core/problem/problem.ts';

export function Blank({ title, children }: { title: string; children?: ReactNode }) {
  return (
    <div className="grid h-full place-items-center p-8">
      <div className="max-w-[52ch] text-center">
        <svg
          className="mx-auto mb-3 text-rule"
          width="56"
          height="40"
          viewBox="0 0 56 40"
          fill="none"
          stroke="currentColor"
          strokeWidth="3"
          strokeLinecap="round"
          aria-hidden="true"
        >
          <path d="M6 26C16 6 40 6 50 26" />
          <circle r="7" transform="translate(28 25)" fill="currentColor" stroke="none" />
          <path d="M16 37H40" />
        </svg>
        <h2 className="mb-1 text-[15px] font-semibold">{title}</h2>
        <div className="text-soft">{children}</div>
      </div>
    </div>
  );
}

/** What takes longer says how long it has taken, in seconds. */
const longer = 4;

/** While something is on its way. */
export function Waiting({ what }: { what: string }) {
  const [seconds, setSeconds] = useState(0);
  useEffect(() => {
    const timer = setInterval(() => setSeconds((before) => before + 1), 1000);
    return () => clearInterval(timer);
  }, []);
  return (
    <div className="grid h-full place-items-center text-soft" role="status">
      <span className="working">
        {what}
        {seconds >= longer && <span className="ml-2 tabular-nums" aria-hidden="true">{`${seconds} s`}</span>}
      </span>
    </div>
  );
}

/** When something could not be had: what, and what to do. */
export function Trouble({ error }: { error: unknown }) {
  const problem =
    error instanceof ProblemError
      ? error.problem
      : {
          message: error instanceof Error ? error.message : String(error),
          remedy: 'Reload the page. If that does not help, see what sguardo serve prints.',
        };
  return (
    <Blank title={problem.message}>
      <span role="alert">{problem.remedy}</span>
    </Blank>
  );
}
