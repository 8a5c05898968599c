/** What actions may be given beside their target: whatever a script says is looked at before anything is done. */
import { modifierBits } from '../../core/input/keys.ts';
import { fail } from '../../core/problem/problem.ts';
import { nearest } from '../../core/text/nearest.ts';
import { show } from '../../core/value/show.ts';
import { amount, type Rule } from '../../language/given.ts';
import { isTarget } from '../../language/target.ts';

const isNumber = (value: unknown): value is number => typeof value === 'number' && Number.isFinite(value);

const wholeNumber = (least: number, most: number): Rule => ({
  fits: (value) => isNumber(value) && Number.isInteger(value) && value >= least && value <= most,
  wanted: `a whole number from ${least} to ${most}`,
});

const numberWithin = (least: number, most: number): Rule => ({
  fits: (value) => isNumber(value) && value >= least && value <= most,
  wanted: `a number from ${least} to ${most}`,
});

const oneOf = (...values: string[]): Rule => ({
  fits: (value) => values.includes(value as string),
  wanted: values.map((value) => `'${value}'`).join(' or '),
});

const modifiers: Rule = {
  fits: (value) => typeof value === 'string' && value.split('+').every((name) => Object.hasOwn(modifierBits, name)),
  wanted: "Control, Shift, Alt or Meta, joined with +, as in 'Control+Shift'",
};

/** What each option of each action may be. */
const rules = {
  click: {
    at: amount,
    button: oneOf('left', 'middle', 'right'),
    holding: modifiers,
    times: wholeNumber(1, 3),
  },
  hover: { at: amount },
  press: { times: wholeNumber(1, 1000), held: numberWithin(0, 600_000) },
  drag: { at: amount, from: amount, holding: modifiers, held: numberWithin(0, 600_000) },
  scroll: { by: amount, to: oneOf('top', 'bottom', 'left', 'right') },
  touch: { at: amount, by: amount, times: wholeNumber(1, 10), held: numberWithin(0, 600_000) },
} as const satisfies Record<string, Record<string, Rule>>;

/** @throws ProblemError `bad-step`, `look-entry` for an option that an action does not have, or cannot be */
export function checkOptions(action: keyof typeof rules, options: unknown): void {
  if (isTarget(options))
    fail('bad-step', { what: `${action}(…) takes one target, but was given two.`, remedy: 'Call it once for each.' });
  if (typeof options !== 'object' || options === null)
    fail('bad-step', {
      what: `${action}(…) was given ${show(options)} for its options.`,
      remedy: `Use an object with any of: ${Object.keys(rules[action]).join(', ')}.`,
    });
  const known: Record<string, Rule> = rules[action];
  for (const [entry, value] of Object.entries(options as object)) {
    const rule = Object.hasOwn(known, entry) ? known[entry] : undefined;
    if (!rule) {
      const names = Object.keys(known);
      fail('look-entry', {
        where: `What ${action}(…) was given`,
        entry,
        near: nearest(entry, names) ?? '',
        known: names.join(', '),
      });
    }
    if (value !== undefined && !rule!.fits(value))
      fail('bad-step', {
        what: `${action}(…) was given the ${entry} ${show(value)}.`,
        remedy: `Use ${rule!.wanted}.`,
      });
  }
}

/** @throws ProblemError `bad-step` for what is no scale or no size */
export function checkScale(scale: unknown): void {
  if (numberWithin(0.01, 100).fits(scale)) return;
  fail('bad-step', {
    what: `pinch(…) was given the scale ${show(scale)}.`,
    remedy: 'Use a number: pinch(target, { scale: 2 }) moves two fingers apart, { scale: 0.5 } together.',
  });
}

export function checkSize(size: unknown): void {
  const side = wholeNumber(50, 8000);
  if (amount.fits(size) && (size as number[]).every((one) => side.fits(one))) return;
  fail('bad-step', {
    what: `resize(…) was given ${show(size)}.`,
    remedy: 'Use a width and a height in whole pixels from 50 to 8000: resize([360, 640])',
  });
}
