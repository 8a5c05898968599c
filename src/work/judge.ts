/** Compares a look's captures with their baselines. */
import type { Baseline, Taken, Unreadable } from '../core/baseline/baseline.ts';
import { diffLines, perceivedLines } from '../core/moment/markup.ts';
import { looksDifferent } from '../core/picture/compare.ts';
import { problem, type Problem } from '../core/problem/problem.ts';
import type { CaptureState } from '../core/run/verdict.ts';
import type { Comparing } from '../core/settings/comparing.ts';
import { comparePngs } from './compare.ts';

/** What was left out of a baseline has left its traces there. */
const leftOutIn = ({ allowances }: Baseline) => allowances.filter(({ kind }) => kind === 'left-out');

export type Judged = { state: CaptureState; baseline: string | null; difference: Uint8Array | null };

const unreadable = (why: Problem): Judged => ({ state: { kind: 'unreadable', why }, baseline: null, difference: null });

const equalBytes = (a: Uint8Array, b: Uint8Array): boolean => Buffer.compare(a, b) === 0;

/**
 * How a capture stands against its baseline, with a picture of the difference where one can be seen. Where markup is
 * compared it has changed also when only that has, as far as a person perceives it.
 */
export async function judgeCapture(
  now: Taken,
  baseline: Baseline | Unreadable | null,
  compares: Comparing = 'both',
): Promise<Judged> {
  if (!baseline) return { state: { kind: 'new' }, baseline: null, difference: null };
  if ('unreadable' in baseline) return unreadable(baseline.unreadable);
  const same: Judged = { state: { kind: 'same' }, baseline: baseline.hash, difference: null };
  const samePixels = baseline.hash === now.hash || equalBytes(baseline.png, now.png);
  // Where the picture is the same only what can be perceived without it counts.
  const beside = diffLines(perceivedLines(baseline.markup), perceivedLines(now.markup));
  const isBeside = beside.length > 0 && compares !== 'picture';
  if ((samePixels || compares === 'markup') && !isBeside) return same;
  const otherFingerprint = baseline.fingerprint !== now.fingerprint;
  const changed = { kind: 'changed', otherFingerprint } as const;
  if (samePixels) return { ...same, state: { ...changed, markup: beside, picture: null } };
  const compared = await comparePngs({
    before: baseline.png,
    now: now.png,
    isPaintedAnyway: isBeside,
    allowances: [...leftOutIn(baseline), ...now.allowances],
  });
  if ('corrupt' in compared)
    return unreadable(
      problem('baseline-corrupt', { file: baseline.file ?? '(in the records)', error: compared.corrupt }),
    );
  const { picture, difference } = compared;
  const isSeen = looksDifferent(picture);
  if (!isSeen && !isBeside) return same;
  const markup = isSeen ? diffLines(baseline.markup, now.markup) : beside;
  return { state: { ...changed, markup, picture }, baseline: baseline.hash, difference };
}
