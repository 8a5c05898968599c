/** Chooses options of list boxes that are made of other elements (WAI-ARIA 1.2), and of combo boxes that open one. */
import { fail } from '../../core/problem/problem.ts';
import type { Step } from '../../core/timeline/timeline.ts';
import type { Target } from '../../language/target.ts';
import type { Recording } from '../record/recording.ts';
import { actionable, type Actionable } from './actionable.ts';
import { ariaOf } from './aria.ts';
import { optionIn, optionsOf, wordsOf } from './choices.ts';
import { holdsFocus } from './focused.ts';
import { elementsIn } from './find.ts';
import { clickAt, send } from './input.ts';
import { roleOf } from './names.ts';
import { retry } from './retry.ts';
import { isTold } from './told.ts';
import { isVisible } from './visible.ts';

const isExpanded = (element: Element): boolean => ariaOf(element, 'expanded') === 'true';

/** True for what opens a list box. */
export const opensList = (element: Element): boolean =>
  roleOf(element) === 'combobox' || ariaOf(element, 'haspopup') === 'listbox';

/** True for a list box itself. */
export const isList = (element: Element): boolean => roleOf(element) === 'listbox';

const isShownList = (element: Element): boolean => isList(element) && (isVisible(element) || isTold(element));

/** The list box that an element has opened: the one that it names, or the only one that can be seen, or has come. */
function listOf(element: Element): Element | null {
  const root = element.getRootNode() as Document | ShadowRoot;
  const field = element.querySelector('[aria-controls], [aria-owns]') ?? element;
  const ids = ['aria-controls', 'aria-owns'].flatMap((name) => field.getAttribute(name)?.split(/\s+/) ?? []);
  const named = ids.map((id) => root.getElementById(id)).filter((one) => one !== null);
  const inside = named.flatMap((one) => [one, ...elementsIn(one)]).find(isShownList);
  if (inside) return inside;
  const before = closed.get(element) ?? [];
  const shown = shownLists();
  const opened = shown.length === 1 ? shown : shown.filter((one) => !before.includes(one));
  return opened.length === 1 ? opened[0]! : null;
}

const shownLists = (): Element[] => [...elementsIn(document)].filter(isShownList);

/** The list boxes that could be seen when an element had yet to open its own: what shows a choice may be one, too. */
const closed = new WeakMap<Element, readonly Element[]>();

const isSelected = (option: Element): boolean =>
  ariaOf(option, 'selected') === 'true' || ariaOf(option, 'checked') === 'true';

/**
 * The options of a list that are chosen. Where it does not say that it takes several, the one that the keyboard has
 * come to may be marked as they are.
 */
function chosenIn(list: Element, opener: Element): Element[] {
  const all = optionsOf(list).filter(isSelected);
  if (ariaOf(list, 'multiselectable') === 'true') return all;
  const field = opener.querySelector('[aria-activedescendant]') ?? opener;
  const active = field.getAttribute('aria-activedescendant');
  return all.filter(({ id }) => id === '' || id !== active);
}

/** True while the list box of a combo box is open; one that says so is closed before it is out of sight. */
const isOpen = (element: Element): boolean => ariaOf(element, 'expanded') !== 'false' && listOf(element) !== null;

/** Opens the list box of a combo box, with the mouse, or else as the keyboard does. */
async function open(current: Step, recording: Recording, target: Target, found: Actionable): Promise<() => Element> {
  const { element, point } = found;
  const { number } = recording;
  const list = (): Element => listOf(element) ?? fail('list-closed', { target: String(target) });
  if (isExpanded(element) && listOf(element)) return list;
  if (!isExpanded(element)) closed.set(element, shownLists());
  await send(number, clickAt(point));
  if (!listOf(element) && holdsFocus(element)) await send(number, [{ kind: 'key', key: 'ArrowDown', modifiers: 0 }]);
  await retry(current, recording, list);
  return list;
}

/**
 * @throws ProblemError `option-missing`, `option-disabled`, `list-closed`, and whatever stands in the way of the option
 */
export async function chooseInList(
  current: Step,
  recording: Recording,
  target: Target,
  found: Actionable,
  wanted: readonly string[],
): Promise<void> {
  const isOwn = isList(found.element);
  let list = isOwn ? () => found.element : await open(current, recording, target, found);
  /** Lists that take several options may close behind each of them, and what opens them may be elsewhere then. */
  const opened = async (): Promise<void> => {
    if (isOwn || isOpen(found.element)) return;
    const again = await actionable(current, recording, target, { action: 'choice', needsEnabled: true });
    list = await open(current, recording, target, again);
  };
  const clickOption = async (words: string, option: () => Element | Promise<Element>): Promise<void> => {
    const aim = { words, element: option };
    const { point } = await actionable(current, recording, aim, { action: 'choice', needsEnabled: true });
    await send(recording.number, clickAt(point));
  };
  const isChosen = (option: Element): boolean => chosenIn(list(), found.element).includes(option);
  const surplus = (): string[] =>
    chosenIn(list(), found.element)
      .map(wordsOf)
      .filter((one) => !wanted.includes(one));
  const optionOf = optionIn(() => list(), recording, target);
  let isMulti = ariaOf(list(), 'multiselectable') === 'true';
  if (wanted.length !== 1 && !isMulti && (isOwn || wanted.length === 0))
    fail('list-single', { target: String(target), count: wanted.length });
  const before = surplus();
  for (const [index, name] of wanted.entries()) {
    if (index === 1 && !isMulti) {
      // Lists that take several do not always say so, but stay open for the next.
      isMulti = isOpen(found.element);
      if (!isMulti) fail('list-single', { target: String(target), count: wanted.length });
    }
    await opened();
    const option = await retry(current, recording, () => optionOf(name));
    if ((isMulti || isOwn) && isChosen(option)) continue;
    await clickOption(`the option “${name}” in ${target}`, () => optionOf(name));
  }
  if (!isMulti) return;
  for (const name of isOwn || isOpen(found.element) ? surplus() : before) {
    await opened();
    if (isChosen(await retry(current, recording, () => optionOf(name))))
      await clickOption(`the option “${name}” in ${target}`, () => optionOf(name));
  }
}
