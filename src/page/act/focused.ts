/** What has the focus. */
import { documentIn } from '../record/frames.ts';
import { shadowOf } from '../record/roots.ts';

/** True when the element, or what it holds in its shadow root, has the focus. */
export const isFocused = (element: Element): boolean => {
  const root = element.getRootNode() as Document | ShadowRoot;
  return root.activeElement === element && !shadowOf(element)?.activeElement;
};

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
