/** Whether a person can see an element. */
import { ariaOf } from './aria.ts';
import { boxOf, frameAround, isElement } from './element.ts';
import { flatParent } from './flat.ts';

/** The nearest element around one that has a box of its own. */
function boxAround(element: Element): Element | null {
  for (let node = flatParent(element); node; node = flatParent(node))
    if (isElement(node) && getComputedStyle(node).display !== 'contents') return node;
  return null;
}

/** True for an element that is rendered, with nothing around it that is transparent. */
export const isPainted = (element: Element): boolean => element.checkVisibility({ opacityProperty: true });

/**
 * Why nobody can see the element, or null when they can. What is transparent counts as seen where it `hasTwin`, which
 * is painted in its place.
 */
export function whyInvisible(element: Element, hasTwin?: () => boolean): string | null {
  if (!element.isConnected) return 'it was taken out of the page';
  const [, , width, height] = boxOf(element);
  const holder = getComputedStyle(element).display === 'contents' ? boxAround(element) : element;
  if (!holder?.checkVisibility()) return 'it or something around it has display: none or content-visibility: hidden';
  const { visibility } = getComputedStyle(element);
  if (visibility !== 'visible') return `it has visibility: ${visibility}`;
  if (!isPainted(holder) && !hasTwin?.()) return 'it or something around it has opacity: 0';
  if (width === 0 || height === 0) return `it is ${width} by ${height} pixels`;
  const frame = frameAround(element);
  const why = frame && whyInvisible(frame);
  return why && `the frame that it is in cannot be seen: ${why}`;
}

export const isVisible = (element: Element): boolean => whyInvisible(element) === null;

export const isDisabled = (element: Element): boolean =>
  element.matches(':disabled') ||
  element.closest('[aria-disabled="true"]') !== null ||
  ariaOf(element, 'disabled') === 'true';
