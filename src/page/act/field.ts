/** Text fields: what takes text, and how the caret gets behind what is there. */
import { problem, ProblemError } from '../../core/problem/problem.ts';
import type { Step } from '../../core/timeline/timeline.ts';
import type { Target } from '../../language/target.ts';
import type { Recording } from '../record/recording.ts';
import { shadowOf } from '../record/roots.ts';
import { actionable } from './actionable.ts';
import { clickAt, send } from './input.ts';

const noText = new Set(['checkbox', 'radio', 'button', 'submit', 'reset', 'file', 'image', 'range', 'color', 'hidden']);

const isTextControl = (element: Element): element is HTMLInputElement | HTMLTextAreaElement =>
  element instanceof HTMLTextAreaElement || (element instanceof HTMLInputElement && !noText.has(element.type));

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
    const selection = getSelection()!;
    selection.selectAllChildren(element);
    selection.collapseToEnd();
    return;
  }
  try {
    element.setSelectionRange(element.value.length, element.value.length);
  } catch {
    // Numbers, addresses and the like let no caret be set, but the selection can be moved as the End key moves it.
    getSelection()!.modify('move', 'forward', 'documentboundary');
  }
}

/** Clicks into a text field unless it has the focus already, and puts the caret at its end. */
export async function enterField(step: Step, recording: Recording, target: Target, action: string): Promise<Element> {
  const { element, point } = await actionable(step, recording, target, { action, needsEnabled: true });
  if (!takesText(element)) throw new ProblemError(problem('target-not-editable', { target: String(target) }));
  const focused = isTextControl(element) ? element : editingHost(element);
  if (!isFocused(focused)) await send(recording.number, clickAt(point));
  if (!isFocused(focused)) focused.focus();
  caretToEnd(element);
  return element;
}
