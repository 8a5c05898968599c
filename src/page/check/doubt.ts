/** Checks that may check nothing: of the absence of what was never seen, and such as held before anything was done. */
import { neverSeenNote, nothingDoneNote } from '../../core/problem/notes.ts';
import { readable } from '../../core/text/folded.ts';
import type { Step } from '../../core/timeline/timeline.ts';
import type { Answer } from '../../language/answer.ts';
import type { Check, TargetClaim } from '../../language/command.ts';
import type { Spy } from '../../language/spy.ts';
import { inCode, isTarget, type Query, type Target } from '../../language/target.ts';
import { isElement } from '../act/element.ts';
import { elementsIn, findAll } from '../act/find.ts';
import { matchesName, roleOf } from '../act/names.ts';
import { markAttribute } from '../host/settings.ts';
import { followTouched, formerRoles, formerTexts, isAsItWas, isUntouched, removedNodes } from '../record/history.ts';
import type { Recording } from '../record/recording.ts';

type Absence = { step: Step; target: Target };

/** Code of targets that were found in the look. */
let seen = new Set<string>();
let absences: Absence[] = [];
let script = { actions: 0, checks: 0, held: 0, first: '', callsBefore: new Map<Spy | Answer, number>() };

/** A look begins. */
export function forgetDoubts(): void {
  seen = new Set();
  absences = [];
  beginScript();
}

/** A script begins: what counts is what it does itself. */
export function beginScript(): void {
  script = { actions: 0, checks: 0, held: 0, first: '', callsBefore: new Map() };
}

/** An action begins. */
export function actionBegins(title: string, subjects: readonly (Spy | Answer)[]): void {
  if (script.actions++ > 0) return;
  script.first = title;
  for (const subject of subjects) script.callsBefore.set(subject, subject.calls.length);
  followTouched();
}

/** A target was found, and with it whatever it lies in or holds. */
export function sighted(target: Target): void {
  seen.add(inCode(target));
  if (target.scope) sighted(target.scope);
}

/** True when an element that is gone may have been what is asked for: its attributes and texts are all that is left. */
function mayHaveBeen(element: Element, asked: Query): boolean {
  if (asked.by === 'css') {
    try {
      return element.matches(asked.selector);
    } catch {
      return true;
    }
  }
  if (asked.by === 'marked') return element.getAttribute(markAttribute()) === asked.mark;
  if (asked.by === 'role' && roleOf(element) !== asked.role && !formerRoles(element).has(asked.role)) return false;
  const { name } = asked;
  if (name === undefined) return true;
  const texts = [element.textContent ?? '', ...element.getAttributeNames().map((key) => element.getAttribute(key)!)];
  return texts.some((text) => matchesName(readable(text), name));
}

const removed = (): Element[] =>
  removedNodes()
    .filter(isElement)
    .flatMap((root) => [root, ...root.querySelectorAll('*')]);

/** True when something is gone that may have been what a target describes: there were more of them. */
const wasRemoved = ({ query }: Target): boolean => removed().some((one) => mayHaveBeen(one, query));

/** True for a target that means whatever stands in some place. */
const isByPlace = ({ query, scope, narrowed }: Target): boolean =>
  narrowed.some((one) => one.keep === 'nth' || (isTarget(one.what) && isByPlace(one.what))) ||
  (query.by === 'css' && /:(nth-|first-|last-|only-|has\()|[+~]/.test(query.selector)) ||
  (scope !== null && isByPlace(scope));

/** True when something was there that may have been what a target describes, or is there and cannot be seen. */
function wasThere({ query }: Target): boolean {
  const all = [...elementsIn(document), ...removed()];
  if (all.some((one) => mayHaveBeen(one, query))) return true;
  const name = 'name' in query ? query.name : undefined;
  const texts = [...formerTexts(), ...removedNodes().map((node) => node.textContent ?? '')];
  return name !== undefined && texts.some((text) => matchesName(readable(text), name));
}

const isAbsence = (claim: TargetClaim, isNot: boolean): boolean =>
  (claim.is === 'absent' && !isNot) || (claim.is === 'visible' && isNot) || (claim.is === 'counted' && claim.n === 0);

/** Claims of which no mutation tells whether they held before. */
const unknowable: readonly TargetClaim['is'][] = ['focused', 'style', 'within', 'before'];

function heldBefore(check: Check, holdsFor: (calls: number) => Promise<boolean>): boolean | Promise<boolean> {
  if (script.actions === 0) return true;
  if (check.of === 'calls') return holdsFor(script.callsBefore.get(check.subject) ?? 0);
  if (check.of !== 'target' || unknowable.includes(check.claim.is)) return false;
  if (isUntouched()) return check.claim.is !== 'value';
  // What is not there now may have been, in whatever was touched; another one may have stood in its place.
  if (isByPlace(check.target) || wasRemoved(check.target)) return false;
  const found = findAll(check.target);
  return found.length > 0 && check.claim.is !== 'counted' && found.every(isAsItWas);
}

/** A check has held at the first try. `holdsFor` says whether it held when there were so many calls. */
export async function heldAtOnce(
  check: Check,
  step: Step,
  holdsFor: (calls: number) => Promise<boolean>,
): Promise<void> {
  script.checks++;
  if (await heldBefore(check, holdsFor)) script.held++;
  if (check.of !== 'target' || !isAbsence(check.claim, check.isNot)) return;
  if (findAll(check.target).length === 0 && !wasThere(check.target)) absences.push({ step, target: check.target });
}

/** A check has held after some time: it did not from the start. */
export const heldLater = (): void => void script.checks++;

/** What is to be said of the checks of a look that has ended. */
export function tellDoubts(recording: Recording): void {
  for (const { step, target } of absences) {
    if (!isTarget(target) || seen.has(inCode(target)) || findAll(target).length > 0) continue;
    recording.amend(step, { doubt: 'never seen: this may check nothing' });
    recording.note(neverSeenNote(step.title));
  }
  const { actions, checks, held, first } = script;
  if (actions > 0 && checks > 0 && held === checks) recording.note(nothingDoneNote(checks, first));
}
