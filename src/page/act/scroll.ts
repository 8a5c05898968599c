/** Where an element can be seen and pointed at: through every scroller and shadow boundary around it. */
import { documentIn } from '../record/frames.ts';
import { shadowOf } from '../record/roots.ts';
import { frameAround, isElement, offsetOf, rectOf } from './element.ts';
import { flatParent } from './flat.ts';

/** The innermost element at a point of the viewport, through shadow roots. */
export function deepestAt(x: number, y: number): Element | null {
  let element = document.elementFromPoint(x, y);
  while (element) {
    const inside: Document | ShadowRoot | null = shadowOf(element) ?? documentIn(element);
    if (!inside) break;
    const [left, top] = offsetOf(inside);
    const inner: Element | null = inside.elementFromPoint(x - left, y - top);
    if (!inner || inner === element) break;
    element = inner;
  }
  return element;
}

/** The text of a host at a point, which a slot shows: browsers say that the host itself is there. */
export function slottedTextAt(host: Element, x: number, y: number): Text | null {
  if (!shadowOf(host)) return null;
  const [left, top] = offsetOf(host);
  const range = host.ownerDocument.createRange();
  const isThere = (text: Node): boolean => {
    range.selectNodeContents(text);
    return [...range.getClientRects()].some(
      (rect) => x - left >= rect.left && x - left <= rect.right && y - top >= rect.top && y - top <= rect.bottom,
    );
  };
  return ([...host.childNodes].find((node) => node.nodeType === Node.TEXT_NODE && isThere(node)) as Text) ?? null;
}

type Area = { left: number; top: number; right: number; bottom: number };

/** Where an element, or a part of it, is in the viewport. */
function areaOf(element: Element, rect = rectOf(element)): Area {
  const [x, y] = offsetOf(element);
  return { left: rect.left + x, top: rect.top + y, right: rect.right + x, bottom: rect.bottom + y };
}

const cut = (a: Area, b: Area): Area => ({
  left: Math.max(a.left, b.left),
  top: Math.max(a.top, b.top),
  right: Math.min(a.right, b.right),
  bottom: Math.min(a.bottom, b.bottom),
});

/** The first box of an element that is any: one that flows around blocks has an empty one before them. */
const firstBox = (element: Element): DOMRect | undefined => {
  const boxes = [...element.getClientRects()];
  return boxes.find(({ width, height }) => width >= 1 && height >= 1) ?? boxes[0];
};

/** The part of an element that scrollers and the viewport leave to be seen; it may be empty. */
export function visiblePart(element: Element): Area {
  let area: Area = cut(areaOf(element, firstBox(element)), {
    left: 0,
    top: 0,
    right: innerWidth,
    bottom: innerHeight,
  });
  let { position } = getComputedStyle(element);
  for (let node = flatParent(element); node; node = flatParent(node)) {
    if (position === 'fixed' && !frameAround(node)) break;
    // A frame clips whatever its document holds, wherever that is put.
    if (isElement(node) && documentIn(node)) position = 'static';
    if (!isElement(node) || /^(html|body)$/.test(node.localName)) continue;
    const style = getComputedStyle(node);
    // What is positioned is clipped by those only that are positioned, too.
    if (position === 'absolute' && style.position === 'static') continue;
    ({ position } = style);
    if (style.overflowX === 'visible' && style.overflowY === 'visible') continue;
    area = cut(area, areaOf(node));
  }
  return area;
}

const isEmpty = ({ left, top, right, bottom }: Area): boolean => right - left < 1 || bottom - top < 1;

/** Scrolls every ancestor until the middle of the element can be seen. True when it could not be seen before. */
export function bringIntoView(element: Element): boolean {
  const box = areaOf(element);
  const part = visiblePart(element);
  const middle = { x: (box.left + box.right) / 2, y: (box.top + box.bottom) / 2 };
  const seen = middle.x >= part.left && middle.x <= part.right && middle.y >= part.top && middle.y <= part.bottom;
  if (seen && !isEmpty(part)) return false;
  element.scrollIntoView({ block: 'center', inline: 'center', behavior: 'instant' });
  return true;
}

/** Where a person would point at: the middle of the part of the element that can be seen. */
export function pointOf(element: Element): [number, number] {
  const part = visiblePart(element);
  const { left, top, right, bottom } = isEmpty(part) ? areaOf(element) : part;
  return [Math.round(((left + right) / 2) * 100) / 100, Math.round(((top + bottom) / 2) * 100) / 100];
}
