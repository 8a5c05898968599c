/**
 * List boxes that are told to screen readers only, clipped to nothing: some libraries keep one beside the list that is
 * drawn, whose items have no roles. People see and click these items.
 */
import { readable } from '../../core/text/folded.ts';
import { isElement } from './element.ts';
import { elementsIn, ownText, titleOf } from './find.ts';
import { flatParent, within } from './flat.ts';
import { nameOf, roleOf, textOf } from './names.ts';
import { isClipped } from './twin.ts';
import { isPainted } from './visible.ts';

/** True for a list box that is rendered where nobody can see it. */
export const isTold = (list: Element): boolean =>
  roleOf(list) === 'listbox' && isPainted(list) && isClipped(list) && getComputedStyle(list).overflow !== 'visible';

/** What is drawn beside a list that is told, in document order. */
function* drawnBeside(list: Element): Generator<Element> {
  const around = flatParent(list);
  if (!around || !isElement(around)) return;
  for (const one of elementsIn(around)) if (!within(one, list) && isPainted(one) && !isClipped(one)) yield one;
}

/** Items that are drawn beside a list that is told: what has a text of its own. */
export const itemsBeside = (list: Element): Element[] =>
  [...drawnBeside(list)].filter((one) => readable(ownText(one)) !== '');

/** The innermost item with these words, or this title, that is drawn beside a list that is told. */
export const drawnFor = (list: Element, words: string): Element | null =>
  [...drawnBeside(list)].filter((one) => textOf(one) === words || titleOf(one) === words).at(-1) ?? null;

/** What people see of an option: the option itself, or the item that is drawn for it. */
export function drawnOption(option: Element): Element {
  const list = option.closest('[role=listbox]');
  return (list && isTold(list) && drawnFor(list, nameOf(option))) || option;
}
