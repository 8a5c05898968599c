/** What is said of the elements that a target describes. */
import { fail } from '../../core/problem/problem.ts';
import { nearest } from '../../core/text/nearest.ts';
import type { Box, Step } from '../../core/timeline/timeline.ts';
import { matches } from '../../core/value/equal.ts';
import type { TargetClaim } from '../../language/command.ts';
import { roles } from '../../language/roles.ts';
import type { Name, Target } from '../../language/target.ts';
import { ariaOf } from '../act/aria.ts';
import { boxOf, editContextOf, isInput, isSelect, isTextArea } from '../act/element.ts';
import { elementsIn, findAll } from '../act/find.ts';
import { handleOf, whyOutOfReach } from '../act/handle.ts';
import { contentOf, describe, descriptionOf, matchesName, nameOf, roleOf } from '../act/names.ts';
import { only } from '../act/retry.ts';
import { visiblePart } from '../act/scroll.ts';
import { isDisabled, isVisible } from '../act/visible.ts';
import type { Recording } from '../record/recording.ts';
import type { Finding } from './check.ts';
import { sighted } from './doubt.ts';
import { hasStyle, styleOf } from './style.ts';

/** What people have filled in; null for what is no native field. */
const filledIn = (element: Element): string | null =>
  isInput(element) || isTextArea(element) || isSelect(element) ? element.value : null;

/** What is chosen in a combo box that is made of other elements: what is in its field, or else the text in it. */
function chosenIn(element: Element): string | null {
  if (roleOf(element) !== 'combobox') return null;
  return element.querySelector('input')?.value ?? contentOf(element);
}

/** What a field holds; of one that is made of other elements, what it tells as its value, or the text in it. */
function valueIn(element: Element): string | null {
  if (element.matches('progress, meter, output')) return String((element as HTMLProgressElement).value);
  const context = editContextOf(element);
  if (context) return context.text;
  if ((element as HTMLElement).isContentEditable) return (element as HTMLElement).innerText;
  return filledIn(element) ?? ariaOf(element, 'valuenow') ?? chosenIn(element);
}

const isChecked = (element: Element): boolean =>
  isInput(element) ? element.checked : (ariaOf(element, 'checked') ?? ariaOf(element, 'pressed')) === 'true';

const isExactly = (actual: string, wanted: Name): boolean =>
  typeof wanted === 'string' ? actual === wanted : matches(wanted, actual);

/** True when it holds, else what was there instead. */
type Outcome = true | string;

function hasValue(element: Element, wanted: Name | number): Outcome {
  const actual = valueIn(element);
  if (actual === null) return `${describe(element)} has no value: it is not a form field`;
  const holds = typeof wanted === 'number' ? actual !== '' && Number(actual) === wanted : isExactly(actual, wanted);
  return holds || `its value is “${actual}”`;
}

function hasAttribute(element: Element, name: string, wanted: Name | undefined): Outcome {
  const actual = element.getAttribute(name);
  if (actual === null) return `it has no ${name}; it has: ${element.getAttributeNames().join(', ') || 'no attributes'}`;
  return wanted === undefined || isExactly(actual, wanted) || `${name} is “${actual}”`;
}

function hasFocus(element: Element): Outcome {
  const focused = (element.getRootNode() as Document | ShadowRoot).activeElement;
  return (
    focused === element || `the focus is on ${focused && focused !== document.body ? describe(focused) : 'nothing'}`
  );
}

/** Where a box is, in words. */
const placeOf = ([left, top, width, height]: Box): string =>
  `${Math.round(width)} × ${Math.round(height)} px at ${Math.round(left)}, ${Math.round(top)}`;

/** So far, in pixels, roundings of layouts differ. */
const slack = 0.5;

function isWithin(element: Element, what: Target | 'viewport'): Outcome {
  const [left, top, width, height] = boxOf(element);
  const isInside = (l: number, t: number, r: number, b: number): boolean =>
    left >= l - slack && top >= t - slack && left + width <= r + slack && top + height <= b + slack;
  const place = placeOf([left, top, width, height]);
  if (what !== 'viewport') {
    const outer = boxOf(only(what));
    const [x, y, w, h] = outer;
    return isInside(x, y, x + w, y + h) || `it is ${place}, and ${what} is ${placeOf(outer)}`;
  }
  const seen = visiblePart(element);
  if (isInside(seen.left, seen.top, seen.right, seen.bottom)) return true;
  const isCut = isInside(0, 0, innerWidth, innerHeight);
  const viewport = `and the viewport is ${innerWidth} × ${innerHeight} px`;
  return `it is ${place}, ${isCut ? 'and something around it cuts it off' : viewport}`;
}

