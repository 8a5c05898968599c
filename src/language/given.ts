/** What the words of scripts may be given: looked at when they are called, before anything is done on the page. */
import { fail } from '../core/problem/problem.ts';
import { show } from '../core/value/show.ts';

/** What a value has to be, and how that is written; `remedy` ends with an example. */
type Rule = { fits(value: unknown): boolean; remedy: string };

const isText = (value: unknown): boolean => typeof value === 'string';
const isWhole = (value: unknown): boolean => typeof value === 'number' && Number.isInteger(value);

/** Rules that several words share. */
export const name = (example: string): Rule => ({
  fits: (value) => isText(value) || value instanceof RegExp,
  remedy: `Use a text or a pattern: ${example}`,
});
export const text = (example: string): Rule => ({ fits: isText, remedy: `Use a text: ${example}` });
export const whole = (example: string): Rule => ({ fits: isWhole, remedy: `Use a whole number: ${example}` });
export const count = (example: string): Rule => ({
  fits: (value) => isWhole(value) && (value as number) >= 0,
  remedy: `Use a whole number, 0 or more: ${example}`,
});
export const body = (example: string): Rule => ({
  fits: (value) => typeof value === 'function',
  remedy: `Give it a function: ${example}`,
});

/**
 * Refuses a value that a word cannot do anything with. `call` is the word as it is called, such as `the.text(…)`,
 * `entry` the name of the value where it was given by one.
 * @throws ProblemError `bad-step`
 */
export function need(call: string, value: unknown, { fits, remedy }: Rule, entry?: string): void {
  if (!fits(value))
    fail('bad-step', {
      what: `${call} was given ${entry === undefined ? '' : `the ${entry} `}${show(value)}.`,
      remedy,
    });
}
