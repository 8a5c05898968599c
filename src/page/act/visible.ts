/** Whether a person can see an element. */
import { boxOf, frameAround } from './element.ts';

/**
 * Why nobody can see the element, or null when they can. With `transparent` one counts as seen that is transparent
 * itself, in something that is not: its painted twin is seen in its place.
 */
export function whyInvisible(element: Element, { transparent = false } = {}): string | null {
  if (!element.isConnected) return 'it was taken out of the page';
  const [, , width, height] = boxOf(element);
  if (!element.checkVisibility()) return 'it or something around it has display: none or content-visibility: hidden';
  const { visibility } = getComputedStyle(element);
  if (visibility !== 'visible') return `it has visibility: ${visibility}`;
  const isOwn = transparent && getComputedStyle(element).opacity === '0';
  const painted = isOwn ? element.parentElement : element;
  if (painted && !painted.checkVisibility({ opacityProperty: true })) return 'it or something around it has opacity: 0';
  if (width === 0 || height === 0) return `it is ${width} by ${height} pixels`;
  const frame = frameAround(element);
  const why = frame && whyInvisible(frame);
  return why && `the frame that it is in cannot be seen: ${why}`;
}

export const isVisible = (element: Element): boolean => whyInvisible(element) === null;

export const isDisabled = (element: Element): boolean =>
  element.matches(':disabled') || element.closest('[aria-disabled="true"]') !== null;
