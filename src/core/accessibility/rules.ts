/**
 * The rules of accessibility: what each is called, how bad it is, which criterion of WCAG 2.2 stands behind it, why it
 * matters and what to do. How a page is found to break them is in src/page/accessibility; contrast is measured here.
 */
import { nameRules } from './nameRules.ts';
import { reachRules } from './reachRules.ts';
import { roleRules } from './roleRules.ts';
import type { Rule } from './rule.ts';
import { structureRules } from './structureRules.ts';
import { textRules } from './textRules.ts';

/** All of them, by their ids. */
export const rules = { ...nameRules, ...roleRules, ...structureRules, ...reachRules, ...textRules } as const;

export type RuleId = keyof typeof rules;

export const isRule = (text: string): text is RuleId => Object.hasOwn(rules, text);

export const ruleOf = (id: RuleId): Rule => rules[id];

/** Where a criterion is explained. */
export const criterionUrl = (criterion: string): string => `https://www.w3.org/TR/WCAG22/#${anchors[criterion] ?? ''}`;

const anchors: Readonly<Record<string, string>> = {
  '1.1.1': 'non-text-content',
  '1.2.2': 'captions-prerecorded',
  '1.3.1': 'info-and-relationships',
  '1.3.5': 'identify-input-purpose',
  '1.4.1': 'use-of-color',
  '1.4.2': 'audio-control',
  '1.4.3': 'contrast-minimum',
  '1.4.4': 'resize-text',
  '1.4.12': 'text-spacing',
  '2.1.1': 'keyboard',
  '2.1.2': 'no-keyboard-trap',
  '2.2.2': 'pause-stop-hide',
  '2.3.3': 'animation-from-interactions',
  '2.4.3': 'focus-order',
  '2.4.4': 'link-purpose-in-context',
  '2.4.6': 'headings-and-labels',
  '2.4.7': 'focus-visible',
  '2.5.3': 'label-in-name',
  '2.5.8': 'target-size-minimum',
  '3.1.2': 'language-of-parts',
  '3.3.1': 'error-identification',
  '3.3.2': 'labels-or-instructions',
  '4.1.1': 'parsing',
  '4.1.2': 'name-role-value',
};
