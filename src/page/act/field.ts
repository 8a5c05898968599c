/** Text fields: what takes text, and how a person gets into one. */
import { fail, problem, ProblemError } from '../../core/problem/problem.ts';
import type { Step } from '../../core/timeline/timeline.ts';
import type { Target } from '../../language/target.ts';
import type { Recording } from '../record/recording.ts';
import { actionable } from './actionable.ts';
import { isTextControl, placeCaret } from './caret.ts';
import { boxOf, isEditedInPlace, isInput } from './element.ts';
import { holdsFocus, innermostFocus, isFocused } from './focused.ts';
import { clickAt, send } from './input.ts';
import { describe } from './names.ts';
import { only, retry } from './retry.ts';
import { isDisabled } from './visible.ts';

const takesText = (element: Element): boolean =>
  isTextControl(element) ? !element.readOnly : isEditedInPlace(element);

/** The element that edits: what is editable may lie deep inside an editable region. */
const editingHost = (element: Element): HTMLElement => {
  let host = element as HTMLElement;
  while (host.parentElement?.isContentEditable) host = host.parentElement;
  return host;
};

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

const focusedFor = (element: Element): HTMLElement => (isTextControl(element) ? element : editingHost(element));

/**
 * Clicks into a text field unless it has the focus already, wherever it is then: keys go where the focus is. Puts the
 * caret where a person types.
 */
export async function enterField(step: Step, recording: Recording, target: Target, action: string): Promise<Element> {
  const isThere = (element: Element): boolean => takesText(element) && isFocused(focusedFor(element));
  const { element, point } = await actionable(step, recording, target, { action, needsEnabled: true, isThere });
  if (isInput(element) && picked.has(element.type) && !element.readOnly) return element;
  if (!takesText(element)) throw new ProblemError(problem('target-not-editable', { target: String(target) }));
  const focused = focusedFor(element);
  if (!isFocused(focused)) await send(recording.number, clickAt(point));
  if (!isFocused(focused)) focused.focus();
  placeCaret(element, focused);
  return element;
}

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
