/** Verdicts: what one look came to, and what a run of them comes to. */
import type { ConflictSides } from '../baseline/baseline.ts';
import type { Comparison } from '../picture/compare.ts';
import type { Problem } from '../problem/problem.ts';

export type Verdict = 'passed' | 'failed' | 'broken' | 'changed' | 'new';

/** From worst to best: the order in which people want to see them. */
export const verdicts: readonly Verdict[] = ['broken', 'failed', 'changed', 'new', 'passed'];

/** How one capture stands against its baseline. */
export type CaptureState =
  /** As approved; `isElsewhere`: that was with another browser or other fonts. */
  | { kind: 'same'; isElsewhere?: true }
  | { kind: 'new' }
  | {
      kind: 'changed';
      picture: Comparison | null;
      markup: MarkupChange[];
      /** It was approved with another browser or other fonts. */
      otherFingerprint: boolean;
      /** It was compared with the approved moment as this browser draws it. */
      isRedrawn?: boolean;
    }
  /** A merge has left several baselines, and nobody has chosen one yet. */
  | { kind: 'conflict'; sides: ConflictSides }
  /** There is a baseline, and it cannot be read. */
  | { kind: 'unreadable'; why: Problem };

/** A line of markup that is only on one side. */
export type MarkupChange = { side: 'baseline' | 'now'; line: number; text: string };

/** The verdict of a look whose script came to `outcome` and whose captures stand as `captures` say. */
export function judge(outcome: 'passed' | 'failed' | 'broken', captures: readonly CaptureState[]): Verdict {
  if (outcome !== 'passed') return outcome;
  if (captures.some((capture) => capture.kind === 'unreadable')) return 'failed';
  if (captures.some(({ kind }) => kind === 'changed' || kind === 'conflict')) return 'changed';
  if (captures.some((capture) => capture.kind === 'new')) return 'new';
  return 'passed';
}

/** True for what did not come to its end as its script wants it. */
export const hasFailed = ({ verdict }: { verdict: Verdict }): boolean => verdict === 'failed' || verdict === 'broken';

export type Tally = Record<Verdict, number>;

export function tally(list: readonly Verdict[]): Tally {
  const counts: Tally = { passed: 0, failed: 0, broken: 0, changed: 0, new: 0 };
  for (const verdict of list) counts[verdict]++;
  return counts;
}

/** The exit code for a run: 1 when something went wrong or changed, and with `strict` also when something is new. */
export const exitCode = (counts: Tally, strict: boolean): 0 | 1 =>
  counts.failed + counts.broken + counts.changed + (strict ? counts.new : 0) > 0 ? 1 : 0;
