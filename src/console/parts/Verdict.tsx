/** A verdict by shape and word; its colour only repeats what they say. */
import type { Verdict as VerdictName } from '../../core/run/verdict.ts';

const colours: Record<VerdictName, string> = {
  passed: 'text-passed',
  failed: 'text-failed',
  broken: 'text-broken',
  changed: 'text-changed',
  new: 'text-new',
};

const shapes: Record<VerdictName, React.ReactNode> = {
  passed: <path d="M2.5 7.5 5.5 10.5 11.5 3.5" />,
  failed: <path d="M3 3 11 11M11 3 3 11" />,
  broken: <path d="M7 1.5 13 12.5H1ZM7 5.5V8.5M7 10.4V10.6" />,
  changed: <path d="M2 4.5H12M2 9.5H12M9.5 1.5 4.5 12.5" />,
  new: <path d="M7 2V12M2 7H12" />,
};

export function VerdictShape({ verdict, size = 13 }: { verdict: VerdictName; size?: number }) {
  return (
    <svg
      className={`shrink-0 ${colours[verdict]}`}
      width={size}
      height={size}
      viewBox="0 0 14 14"
      fill="none"
      stroke="currentColor"
      strokeWidth="1.9"
      strokeLinecap="round"
      strokeLinejoin="round"
      aria-hidden="true"
    >
      {shapes[verdict]}
    </svg>
  );
}

export function Verdict({ verdict }: { verdict: VerdictName }) {
  return (
    <span className={`inline-flex items-center gap-1 font-medium ${colours[verdict]}`}>
      <VerdictShape verdict={verdict} />
      {verdict}
    </span>
  );
}
