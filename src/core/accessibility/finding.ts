/** Findings: where a look breaks a rule of accessibility. */
import type { Box } from '../timeline/timeline.ts';
import { severities, type Severity } from './rule.ts';
import { type RuleId, rules } from './rules.ts';

export type Finding = {
  rule: RuleId;
  /** False for what a person has to look at: a machine cannot tell. */
  certain: boolean;
  /** The element for people: `button “Release berth”`. */
  element: string;
  /** What is wrong with it, in words. */
  what: string;
  /** Its id in the moments, and where it is, in CSS pixels of the page. */
  node: number | null;
  box: Box | null;
  /** The step after which it was found. */
  step: number;
};

/** A line of text whose contrast is measured on the picture. */
export type TextLine = Pick<Finding, 'element' | 'node' | 'step'> & {
  box: Box;
  /** What its style says, with the opacity of all around it: red, green, blue from 0 to 255, alpha from 0 to 1. */
  colour: [number, number, number, number];
  /** In CSS pixels. */
  size: number;
  isBold: boolean;
  /** It says something only by its looks: hidden from assistive technology, or a part of something disabled. */
  isAside: boolean;
};

/** What a page tells of its accessibility. */
export type Audit = {
  /** Found on the way to its end. */
  findings: Finding[];
  /** What it shows at its end, and what Tab does in it; null for what is known of an equal page. */
  atEnd: Finding[] | null;
  keyboard: Finding[] | null;
  /** Everything that Tab comes to shows by its style that it has the focus; null where nobody has looked. */
  stylesFocus: boolean | null;
  /** Its text, where `atEnd` is told. */
  lines: TextLine[];
  /** What its look file accepts. */
  accepted: Acceptance[];
};

/** What was decided about a finding: it is `new` as long as nothing was. */
export type Standing =
  | { is: 'new' }
  /** Somebody has said why it stays. */
  | { is: 'accepted'; why: string }
  /** It was there when the project began to look. */
  | { is: 'known'; since: string };

export type StoodFinding = Finding & { standing: Standing };

/** Equal for the same finding of a component, whichever look shows it and whatever else is on the page. */
export const findingKey = ({ rule, element }: Pick<Finding, 'rule' | 'element'>): string => `${rule} ${element}`;

export const severityOf = ({ rule }: Pick<Finding, 'rule'>): Severity => rules[rule].severity;

/** True for a severity that is at least as bad as another. */
export const isAtLeast = (severity: Severity, least: Severity): boolean =>
  severities.indexOf(severity) <= severities.indexOf(least);

/** A finding that somebody accepts: of a rule, and of elements whose description holds a text. */
export type Acceptance = { rule: RuleId; element: string | null; why: string };

/** A finding that was known on a day. */
export type Known = { component: string; rule: RuleId; element: string; since: string };

export function standingOf(
  finding: Finding,
  component: string,
  accepted: readonly Acceptance[],
  known: readonly Known[],
): Standing {
  const accepts = accepted.find(
    ({ rule, element }) => rule === finding.rule && (element === null || finding.element.includes(element)),
  );
  if (accepts) return { is: 'accepted', why: accepts.why };
  const before = known.find(
    (one) => one.component === component && one.rule === finding.rule && one.element === finding.element,
  );
  return before ? { is: 'known', since: before.since } : { is: 'new' };
}

/** The worst first, certain ones before others. */
export const byWeight = (a: Finding, b: Finding): number =>
  severities.indexOf(severityOf(a)) - severities.indexOf(severityOf(b)) ||
  Number(b.certain) - Number(a.certain) ||
  (a.rule < b.rule ? -1 : a.rule > b.rule ? 1 : 0) ||
  a.step - b.step;
