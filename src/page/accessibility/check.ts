/** Checks: each looks at the page for whatever breaks some rules, and tells of it. */
import type { RuleId } from '../../core/accessibility/rules.ts';
import type { Scene } from './scene.ts';

/** Tells that an element breaks a rule; `isCertain` is false for what a person has to look at. */
export type Tell = (rule: RuleId, element: Element, what: string, isCertain?: boolean) => void;

export type Check = (scene: Scene, tell: Tell) => void;
