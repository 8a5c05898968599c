/**
 * Rings around what has the focus, by their styles: of what is sure to be seen, no picture has to be taken. Where
 * anything is in doubt (a gradient or a translucent ground, something that cuts off), nothing is said here.
 */
import { around, within } from '../act/flat.ts';
import { deepestAt } from '../act/scroll.ts';
import { colourOf } from '../check/colour.ts';

/** A line around an element, or along its edge: its outline, or a shadow as sharp as one. */
type Ring = {
  /** Where one sees it, in pixels beyond the element's box; less than 0 inside it. */
  at: number;
  colour: readonly number[];
};

const opaque = 255;
/** So much a ring alters what it is painted on, of 255, in at least one of red, green and blue. */
const leastDifference = 24;

const px = (text: string): number => Number.parseFloat(text) || 0;

/** A ring from one distance to another; null for one that is no line. */
function ring(from: number, to: number, written: string): Ring | null {
  const colour = colourOf(written);
  return to - from >= 1 && colour ? { at: to > 0 ? to - 0.5 : from + 0.5, colour } : null;
}

/** The shadows of an element that are as sharp as a line: `rgb(0, 0, 128) 0px 0px 0px 3px`. */
function sharpShadows(boxShadow: string): (Ring | null)[] {
  let covered = 0;
  return boxShadow.split(/,(?![^(]*\))/).map((one) => {
    const [, colour = '', spread = ''] = /^\s*(.+?) 0px 0px 0px ([\d.]+)px$/.exec(one) ?? [];
    const from = covered;
    // What comes first lies above.
    covered = Math.max(covered, px(spread));
    return ring(from, px(spread), colour);
  });
}

/** The rings that an element's style gives it now. */
function ringsOf(element: Element): Ring[] {
  const { outlineStyle, outlineWidth, outlineOffset, outlineColor, boxShadow } = getComputedStyle(element);
  const offset = px(outlineOffset);
  const outline = outlineStyle === 'none' ? null : ring(offset, offset + px(outlineWidth), outlineColor);
  return [outline, ...sharpShadows(boxShadow)].filter((one) => one !== null);
}

/** False for what is painted otherwise than its box says: seen through, turned, cut to a shape. */
function isPlain({ opacity, filter, mixBlendMode, maskImage, clipPath, transform }: CSSStyleDeclaration): boolean {
  const isAsWide = transform === 'none' || /^matrix\(1, 0, 0, 1, /.test(transform);
  return (
    isAsWide &&
    opacity === '1' &&
    [filter, maskImage, clipPath].every((one) => one === 'none') &&
    mixBlendMode === 'normal'
  );
}

const contains = (element: Element, x: number, y: number): boolean => {
  const { left, top, right, bottom } = element.getBoundingClientRect();
  return x > left && x < right && y > top && y < bottom;
};

/** The widest border of an element, in pixels. */
function borderOf(element: Element): number {
  const { borderTopWidth, borderRightWidth, borderBottomWidth, borderLeftWidth } = getComputedStyle(element);
  return Math.max(...[borderTopWidth, borderRightWidth, borderBottomWidth, borderLeftWidth].map(px));
}

const isRoot = (element: Element): boolean => element === document.body || element === document.documentElement;

/** True when nothing around an element alters how it is painted, or cuts off what is at a point. */
const isWhole = (element: Element, x: number, y: number): boolean =>
  [...around(element)].every((one) => {
    const style = getComputedStyle(one);
    const cuts = style.overflow !== 'visible' && one !== element && !isRoot(one);
    return isPlain(style) && (!cuts || contains(one, x, y));
  });

/** True when what lies uppermost at a point is what the ring there is painted on. */
const isUnder = (top: Element, element: Element, { at }: Ring): boolean =>
  at > 0 ? top !== element && within(element, top) : top === element && borderOf(element) < -at && !element.shadowRoot;

/** The colour that a ring around an element is painted on at a point; null where that cannot be told. */
function groundAt(element: Element, ring: Ring, x: number, y: number): readonly number[] | null {
  const top = deepestAt(x, y);
  if (!top || !isUnder(top, element, ring) || !isWhole(element, x, y)) return null;
  for (const one of around(top)) {
    if (!isRoot(one) && !contains(one, x, y)) continue;
    const { backgroundImage, backgroundColor } = getComputedStyle(one);
    const colour = colourOf(backgroundColor);
    if (backgroundImage !== 'none' || !colour) return null;
    if (colour[3] !== 0) return colour[3] === opaque ? colour : null;
  }
  const isLight = !getComputedStyle(document.documentElement).colorScheme.includes('dark');
  return isLight ? [opaque, opaque, opaque] : null;
}

/** True when a ring around an element is sure to change pixels. */
function isSeen(element: Element, ring: Ring): boolean {
  if (element.ownerDocument !== document || element.getClientRects().length !== 1) return false;
  const { left, top, right, bottom } = element.getBoundingClientRect();
  const [x, y] = [(left + right) / 2, (top + bottom) / 2];
  const { at, colour } = ring;
  const sides: [number, number][] = [
    [x, top - at],
    [x, bottom + at],
    [left - at, y],
    [right + at, y],
  ];
  const strength = colour[3]! / opaque;
  return sides.some(([x, y]) => {
    const ground = groundAt(element, ring, x, y);
    return ground !== null && [0, 1, 2].some((i) => strength * Math.abs(ground[i]! - colour[i]!) >= leastDifference);
  });
}

/** Elements that are sure to show that they have the focus, as it goes from one to the next. */
export type Rings = {
  shown: Set<Element>;
  /** The focus has gone to another element, or nowhere; what changes with it has changed. */
  follow(element: Element | null): void;
};

/** What scripts give an element that is to look otherwise. */
const attributesOf = (element: Element): string => `${element.getAttribute('class')} ${element.getAttribute('style')}`;

export function followRings(): Rings {
  const shown = new Set<Element>();
  /** What has the focus, where a ring around it can be seen. */
  let ringed: { element: Element; attributes: string } | null = null;
  /** It has no ring without the focus, and no script has to come for it. */
  const isByFocus = (element: Element, attributes: string): boolean =>
    ringsOf(element).length === 0 && attributesOf(element) === attributes;
  return {
    shown,
    follow(element) {
      if (ringed && ringed.element !== element && isByFocus(ringed.element, ringed.attributes))
        shown.add(ringed.element);
      const isRinged = element !== null && ringsOf(element).some((one) => isSeen(element, one));
      ringed = isRinged ? { element, attributes: attributesOf(element) } : null;
    },
  };
}