function comesBefore(element: Element, what: Target): Outcome {
  const other = only(what);
  if (other === element) return 'they are the same element';
  const all = [...elementsIn(document)];
  return all.indexOf(element) < all.indexOf(other) || `it comes after ${what}`;
}

/** @throws ProblemError `bad-step` for a role that there is not */
function hasRole(element: Element, role: string): Outcome {
  if (!(roles as readonly string[]).includes(role)) fail('role-unknown', { role, near: nearest(role, roles) ?? '' });
  const actual = roleOf(element);
  return actual === role || (actual === null ? 'it has no role' : `its role is ${actual}`);
}

function isNamed(element: Element, text: Name, of: 'name' | 'description'): Outcome {
  const actual = of === 'name' ? nameOf(element) : descriptionOf(element);
  return matchesName(actual, text) || (actual === '' ? `it has no ${of}` : `its ${of} is “${actual}”`);
}

/** A claim about the one element that matches. */
function outcomeOf(element: Element, claim: TargetClaim): Outcome {
  switch (claim.is) {
    case 'visible': {
      // Of a control that libraries paint a twin of, or clip beside its label, people see that.
      const why = whyOutOfReach(handleOf(element));
      return why === null || `it is there, but ${why}`;
    }
    case 'disabled':
      return isDisabled(element) || 'it is enabled';
    case 'enabled':
      return !isDisabled(element) || 'it is disabled';
    case 'checked':
      return isChecked(element) || 'it is not checked';
    case 'unchecked':
      return !isChecked(element) || 'it is checked';
    case 'focused':
      return hasFocus(element);
    case 'reads': {
      const actual = filledIn(element) ?? contentOf(element);
      return matchesName(actual, claim.text) || `it reads “${actual}”`;
    }
    case 'value':
      return hasValue(element, claim.value);
    case 'attribute':
      return hasAttribute(element, claim.name, claim.value);
    case 'style':
      return (
        hasStyle(element, claim.property, claim.value) ||
        `its ${claim.property} is “${styleOf(element, claim.property)}”`
      );
    case 'named':
      return isNamed(element, claim.text, 'name');
    case 'described':
      return isNamed(element, claim.text, 'description');
    case 'role':
      return hasRole(element, claim.role);
    case 'within':
      return isWithin(element, claim.what);
    case 'before':
      return comesBefore(element, claim.what);
    default:
      return true;
  }
}

type Sighting = { target: Target; claim: TargetClaim; isNot: boolean; words: string };

/** Whether elements are there or not: what a check of that finds. */
function findWhether({ target, claim, isNot }: Sighting, aim: (element: Element | undefined) => void): Finding {
  const found = findAll(target);
  if (found.length > 0) sighted(target);
  if (claim.is === 'counted') {
    if ((found.length === claim.n) !== isNot) return null;
    return [`${found.length} ${found.length === 1 ? 'is' : 'are'} there`, ...found.slice(0, 6).map(describe)];
  }
  const seen = found.filter(isVisible);
  aim(seen[0] ?? found[0]);
  // What is to be visible, negated, is to be absent; what is to be absent, negated, is to be there.
  const isWanted = (claim.is === 'absent') === isNot;
  if (isWanted) return seen.length > 0 ? null : [found.length > 0 ? 'nothing of it can be seen' : 'nothing is there'];
  return seen.length === 0 ? null : seen.slice(0, 6).map((element) => `still there: ${describe(element)}`);
}

/** What a check of a target finds. What it is about is written into the step. */
export function findAtTarget(sighting: Sighting, current: Step, recording: Recording): Finding {
  const { target, claim, isNot, words } = sighting;
  const name = String(target);
  const aim = (element: Element | undefined): void =>
    recording.aim(current, name, element ?? null, element ? boxOf(element) : null);
  aim(undefined);
  if (claim.is === 'counted' || claim.is === 'absent' || (claim.is === 'visible' && isNot))
    return findWhether(sighting, aim);
  const element = only(target);
  aim(element);
  const outcome = outcomeOf(element, claim);
  if (isNot) return outcome === true ? [`it ${words}`] : null;
  return outcome === true ? null : [outcome];
}
