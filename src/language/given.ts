/** What look files may give: looked at when it is given, before anything is done on a page. */
import { fail } from '../core/problem/problem.ts';
import { counted } from '../core/text/counted.ts';
import { nearest } from '../core/text/nearest.ts';
import { show } from '../core/value/show.ts';

/** What a value has to be, and that in words, which say how it is written. */
export type Rule = { fits(value: unknown): boolean; wanted: string };

const isText = (value: unknown): boolean => typeof value === 'string';
const isWhole = (value: unknown): boolean => typeof value === 'number' && Number.isInteger(value);

/** Rules that several words share; each is given an example. */
export const name = (example: string): Rule => ({
  fits: (value) => isText(value) || value instanceof RegExp,
  wanted: `a text or a pattern: ${example}`,
});
export const text = (example: string): Rule => ({ fits: isText, wanted: `a text: ${example}` });
export const whole = (example: string): Rule => ({ fits: isWhole, wanted: `a whole number: ${example}` });
export const count = (example: string): Rule => ({
  fits: (value) => isWhole(value) && (value as number) >= 0,
  wanted: `a whole number, 0 or more: ${example}`,
});
export const body = (example: string): Rule => ({
  fits: (value) => typeof value === 'function',
  wanted: `a function: ${example}`,
});
export const milliseconds = (example: string): Rule => ({
  fits: (value) => typeof value === 'number',
  wanted: `milliseconds: ${example}`,
});
export const amount: Rule = {
  fits: (value) => Array.isArray(value) && value.length === 2 && value.every(Number.isFinite),
  wanted: 'two numbers of pixels, [x, y]',
};
export const record = (example: string): Rule => ({
  fits: (value) => typeof value === 'object' && value !== null && !Array.isArray(value),
  wanted: `an object: ${example}`,
});

/** True for a target, which this file cannot know: targets are made with its help. */
const isTarget = (value: unknown): boolean => typeof value === 'object' && value !== null && 'isTarget' in value;

/** A value in words: of a target, what it describes. */
const shown = (value: unknown): string => (isTarget(value) ? String(value) : show(value));

/**
 * Refuses a value that a word cannot do anything with. `call` is the word as it is called, such as `the.text(…)`,
 * `entry` the name of the value where it was given by one.
 * @throws ProblemError `bad-step`
 */
export function need(call: string, value: unknown, { fits, wanted }: Rule, entry?: string): void {
  if (fits(value)) return;
  const of = entry === undefined ? '' : `the ${entry} `;
  fail('bad-step', { what: `${call} was given ${of}${shown(value)}.`, remedy: `Use ${wanted}.` });
}

/**
 * Refuses entries that nothing looks at. `where` begins a sentence, as “What capture(…) was given”; `calledElsewhere`
 * are names that known entries have in other libraries.
 * @throws ProblemError `look-entry`
 */
export function needKnown(
  where: string,
  value: object,
  known: readonly string[],
  calledElsewhere: Readonly<Record<string, string>> = {},
): void {
  const entry = Object.keys(value).find((one) => !known.includes(one));
  if (entry === undefined) return;
  const meant = Object.hasOwn(calledElsewhere, entry) ? calledElsewhere[entry]! : '';
  fail('look-entry', { where, entry, near: nearest(entry, known) ?? meant, known: known.join(', ') });
}

/**
 * Refuses options that are no record of the known entries.
 * @throws ProblemError `bad-step`, `look-entry`
 */
export function needOptions(call: string, options: unknown, known: readonly string[], example: string): void {
  need(call, options, record(example), 'options');
  needKnown(`What ${call} was given`, options as object, known);
}

/**
 * Refuses more values than a word looks at: whoever writes one means something by it.
 * @throws ProblemError `bad-step`
 */
export function needNoMore(call: string, args: readonly unknown[], most: number, remedy?: string): void {
  if (args.length <= most) return;
  const takes = most === 0 ? 'nothing' : counted(most, 'value');
  fail('bad-step', {
    what: `${call} takes ${takes}, but was given ${args.map(shown).join(', ')}.`,
    remedy: remedy ?? (isTarget(args[most]) ? 'Call it once for each.' : `Leave out ${shown(args[most])}.`),
  });
}

/** The same word, which refuses more values than it takes. @throws ProblemError `bad-step` when it is called */
export const taking = <F extends (...args: never[]) => unknown>(
  most: number,
  word: string,
  carryOut: F,
  remedy?: string,
): F =>
  ((...args: never[]) => {
    needNoMore(`${word}(…)`, args, most, remedy);
    return carryOut(...args);
  }) as F;
