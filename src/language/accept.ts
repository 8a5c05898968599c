/** Findings of accessibility that the author of a look accepts, each with a reason. */
import { isRule, rules } from '../core/accessibility/rules.ts';
import type { Rule } from './world.ts';

export type Accept = {
  /** The rule's name, such as `text-has-contrast`. */
  rule: string;
  /** Part of the description of the elements that are meant, such as `button “Release”`; all when it is left out. */
  element?: string;
  why: string;
};

const isText = (value: unknown): boolean => typeof value === 'string' && value.trim() !== '';

/** True for one acceptance. */
export const isAccept = (value: unknown): value is Accept => {
  if (typeof value !== 'object' || value === null) return false;
  const { rule, element, why, ...rest } = value as Record<string, unknown>;
  const isKnown = typeof rule === 'string' && isRule(rule);
  return isKnown && isText(why) && (element === undefined || isText(element)) && Object.keys(rest).length === 0;
};

/** What `accept` has to be. */
export const acceptRule: Rule = [
  (value) => Array.isArray(value) && value.every(isAccept),
  "a list as in [{ rule: 'text-has-contrast', element: 'button “Release”', why: 'the brand wants it' }]; element is " +
    `optional, and rules are: ${Object.keys(rules).join(', ')}`,
];
