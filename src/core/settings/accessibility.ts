/** What findings of accessibility come to in a project. */
import type { Acceptance } from '../accessibility/finding.ts';
import type { Severity } from '../accessibility/rule.ts';
import type { RuleId } from '../accessibility/rules.ts';

export type AccessibilityConfig = {
  /**
   * New findings of this severity and worse fail their looks, as far as they are certain; `never` fails none. Default:
   * `severe` once the project keeps what is known (`sguardo accessibility --adopt`), and `never` until then.
   */
  failsOn?: Severity | 'never';
  /** Findings that stay, each with a reason; `element` is a part of the description of the elements that are meant. */
  accept?: { rule: RuleId; element?: string; why: string }[];
};

export type AccessibilitySettings = { failsOn: Severity | 'never' | null; accepted: Acceptance[] };
