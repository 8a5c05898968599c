/**
 * Two sets of measurements: the ratio of their medians, with its interval by the percentile bootstrap (Efron and
 * Tibshirani 1993). What lies within the noise is no difference.
 */
import { numbersFrom } from '../steady/chance.ts';

export type Ratio = {
  before: number;
  now: number;
  ratio: number;
  /** 95 of 100 such comparisons come out between these. */
  from: number;
  to: number;
  /** The interval leaves 1 out, and the change is worth a word. */
  isDifferent: boolean;
};

export const medianOf = (values: readonly number[]): number => {
  const sorted = [...values].sort((a, b) => a - b);
  const middle = sorted.length >> 1;
  return sorted.length % 2 === 1 ? sorted[middle]! : (sorted[middle - 1]! + sorted[middle]!) / 2;
};

const resamples = 2000;

/** Fewer measurements on a side say nothing. */
export const leastMeasured = 3;

/** Less of a change is nothing that anybody would act on: a share, and milliseconds. */
const leastShare = 0.1;
const leastTime = 1;

/** Compares measurements; null where there are too few. Equal ones always come out the same. */
export function compareTimes(before: readonly number[], now: readonly number[]): Ratio | null {
  if (before.length < leastMeasured || now.length < leastMeasured) return null;
  const draw = numbersFrom(before.length * 1000 + now.length);
  const drawn = (values: readonly number[]): number => medianOf(values.map(() => values[draw(values.length)]!));
  // Where nothing was spent a ratio has no meaning: a hundredth of a millisecond stands for it.
  const ratioOf = (a: number, b: number): number => Math.max(b, 0.01) / Math.max(a, 0.01);
  const ratios = Array.from({ length: resamples }, () => ratioOf(drawn(before), drawn(now))).sort((a, b) => a - b);
  const [was, is] = [medianOf(before), medianOf(now)];
  const [from, to] = [ratios[Math.floor(resamples * 0.025)]!, ratios[Math.floor(resamples * 0.975)]!];
  const ratio = ratioOf(was, is);
  const isWorthIt = Math.abs(ratio - 1) >= leastShare && Math.abs(is - was) >= leastTime;
  return { before: was, now: is, ratio, from, to, isDifferent: isWorthIt && (from > 1 || to < 1) };
}
