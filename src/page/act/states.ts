/** The ARIA states of elements, those of native controls included. */
import type { Name, RoleState } from '../../language/target.ts';
import { ariaOf } from './aria.ts';
import { isDetails, isInput, isOption } from './element.ts';
import { descriptionOf, matchesName } from './names.ts';
import { isDisabled } from './visible.ts';

type Tristate = boolean | 'mixed' | null;

const attribute = (element: Element, name: Parameters<typeof ariaOf>[1]): Tristate => {
  const value = ariaOf(element, name);
  return value === 'true' ? true : value === 'false' ? false : value === 'mixed' ? 'mixed' : null;
};

function checkedOf(element: Element): Tristate {
  if (!isInput(element) || !/^(checkbox|radio)$/.test(element.type)) return attribute(element, 'checked');
  return element.indeterminate ? 'mixed' : element.checked;
}

function expandedOf(element: Element): Tristate {
  if (isDetails(element)) return element.open;
  const around = element.localName === 'summary' ? element.parentElement : null;
  return around && isDetails(around) ? around.open : attribute(element, 'expanded');
}

/** The level that an element says, or that its tag stands for (HTML-AAM 1.0). */
function levelOf(element: Element): number | null {
  const said = Number(ariaOf(element, 'level'));
  if (Number.isInteger(said) && said > 0) return said;
  const heading = /^h([1-6])$/.exec(element.localName);
  return heading ? Number(heading[1]) : null;
}

/** What an element is current as; false for one that is not. */
function currentOf(element: Element): string | false {
  const said = ariaOf(element, 'current');
  return said === null || said === '' || said === 'false' ? false : said;
}

type State = Exclude<keyof RoleState, 'exact'>;
type Actual = string | number | Tristate;

/** What an element says of each state; null when it says nothing, such as of `expanded` where nothing folds. */
const actualOf: Record<State, (element: Element) => Actual> = {
  level: levelOf,
  checked: checkedOf,
  expanded: expandedOf,
  selected: (element) => (isOption(element) ? element.selected : attribute(element, 'selected')),
  pressed: (element) => attribute(element, 'pressed'),
  current: currentOf,
  disabled: isDisabled,
  description: descriptionOf,
};

function isAs(state: State, actual: Actual, wanted: RoleState[State]): boolean {
  if (state === 'description') return matchesName(String(actual), wanted as Name);
  return state === 'current' && wanted === true ? actual !== false : actual === wanted;
}

/** The states that are asked for and which an element is not in, with what it says of them. */
const differing = (element: Element, { exact, ...wanted }: RoleState): [State, Actual][] =>
  (Object.entries(wanted) as [State, RoleState[State]][]).flatMap(([state, value]): [State, Actual][] => {
    const actual = value === undefined ? null : actualOf[state](element);
    return value === undefined || isAs(state, actual, value) ? [] : [[state, actual]];
  });

/** What an element says of its states: `checked`, `not expanded`, `level 2`. */
export const statesOf = (element: Element): string[] =>
  Object.entries(actualOf).flatMap(([state, of]) => {
    const actual = state === 'description' ? null : of(element);
    if (actual === null || (actual === false && /^(disabled|current)$/.test(state))) return [];
    return [actual === true ? state : actual === false ? `not ${state}` : `${state} ${actual}`];
  });

/** True when an element is in a state. */
export const isIn = (element: Element, state: RoleState): boolean => differing(element, state).length === 0;

/** Why an element is not in a state: `it is not selected`, `its level is 2`; null when it is. */
export function whyNotIn(element: Element, wanted: RoleState): string | null {
  const [first] = differing(element, wanted);
  if (!first) return null;
  const [state, actual] = first;
  if (actual === null || actual === '')
    return state === 'level' || state === 'description' ? `it has no ${state}` : `it says nothing of being ${state}`;
  if (typeof actual === 'boolean') return `it is ${actual ? '' : 'not '}${state}`;
  return `its ${state} is ${typeof actual === 'string' ? `“${actual}”` : actual}`;
}
