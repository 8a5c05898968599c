/**
 * What elements are and where, whatever document they are in: a frame of the same origin has classes of its own, and
 * counts from its own corner.
 */
import type { Box } from '../../core/timeline/timeline.ts';

const html = 'http://www.w3.org/1999/xhtml';

export const isElement = (node: Node | null): node is Element => node?.nodeType === Node.ELEMENT_NODE;

const isHtml = (element: Element, tag: string): boolean => element.localName === tag && element.namespaceURI === html;

export const isInput = (element: Element): element is HTMLInputElement => isHtml(element, 'input');
export const isTextArea = (element: Element): element is HTMLTextAreaElement => isHtml(element, 'textarea');
export const isSelect = (element: Element): element is HTMLSelectElement => isHtml(element, 'select');
export const isOption = (element: Element): element is HTMLOptionElement => isHtml(element, 'option');
export const isDetails = (element: Element): element is HTMLDetailsElement => isHtml(element, 'details');

/** What an editor draws by itself keeps its text in an `EditContext` (EditContext API), which browsers may lack. */
export const editContextOf = (element: Element): { readonly text: string } | null =>
  (element as { editContext?: { readonly text: string } | null }).editContext ?? null;

/** True for what is no field and yet edited in place. */
export const isEditedInPlace = (element: Element): boolean =>
  (element as HTMLElement).isContentEditable === true || editContextOf(element) !== null;

/** The element that a document is shown in, where that is of the same origin; null for the page itself. */
export const frameAround = (node: Node): Element | null =>
  node.ownerDocument === document || node === document
    ? null
    : ((node.ownerDocument ?? (node as Document)).defaultView?.frameElement ?? null);

/** How far a document's corner is from that of the viewport, in CSS pixels. */
export function offsetOf(node: Node): [number, number] {
  const frame = frameAround(node);
  if (!frame) return [0, 0];
  const { left, top } = frame.getBoundingClientRect();
  const [x, y] = offsetOf(frame);
  const { paddingLeft, paddingTop } = getComputedStyle(frame);
  return [
    x + left + frame.clientLeft + Number.parseFloat(paddingLeft),
    y + top + frame.clientTop + Number.parseFloat(paddingTop),
  ];
}

/**
 * Where an element is in its document: where it has no extent of its own, as with `display: contents` or where all of
 * it is shown elsewhere, what it holds.
 */
export function rectOf(element: Element): DOMRect {
  const own = element.getBoundingClientRect();
  if ((own.width > 0 && own.height > 0) || !element.hasChildNodes()) return own;
  const { display, overflowX, overflowY } = getComputedStyle(element);
  if (display !== 'contents' && (overflowX !== 'visible' || overflowY !== 'visible')) return own;
  const range = element.ownerDocument.createRange();
  range.selectNodeContents(element);
  const held = range.getBoundingClientRect();
  return held.width > 0 && held.height > 0 ? held : own;
}

/** Where an element is in the viewport. */
export function boxOf(element: Element): Box {
  const { left, top, width, height } = rectOf(element);
  const [x, y] = offsetOf(element);
  return [left + x, top + y, width, height];
}
