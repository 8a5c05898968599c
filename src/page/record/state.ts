/** What an element shows besides its attributes, and what belongs to the window. */
import type { ElementState } from '../../core/moment/moment.ts';
import { internalsOf } from './internals.ts';

/** Elements whose state changes without a mutation. */
export const statefulTags = new Set(['input', 'textarea', 'select', 'dialog', 'canvas', 'iframe', 'frame']);
const formTags = new Set(['input', 'textarea', 'select']);

// Elements of frames are of other realms: they are told by their names, not by their constructors.
function fieldState(element: Element, state: ElementState): void {
  if (element.localName === 'input') {
    const { type, checked, indeterminate, value } = element as HTMLInputElement;
    if (type === 'checkbox' || type === 'radio') {
      if (checked) state.checked = true;
      if (indeterminate) state.indeterminate = true;
    } else if (type !== 'file' && value !== '') state.value = value;
  } else if (element.localName === 'textarea') {
    const { value } = element as HTMLTextAreaElement;
    if (value !== '') state.value = value;
  } else {
    const { options } = element as HTMLSelectElement;
    state.selected = Array.from(options).flatMap((option, index) => (option.selected ? [index] : []));
  }
  if (element.matches(':user-invalid')) state.user = 'invalid';
  else if (element.matches(':user-valid')) state.user = 'valid';
}

function canvasState(canvas: HTMLCanvasElement, state: ElementState): void {
  try {
    if (canvas.width > 0 && canvas.height > 0) state.pixels = canvas.toDataURL();
  } catch {
    // Pixels that come from another origin cannot be read.
  }
}

/** True for an element whose class may change what sheets see of it without a mutation. */
export const isCustom = (element: Element): boolean =>
  element.localName.includes('-') && (internalsOf(element) !== null || !element.matches(':defined'));

function customState(element: Element): string[] {
  if (!element.matches(':defined')) return ['undefined'];
  const own = [...(internalsOf(element)?.states ?? [])].sort().map((state) => `:${state}`);
  return element.matches(':disabled') ? ['disabled', ...own] : own;
}

/** The elements by which an SVG picture moves. */
export const pictureMotion = 'animate,animateTransform,animateMotion,set';

/** True for an outermost SVG picture with animations inside. */
export const isMovingPicture = (element: Element): element is SVGSVGElement =>
  element.localName === 'svg' &&
  (element as SVGSVGElement).ownerSVGElement === null &&
  element.querySelector(pictureMotion) !== null;

/** The state of an element, or null when it shows nothing besides its attributes. */
export function readState(element: Element): ElementState | null {
  const state: ElementState = {};
  const isHtml = element.namespaceURI === 'http://www.w3.org/1999/xhtml';
  if (isHtml && formTags.has(element.localName)) fieldState(element, state);
  else if (isHtml && element.localName === 'dialog') {
    if ((element as HTMLDialogElement).open) state.dialog = element.matches(':modal') ? 'modal' : 'open';
  } else if (isHtml && element.localName === 'canvas') canvasState(element as HTMLCanvasElement, state);
  const custom = isHtml && isCustom(element) ? customState(element) : [];
  if (custom.length > 0) state.custom = custom;
  if (element.hasAttribute('popover') && element.matches(':popover-open')) state.popover = true;
  if (isMovingPicture(element) && element.getCurrentTime() > 0)
    state.seconds = Math.round(element.getCurrentTime() * 1000) / 1000;
  if (element.scrollLeft !== 0 || element.scrollTop !== 0) state.scroll = [element.scrollLeft, element.scrollTop];
  return Object.keys(state).length > 0 ? state : null;
}

/** The elements under the pointer, from the root inwards, through shadow roots. */
export function* pointedAt(
  root: Document | ShadowRoot,
  shadowOf: (element: Element) => ShadowRoot | null,
): Generator<Element> {
  let innermost: Element | null = null;
  for (const element of root.querySelectorAll(':hover')) {
    yield element;
    innermost = element;
  }
  const inner = innermost && shadowOf(innermost);
  if (inner) yield* pointedAt(inner, shadowOf);
}

/** The element with the focus, through shadow roots, or null. */
export function focusedIn(page: Document, shadowOf: (element: Element) => ShadowRoot | null): Element | null {
  let focused = page.activeElement;
  for (let inner = focused && shadowOf(focused); inner?.activeElement; inner = shadowOf(focused))
    focused = inner.activeElement;
  return focused && focused !== page.body ? focused : null;
}
