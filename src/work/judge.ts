/** Compares a look's captures with their baselines. */
import type { Baseline, Conflicting, Taken, Unreadable } from '../core/baseline/baseline.ts';
import { diffLines, perceivedLines } from '../core/moment/markup.ts';
import type { Allowance } from '../core/picture/allowance.ts';
import { looksDifferent } from '../core/picture/compare.ts';
import { problem, type Problem } from '../core/problem/problem.ts';
import type { CaptureState, MarkupChange } from '../core/run/verdict.ts';
import type { Comparing } from '../core/settings/comparing.ts';
import { comparePngs } from './compare.ts';

export type Judged = {
  state: CaptureState;
  baseline: string | null;
  difference: Uint8Array | null;
  /** The baseline as this browser draws it, where it was compared with that. */
  redrawn: Redrawn | null;
};

/** A picture of an approved moment, by the browser that took the captures. */
export type Redrawn = { png: Uint8Array; hash: string };

export type JudgeOptions = {
  compares: Comparing;
  /** Pictures are compared to the pixel, also those that another browser has taken. */
  isUpgrade: boolean;
  /** Draws the approved moment of the capture again; null where it was not kept. */
  redraw(): Promise<Redrawn | null>;
};

/** What was left out of a baseline has left its traces there. */
const leftOutIn = ({ allowances }: Baseline): Allowance[] => allowances.filter(({ kind }) => kind === 'left-out');

/** What another browser may draw otherwise, where only pictures can be compared. */
const otherBrowser: Allowance = {
  kind: 'anti-aliasing',
  why: 'approved with another browser or other fonts',
  boxes: null,
  upTo: null,
};

const unreadable = (why: Problem): Judged => ({
  state: { kind: 'unreadable', why },
  baseline: null,
  difference: null,
  redrawn: null,
});

const equalBytes = (a: Uint8Array, b: Uint8Array): boolean => Buffer.compare(a, b) === 0;

type Compare = { now: Taken; baseline: Baseline; beside: MarkupChange[]; options: JudgeOptions };

/** What a capture is compared with: the approved picture, or one by this browser of the approved moment. */
type Against = { png: Uint8Array; hash: string; redrawn: Redrawn | null; allowances: Allowance[] };

async function against({ now, baseline, options }: Compare): Promise<Against> {
  const { png, hash } = baseline;
  const allowances = [...leftOutIn(baseline), ...now.allowances];
  const isOwn = baseline.fingerprint === now.fingerprint || options.isUpgrade;
  const redrawn = isOwn ? null : await options.redraw();
  if (redrawn) return { ...redrawn, redrawn, allowances };
  return { png, hash, redrawn: null, allowances: isOwn ? allowances : [...allowances, otherBrowser] };
}

async function judgePictures(compare: Compare): Promise<Judged> {
  const { now, baseline, beside, options } = compare;
  const isElsewhere = baseline.fingerprint !== now.fingerprint;
  const { png, hash, redrawn, allowances } = await against(compare);
  const isSeenAnyway = isElsewhere && options.isUpgrade;
  const same: Judged = {
    state: { kind: 'same', ...(isElsewhere && { isElsewhere }) },
    baseline: baseline.hash,
    difference: null,
    redrawn: null,
  };
  const changed = { kind: 'changed', otherFingerprint: isElsewhere, isRedrawn: redrawn !== null } as const;
  if (equalBytes(png, now.png)) {
    if (beside.length === 0 && !isSeenAnyway) return same;
    return { state: { ...changed, markup: beside, picture: null }, baseline: hash, difference: null, redrawn };
  }
  const isPaintedAnyway = beside.length > 0 || isSeenAnyway;
  const compared = await comparePngs({ before: png, now: now.png, isPaintedAnyway, allowances });
  if ('corrupt' in compared)
    return unreadable(
      problem('baseline-corrupt', { file: baseline.file ?? '(in the records)', error: compared.corrupt }),
    );
  const { picture, difference } = compared;
  const isSeen = looksDifferent(picture);
  if (!isSeen && beside.length === 0 && !isSeenAnyway) return same;
  const markup = isSeen ? diffLines(baseline.markup, now.markup) : beside;
  return { state: { ...changed, markup, picture }, baseline: hash, difference, redrawn };
}

/**
 * How a capture stands against its baseline, with a picture of the difference where one can be seen. Where markup is
 * compared it has changed also when only that has, as far as a person perceives it. What another browser has taken, or
 * one with other fonts, is compared by its moment: where that is equal, so is the capture; otherwise its picture is
 * drawn again by this browser.
 */
export async function judgeCapture(
  now: Taken,
  baseline: Baseline | Unreadable | Conflicting | null,
  options: JudgeOptions,
): Promise<Judged> {
  if (!baseline) return { state: { kind: 'new' }, baseline: null, difference: null, redrawn: null };
  if ('conflict' in baseline) {
    const { conflict: sides } = baseline;
    return { state: { kind: 'conflict', sides }, baseline: sides.ours?.hash ?? null, difference: null, redrawn: null };
  }
  if ('unreadable' in baseline) return unreadable(baseline.unreadable);
  const isElsewhere = baseline.fingerprint !== now.fingerprint;
  // Where the picture is the same only what can be perceived without it counts.
  const markup = diffLines(perceivedLines(baseline.markup), perceivedLines(now.markup));
  const beside = options.compares === 'picture' ? [] : markup;
  const samePixels = baseline.hash === now.hash || equalBytes(baseline.png, now.png);
  const sameMoment = isElsewhere && now.moment !== null && now.moment === baseline.moment;
  const isSame = samePixels || sameMoment || options.compares === 'markup';
  if (isSame && beside.length === 0 && !(isElsewhere && options.isUpgrade)) {
    const state = { kind: 'same', ...(isElsewhere && { isElsewhere }) } as const;
    return { state, baseline: baseline.hash, difference: null, redrawn: null };
  }
  return judgePictures({ now, baseline, beside, options });
}
