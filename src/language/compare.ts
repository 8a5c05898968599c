/** What of a look's captures is compared with their baselines. */
import type { Allowing, Comparing } from '../core/settings/comparing.ts';
import { isTarget, type Target } from './target.ts';
import type { Rule } from './world.ts';

/** What counts as a change, and what is passed over: always with the reason for it. */
export type Compare = {
  /** What has to be as approved: the picture, the markup, or both. Default `both`. */
  what?: Comparing;
  /**
   * Parts that do not count, by target or selector: `[{ target: the.marked('clock'), why: 'shows the time' }]`. They
   * are hatched wherever the picture is shown.
   */
  leaveOut?: { target: Target | string; why: string }[];
  /**
   * Small differences that are accepted: `'anti-aliasing'` for edges that are smoothed otherwise, or a distance of
   * colours (0 to 1) in one part: `{ upTo: 0.02, in: the.css('canvas'), why: 'drawn by the graphics card' }`.
   */
  tolerate?: ('anti-aliasing' | { upTo: number; in: Target | string; why: string })[];
};

const isRecord = (value: unknown): value is Record<string, unknown> =>
  typeof value === 'object' && value !== null && !Array.isArray(value);

const hasOnly = (value: Record<string, unknown>, keys: readonly string[]): boolean =>
  Object.keys(value).every((key) => keys.includes(key));

const isReason = (value: unknown): boolean => typeof value === 'string' && value.trim() !== '';
const isPlace = (value: unknown): boolean => isTarget(value) || isReason(value);

const isLeftOut = (value: unknown): boolean =>
  isRecord(value) && hasOnly(value, ['target', 'why']) && isPlace(value.target) && isReason(value.why);

const isTolerated = (value: unknown): boolean =>
  value === 'anti-aliasing' ||
  (isRecord(value) &&
    hasOnly(value, ['upTo', 'in', 'why']) &&
    typeof value.upTo === 'number' &&
    value.upTo > 0 &&
    value.upTo <= 1 &&
    isPlace(value.in) &&
    isReason(value.why));

const isListOf = (value: unknown, fits: (one: unknown) => boolean): boolean =>
  value === undefined || (Array.isArray(value) && value.every(fits));

/** What `compare` has to be. */
export const compareRule: Rule = [
  (value) =>
    isRecord(value) &&
    hasOnly(value, ['what', 'leaveOut', 'tolerate']) &&
    (value.what === undefined || ['both', 'picture', 'markup'].includes(value.what as string)) &&
    isListOf(value.leaveOut, isLeftOut) &&
    isListOf(value.tolerate, isTolerated),
  "{ what: 'picture', leaveOut: [{ target: the.marked('clock'), why: 'shows the time' }], " +
    "tolerate: ['anti-aliasing', { upTo: 0.02, in: the.css('canvas'), why: 'drawn by the graphics card' }] }, " +
    'each entry optional and each exception with a reason',
];

/** A part of the page that is compared otherwise. */
export type Part = Omit<Allowing, 'target'> & { target: Target | string | null };

/** The exceptions of a `compare`, one form for all. */
export const partsOf = ({ leaveOut = [], tolerate = [] }: Compare): Part[] => [
  ...leaveOut.map(({ target, why }): Part => ({ kind: 'left-out', target, why, upTo: null })),
  ...tolerate.map(
    (one): Part =>
      one === 'anti-aliasing'
        ? { kind: 'anti-aliasing', target: null, why: 'anti-aliasing', upTo: null }
        : { kind: 'difference', target: one.in, why: one.why, upTo: one.upTo },
  ),
];
