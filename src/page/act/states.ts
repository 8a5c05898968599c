/** The ARIA states of elements, those of native controls included. */
import { computeAccessibleDescription } from 'dom-accessibility-api';
import type { RoleState } from '../../language/target.ts';
import { matchesName } from './names.ts';
import { isDisabled } from './visible.ts';

type Tristate = boolean | 'mixed' | null;

const attribute = (element: Element, name: string): Tristate => {
  const value = element.getAttribute(name);
  return value === 'true' ? true : value === 'false' ? false : value === 'mixed' ? 'mixed' : null;
};

function checkedOf(element: Element): Tristate {
  if (!(element instanceof HTMLInputElement) || !/^(checkbox|radio)$/.test(element.type))
    return attribute(element, 'aria-checked');
  return element.indeterminate ? 'mixed' : element.checked;
}

function expandedOf(element: Element): Tristate {
  if (element instanceof HTMLDetailsElement) return element.open;
  const around = element.localName === 'summary' ? element.parentElement : null;
  return around instanceof HTMLDetailsElement ? around.open : attribute(element, 'aria-expanded');
}

const selectedOf = (element: Element): Tristate =>
  element instanceof HTMLOptionElement ? element.selected : attribute(element, 'aria-selected');

/** The level that an element says, or that its tag stands for (HTML-AAM 1.0). */
function levelOf(element: Element): number | null {
  const said = Number(element.getAttribute('aria-level'));
  if (Number.isInteger(said) && said > 0) return said;
  const heading = /^h([1-6])$/.exec(element.localName);
  return heading ? Number(heading[1]) : null;
}

function isCurrent(element: Element, wanted: boolean | string): boolean {
  const said = element.getAttribute('aria-current');
  const actual = said === null || said === '' || said === 'false' ? null : said;
  return typeof wanted === 'string' ? actual === wanted : wanted === (actual !== null);
}

/** True when an element is in a state. What it says nothing of, such as `expanded`, it neither is nor is not. */
export function isIn(element: Element, state: RoleState): boolean {
  const { level, checked, expanded, selected, pressed, current, disabled, description } = state;
  return (
    (level === undefined || levelOf(element) === level) &&
    (checked === undefined || checkedOf(element) === checked) &&
    (expanded === undefined || expandedOf(element) === expanded) &&
    (selected === undefined || selectedOf(element) === selected) &&
    (pressed === undefined || attribute(element, 'aria-pressed') === pressed) &&
    (current === undefined || isCurrent(element, current)) &&
    (disabled === undefined || isDisabled(element) === disabled) &&
    (description === undefined || matchesName(computeAccessibleDescription(element).trim(), description))
  );
}
