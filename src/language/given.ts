/** What look files may give: looked at when it is given, before anything is done on a page. */
import { fail } from '../core/problem/problem.ts';
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
export const record = (example: string): Rule => ({
  fits: (value) => typeof value === 'object' && value !== null && !Array.isArray(value),
  wanted: `an object: ${example}`,
});

/**
 * Refuses a value that a word cannot do anything with. `call` is the word as it is called, such as `the.text(…)`,
 * `entry` the name of the value where it was given by one.
 * @throws ProblemError `bad-step`
 */
export function need(call: string, value: unknown, { fits, wanted }: Rule, entry?: string): void {
  if (fits(value)) return;
  const of = entry === undefined ? '' : `the ${entry} `;
  fail('bad-step', { what: `${call} was given ${of}${show(value)}.`, remedy: `Use ${wanted}.` });
}
