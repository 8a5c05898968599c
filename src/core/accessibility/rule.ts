/** What a rule of accessibility is: what it is called, how bad it is to break it, why it matters and what to do. */

export const severities = ['severe', 'moderate', 'minor'] as const;

/** `severe` keeps people from using something, `moderate` makes it hard, `minor` is untidy. */
export type Severity = (typeof severities)[number];

export type Rule = {
  severity: Severity;
  /** Of WCAG 2.2, or null for what only WAI-ARIA or HTML ask. */
  criterion: string | null;
  title: string;
  why: string;
  fix: string;
};

/** A rule, in the order of its type. */
export const rule = (severity: Severity, criterion: string | null, title: string, why: string, fix: string): Rule => ({
  severity,
  criterion,
  title,
  why,
  fix,
});

/** Why rules of attributes matter. */
export const ignored = 'Browsers ignore it, so what was meant is not told.';

/** Why rules of what holds what matter. */
export const broken = 'Assistive technology relies on that structure to tell people where they are.';
