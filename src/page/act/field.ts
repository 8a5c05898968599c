/** Text fields: what takes text, and how the caret gets behind what is there. */
import { fail, problem, ProblemError } from '../../core/problem/problem.ts';
import type { Step } from '../../core/timeline/timeline.ts';
import type { Target } from '../../language/target.ts';
import type { Recording } from '../record/recording.ts';
import { documentIn } from '../record/frames.ts';
import { shadowOf } from '../record/roots.ts';
import { actionable } from './actionable.ts';
import { clickAt, send } from './input.ts';
import { describe } from './names.ts';
import { only, retry } from './retry.ts';
import { boxOf, isInput, isTextArea } from './element.ts';
import { isDisabled } from './visible.ts';

const noText = new Set(['checkbox', 'radio', 'button', 'submit', 'reset', 'file', 'image', 'range', 'color', 'hidden']);

const isTextControl = (element: Element): element is HTMLInputElement | HTMLTextAreaElement =>
  isTextArea(element) || (isInput(element) && !noText.has(element.type));

const takesText = (element: Element): boolean =>
  isTextControl(element) ? !element.readOnly : (element as HTMLElement).isContentEditable === true;

/** True when the element, or what it holds in its shadow root, has the focus. */
export const isFocused = (element: Element): boolean => {
  const root = element.getRootNode() as Document | ShadowRoot;
  return root.activeElement === element && !shadowOf(element)?.activeElement;
};

/** The element that edits: what is editable may lie deep inside an editable region. */
const editingHost = (element: Element): HTMLElement => {
  let host = element as HTMLElement;
  while (host.parentElement?.isContentEditable) host = host.parentElement;
  return host;
};

/** Puts the caret behind everything that the field holds. */
function caretToEnd(element: Element): void {
  if (!isTextControl(element)) {
    const selection = element.ownerDocument.getSelection()!;
    selection.selectAllChildren(element);
    selection.collapseToEnd();
    return;
  }
  try {
    element.setSelectionRange(element.value.length, element.value.length);
  } catch {
    // Numbers, addresses and the like let no caret be set, but the selection can be moved as the End key moves it.
    element.ownerDocument.getSelection()!.modify('move', 'forward', 'documentboundary');
  }
}

/** Inputs with a picker of their own: their value is written in one way, whatever the locale shows. */
const picked = new Set(['date', 'time', 'month', 'week', 'datetime-local', 'color', 'range']);

const setValue = Object.getOwnPropertyDescriptor(HTMLInputElement.prototype, 'value')!.set!;

/**
 * Gives an input with a picker its value (WHATWG HTML, 4.10.5.1): keys would do something else in every locale.
 * False when the element is no such input. @throws ProblemError `value-not-taken`
 */
export function pickValue(element: Element, target: Target, text: string): boolean {
  if (!isInput(element) || !picked.has(element.type)) return false;
  element.focus();
  setValue.call(element, text);
  if (element.value !== text.trim() && element.value !== text.trim().toLowerCase())
    throw new ProblemError(problem('value-not-taken', { target: String(target), text, shown: element.value }));
  element.dispatchEvent(new Event('input', { bubbles: true, composed: true }));
  element.dispatchEvent(new Event('change', { bubbles: true }));
  return true;
}

/** Clicks into a text field unless it has the focus already, and puts the caret at its end. */
export async function enterField(step: Step, recording: Recording, target: Target, action: string): Promise<Element> {
  const { element, point } = await actionable(step, recording, target, { action, needsEnabled: true });
  if (isInput(element) && picked.has(element.type) && !element.readOnly) return element;
  if (!takesText(element)) throw new ProblemError(problem('target-not-editable', { target: String(target) }));
  const focused = isTextControl(element) ? element : editingHost(element);
  if (!isFocused(focused)) await send(recording.number, clickAt(point));
  if (!isFocused(focused)) focused.focus();
  caretToEnd(element);
  return element;
}

/** The element that has the focus, inside shadow roots, too; null when it is on the page as a whole. */
export function innermostFocus(): Element | null {
  let element = document.activeElement;
  while (element) {
    const inner: Element | null = (shadowOf(element) ?? documentIn(element))?.activeElement ?? null;
    if (!inner) break;
    element = inner;
  }
  return element?.localName === 'body' ? null : element;
}

/** True when the focus is at the element or inside it, where keys bubble up from. */
export const holdsFocus = (element: Element): boolean =>
  element.contains((element.getRootNode() as Document | ShadowRoot).activeElement);

/** Gives an element the focus, as Tab would: it need not be where a pointer could reach it. */
export const focus = (step: Step, recording: Recording, target: Target): Promise<void> =>
  retry(step, recording, () => {
    const element = only(target);
    recording.aim(step, String(target), element, boxOf(element));
    if (isDisabled(element)) fail('target-disabled', { target: String(target) });
    if (!holdsFocus(element)) (element as HTMLElement).focus?.();
    if (!holdsFocus(element)) fail('target-not-focusable', { target: String(target) });
  });

/** Takes the focus from an element, or from whatever has it. */
export const loseFocus = (step: Step, recording: Recording, target: Target | null): Promise<void> =>
  retry(step, recording, () => {
    const focused = innermostFocus();
    if (target) {
      const element = only(target);
      recording.aim(step, String(target), element, boxOf(element));
      const where = focused ? `it is on ${describe(focused)}` : 'nothing has it';
      if (!holdsFocus(element)) fail('focus-elsewhere', { target: String(target), where });
    }
    (focused as HTMLElement | null)?.blur?.();
  });
