/** Compares a look's captures with their baselines. */
import { problem } from '../core/problem.ts';
import { diffLines } from '../core/markup.ts';
import { comparePictures, looksDifferent } from '../core/picture/compare.ts';
import { paintDifference } from '../core/picture/paint.ts';
import type { CaptureState } from '../core/verdict.ts';
import { decodePng, encodePng, sameBytes } from './png.ts';

/** What was approved for a capture. */
export type Baseline = Taken & {
  /** The file it was read from; null for one that is kept in the records only. */
  file: string | null;
};

/** A capture as it is now. */
export type Taken = { png: Buffer; hash: string; fingerprint: string; markup: string[] };

/** Finds the baseline of a capture; `unreadable` when there is one that cannot be used. */
export type BaselineOf = (component: string, look: string, environment: string, capture: string) => Baseline | { unreadable: string } | null;

export type Judged = { state: CaptureState; baseline: string | null; difference: Buffer | null };

/** How a capture stands against its baseline, with a picture of the difference where one can be seen. */
export async function judgeCapture(now: Taken, baseline: Baseline | { unreadable: string } | null): Promise<Judged> {
  if (!baseline) return { state: { kind: 'new' }, baseline: null, difference: null };
  if ('unreadable' in baseline) return { state: { kind: 'unreadable', why: baseline.unreadable }, baseline: null, difference: null };
  const markup = diffLines(baseline.markup, now.markup);
  const samePixels = baseline.hash === now.hash || baseline.png.equals(now.png);
  if (samePixels && markup.length === 0) return { state: { kind: 'same' }, baseline: baseline.hash, difference: null };
  const otherFingerprint = baseline.fingerprint !== now.fingerprint;
  if (samePixels) return { state: { kind: 'changed', picture: null, markup, otherFingerprint }, baseline: baseline.hash, difference: null };
  let from: Awaited<ReturnType<typeof decodePng>>;
  try {
    from = await decodePng(baseline.png);
  } catch (error) {
    return {
      state: {
        kind: 'unreadable',
        why: problem('baseline-corrupt', { file: baseline.file ?? '(in the records)', error: error instanceof Error ? error.message : String(error) }).message,
      },
      baseline: null,
      difference: null,
    };
  }
  const to = await decodePng(now.png);
  const picture = comparePictures(from, to, sameBytes);
  if (!looksDifferent(picture) && markup.length === 0) return { state: { kind: 'same' }, baseline: baseline.hash, difference: null };
  const difference = picture.differing > 0 || looksDifferent(picture) ? await encodePng(paintDifference(from, to, picture)) : null;
  return { state: { kind: 'changed', picture, markup, otherFingerprint }, baseline: baseline.hash, difference };
}
