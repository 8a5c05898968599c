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

/** True for a box of which nothing is in the viewport. */
function isOutside(element: Element): boolean {
  const { left, top, right, bottom } = element.getBoundingClientRect();
  return right <= 0 || bottom <= 0 || left >= innerWidth || top >= innerHeight;
}

/**
 * Why nothing of an element shows, wherever anybody scrolls: what it stands in is folded up, so that it has no height
 * or no width and cuts off what is in it (CSS Overflow 3), or was put out of the viewport that it is fixed to. Null for
 * anything else.
 */
function whyPutAway(element: Element): string | null {
  // What can be scrolled to is seen in what scrolls.
  let [position, of, seenIn] = [getComputedStyle(element).position, element, element];
  for (let node: Node | null = element; node && node.nodeType !== Node.DOCUMENT_NODE; node = flatParent(node)) {
    // Where it is fixed to something else, that may be scrolled to.
    if (position === 'fixed' && (of as HTMLElement).offsetParent === null)
      return isOutside(seenIn) ? 'it lies outside the viewport, to which it is fixed' : null;
    if (node === element || !(node instanceof HTMLElement) || /^(html|body)$/.test(node.localName)) continue;
    const style = getComputedStyle(node);
    // What is positioned is cut off by those only that are positioned, too.
    if (/^(contents|inline)$/.test(style.display) || (position === 'absolute' && style.position === 'static')) continue;
    [position, of] = [style.position, node];
    if (/auto|scroll/.test(style.overflow)) seenIn = node;
    if (style.overflowY !== 'visible' && node.clientHeight === 0)
      return 'it is folded up: 0 pixels are left of its height';
    if (style.overflowX !== 'visible' && node.clientWidth === 0)
      return 'it is folded up: 0 pixels are left of its width';
  }
  return null;
}

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
  const away = whyPutAway(element);
  if (away && !hasTwin?.()) return away;
  const frame = frameAround(element);
  const why = frame && whyInvisible(frame);
  return why && `the frame that it is in cannot be seen: ${why}`;
}

export const isVisible = (element: Element): boolean => whyInvisible(element) === null;

export const isDisabled = (element: Element): boolean =>
  element.matches(':disabled') ||
  element.closest('[aria-disabled="true"]') !== null ||
  ariaOf(element, 'disabled') === 'true';
