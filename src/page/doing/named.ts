/** How a person would name an element that somebody does something to: the best target that means it alone, as code. */
import { inCode } from '../../language/target.ts';
import { isInput, isTextArea } from '../act/element.ts';
import { bestTarget } from '../act/bestTarget.ts';
import { handles } from '../act/handle.ts';
import { shadowOf } from '../record/roots.ts';

/** So much higher than its text a row of a list is, in pixels: what is higher has more to it, as a backdrop has. */
const rowRoom = 28;

/** What says all that an element says, if that is hardly smaller: a row of a list goes by the text in it. */
function textOfRow(element: Element): Element {
  const text = element.textContent?.trim();
  const sayingAll = (one: Element): Element | undefined =>
    [...one.children].find((child) => child.textContent?.trim() === text);
  let inner = element;
  for (let next = text && sayingAll(inner); next; next = sayingAll(inner)) inner = next;
  const room = element.getBoundingClientRect().height - inner.getBoundingClientRect().height;
  return room <= rowRoom ? inner : element;
}

/**
 * The element that a person means who points at one: the button around an icon, the control of a label, the text of a
 * row that has neither role nor name.
 */
export function meant(element: Element): Element {
  const handle = element.closest(handles);
  if (!handle) return bestTarget(element).query.by === 'css' ? textOfRow(element) : element;
  const control = handle.localName === 'label' ? (handle as HTMLLabelElement).control : null;
  return control ?? handle;
}

/** The innermost element that an event is about, in shadow roots, too. */
export function innermost(event: Event): Element | null {
  const [first] = event.composedPath();
  return first instanceof Element ? first : first instanceof Document ? first.documentElement : null;
}

/** A target as code. */
export const named = (element: Element): string => inCode(bestTarget(element));

const picked = ['date', 'time', 'month', 'week', 'datetime-local', 'color', 'range'];

/** Inputs whose value is chosen rather than typed. */
export const isPicked = (element: Element): boolean => isInput(element) && picked.includes(element.type);

const untyped = ['checkbox', 'radio', 'button', 'submit', 'reset', 'file', 'image', 'hidden', ...picked];

/** True for what takes text. */
export const takesText = (element: Element): element is HTMLElement =>
  isTextArea(element) ||
  (isInput(element) && !untyped.includes(element.type)) ||
  (element as HTMLElement).isContentEditable === true;

/** The editable region that an element is in, or the field itself. */
export function fieldOf(element: Element): HTMLElement | null {
  if (!takesText(element)) return null;
  let field: HTMLElement = element;
  while (field.parentElement?.isContentEditable) field = field.parentElement;
  return field;
}

export const textIn = (field: HTMLElement): string =>
  isInput(field) || isTextArea(field) ? field.value : (field.textContent ?? '');

/** True when what is typed comes behind everything that is there. */
export function isCaretAtEnd(field: HTMLElement): boolean {
  if (!isInput(field) && !isTextArea(field)) return true;
  try {
    const { selectionStart, selectionEnd, value } = field;
    return selectionStart === null || (selectionStart === value.length && selectionEnd === value.length);
  } catch {
    return true;
  }
}

/** The element with the focus, in shadow roots, too. */
export function focused(): Element | null {
  let element = document.activeElement;
  for (let inner = element && shadowOf(element)?.activeElement; inner; inner = shadowOf(inner)?.activeElement)
    element = inner;
  return element;
}
