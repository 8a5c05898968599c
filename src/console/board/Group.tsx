/** The heading of a component or a folder: what is in it stands at, and whether it is folded. */
import { verdicts } from '../../core/run/verdict.ts';
import { VerdictShape } from '../parts/Verdict.tsx';
import type { GroupRow } from './layout.ts';

export const groupHeight = 38;

/** How far what is in a folder is set in, in pixels. */
const indent = 16;

export type GroupProps = { group: GroupRow; isChosen: boolean; onFold: (isFolded: boolean) => void };

const Chevron = ({ isFolded }: { isFolded: boolean }) => (
  <svg
    width="10"
    height="10"
    viewBox="0 0 10 10"
    fill="none"
    stroke="currentColor"
    strokeWidth="1.6"
    strokeLinecap="round"
    strokeLinejoin="round"
    className={`shrink-0 text-soft ${isFolded ? '' : 'rotate-90'}`}
    aria-hidden="true"
  >
    <path d="M3.5 1.5 7 5 3.5 8.5" />
  </svg>
);

function Counts({ counts }: { counts: GroupRow['tally'] }) {
  const found = verdicts.filter((verdict) => counts[verdict] > 0);
  // What is left out stands at nothing.
  if (found.length === 0) return null;
  return (
    <span
      className="flex shrink-0 items-center gap-2 text-soft tabular-nums"
      role="img"
      aria-label={found.map((verdict) => `${counts[verdict]} ${verdict}`).join(', ')}
    >
      {found.map((verdict) => (
        <span key={verdict} className="inline-flex items-center gap-1" title={`${counts[verdict]} ${verdict}`}>
          <VerdictShape verdict={verdict} size={11} />
          {counts[verdict]}
        </span>
      ))}
    </span>
  );
}

export function Group({ group, isChosen, onFold }: GroupProps) {
  const { kind, name, file, depth, isFolded } = group;
  const Heading = depth === 0 ? 'h2' : 'h3';
  return (
    <Heading className="flex items-end pb-1.5" style={{ height: groupHeight, paddingLeft: depth * indent }}>
      <button
        type="button"
        aria-expanded={!isFolded}
        onClick={() => onFold(!isFolded)}
        className={`flex min-w-0 flex-1 items-center gap-2 rounded px-1 text-left ${
          isChosen ? 'ring-2 ring-accent' : ''
        }`}
      >
        <Chevron isFolded={isFolded} />
        <span className={`shrink-0 text-[13.5px] ${kind === 'component' ? 'font-semibold' : 'font-mono text-soft'}`}>
          {kind === 'component' ? name : `${name}/`}
        </span>
        {file && <span className="truncate font-mono text-[11px] text-soft">{file}</span>}
        <span className="min-w-4 flex-1 border-b border-rule" />
        <Counts counts={group.tally} />
      </button>
    </Heading>
  );
}
