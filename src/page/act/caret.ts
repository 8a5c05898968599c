/** Where the caret is when a person types into a field. */
import { editContextOf, isInput, isTextArea } from './element.ts';
import { innermostFocus } from './focused.ts';

const noText = new Set(['checkbox', 'radio', 'button', 'submit', 'reset', 'file', 'image', 'range', 'color', 'hidden']);

/** Native controls that take text. */
export const isTextControl = (element: Element): element is HTMLInputElement | HTMLTextAreaElement =>
  isTextArea(element) || (isInput(element) && !noText.has(element.type));

/** What had the focus when a key was last pressed; null since a pointer has been pressed. */
let keyedIn: Element | null = null;

/** Notes that keys were pressed, or that a pointer was. */
export const caretMoved = (by: 'keys' | 'pointer' | null): void => {
  keyedIn = by === 'keys' ? innermostFocus() : null;
};

/** True when a part of what the field holds is selected. */
function hasSelection(element: Element): boolean {
  const selection = element.ownerDocument.getSelection()!;
  if (!isTextControl(element)) return !selection.isCollapsed && element.contains(selection.anchorNode);
  // Numbers, addresses and the like do not say where their selection is.
  return element.selectionStart === null ? String(selection) !== '' : element.selectionStart !== element.selectionEnd;
}

/** True when the caret is in the field. */
const hasCaret = (element: Element): boolean =>
  isTextControl(element) || element.contains(element.ownerDocument.getSelection()!.anchorNode);

/**
 * Puts the caret behind everything that the field holds, as whoever comes to it would. What is selected stays so, as
 * it is what a person would type over; and whoever was writing there goes on where they are. `focused` is what has
 * the focus then.
 */
export function placeCaret(element: Element, focused: Element): void {
  // Where it is there is known to the editor alone.
  if (editContextOf(focused)) return;
  if (hasSelection(element) || (keyedIn === focused && hasCaret(element))) return;
  if (!isTextControl(element)) {
    const selection = element.ownerDocument.getSelection()!;
    selection.selectAllChildren(element);
    selection.collapseToEnd();
    return;
  }
  try {
    element.setSelectionRange(element.value.length, element.value.length);
  } catch {
    // The selection can be moved as the End key moves it.
    element.ownerDocument.getSelection()!.modify('move', 'forward', 'documentboundary');
  }
}
