/** What is said of the elements that a target describes. */
import type { Step } from '../../core/timeline/timeline.ts';
import { matches } from '../../core/value/equal.ts';
import type { TargetClaim } from '../../language/command.ts';
import type { Name, Target } from '../../language/target.ts';
import { handleOf, whyOutOfReach } from '../act/handle.ts';
import { findAll } from '../act/find.ts';
import { describe, matchesName, textOf } from '../act/names.ts';
import { only } from '../act/retry.ts';
import { boxOf, isDisabled, isVisible } from '../act/visible.ts';
import type { Recording } from '../record/recording.ts';
import type { Finding } from './check.ts';

const valueIn = (element: Element): string | null =>
  element instanceof HTMLInputElement || element instanceof HTMLTextAreaElement || element instanceof HTMLSelectElement
    ? element.value
    : null;

const isChecked = (element: Element): boolean =>
  element instanceof HTMLInputElement ? element.checked : element.getAttribute('aria-checked') === 'true';

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
      const actual = valueIn(element) ?? textOf(element);
      return matchesName(actual, claim.text) || `it reads “${actual}”`;
    }
    case 'value':
      return hasValue(element, claim.value);
    case 'attribute':
      return hasAttribute(element, claim.name, claim.value);
    default:
      return true;
  }
}

/** What a check of a target finds. What it is about is written into the step. */
export function findAtTarget(target: Target, claim: TargetClaim, current: Step, recording: Recording): Finding {
  const name = String(target);
  const aim = (element: Element | undefined): void =>
    recording.aim(current, name, element ?? null, element ? boxOf(element) : null);
  aim(undefined);
  if (claim.is === 'counted') {
    const found = findAll(target);
    return found.length === claim.n ? null : [`${found.length} are there`, ...found.slice(0, 6).map(describe)];
  }
  if (claim.is === 'absent') {
    const seen = findAll(target).filter(isVisible);
    aim(seen[0]);
    return seen.length === 0 ? null : seen.slice(0, 6).map((element) => `still there: ${describe(element)}`);
  }
  const element = only(target);
  aim(element);
  const outcome = outcomeOf(element, claim);
  return outcome === true ? null : [outcome];
}
