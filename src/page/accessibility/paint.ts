/** How elements are painted, as far as it decides on what a person can read. */
import type { Scene, Seen } from './scene.ts';

/** The sides of a part of the viewport, in CSS pixels. */
export type Sides = { left: number; top: number; right: number; bottom: number };

const everywhere: Sides = { left: -1e9, top: -1e9, right: 1e9, bottom: 1e9 };

/** The part that two parts have in common; its sides change places where there is none. */
export const common = (one: Sides, other: Sides): Sides => ({
  left: Math.max(one.left, other.left),
  top: Math.max(one.top, other.top),
  right: Math.min(one.right, other.right),
  bottom: Math.min(one.bottom, other.bottom),
});

/** What is known of how elements are painted, each found out once; `clip` is where what is in it can be seen. */
type Paint = { opacity: number; isClippedAway: boolean; style: CSSStyleDeclaration; clip: Sides };

/** What was found out, by scene. */
const paints = new WeakMap<Scene, Map<Seen, Paint>>();

/** Tells the opacity of an element with all around it, and whether it is cut to nothing to be read out only. */
export function painterOf(scene: Scene): (seen: Seen) => Paint {
  const known = paints.get(scene) ?? new Map<Seen, Paint>();
  paints.set(scene, known);
  const paintOf = (seen: Seen): Paint => {
    const before = known.get(seen);
    if (before) return before;
    const around = seen.parent ? paintOf(seen.parent) : { opacity: 1, isClippedAway: false };
    const style = getComputedStyle(seen.element);
    const { opacity } = style;
    const clip = clipOf(seen, style, paintOf);
    // What is only read out is made very small, and cut off.
    const isCut =
      isTiny(seen.element) && (style.overflow !== 'visible' || style.clip !== 'auto' || style.clipPath !== 'none');
    const isClippedAway = around.isClippedAway || isCut;
    const paint = { opacity: around.opacity * Number(opacity), isClippedAway, style, clip };
    known.set(seen, paint);
    return paint;
  };
  return paintOf;
}

/** Where what is in an element can be seen: in it, where it cuts off, and in what cuts it off itself. */
function clipOf(seen: Seen, style: CSSStyleDeclaration, paintOf: (seen: Seen) => Paint): Sides {
  let { parent } = seen;
  // What is taken out of the flow is cut off by what it is placed in alone.
  const { position } = style;
  if (position === 'absolute') while (parent && paintOf(parent).style.position === 'static') parent = parent.parent;
  const around = position === 'fixed' || !parent ? everywhere : paintOf(parent).clip;
  const cuts = style.overflow !== 'visible' && !/^(html|body)$/.test(seen.tag);
  return cuts ? common(around, seen.element.getBoundingClientRect()) : around;
}

function isTiny(element: Element): boolean {
  const { width, height } = element.getBoundingClientRect();
  return width <= 2 && height <= 2;
}

/** Texts that stand in an element itself, with something to read in them. */
export const ownTexts = (element: Element): Text[] =>
  [...element.childNodes].filter(
    (node): node is Text => node.nodeType === 3 && /[\p{L}\p{N}]/u.test(node.textContent ?? ''),
  );

/** Elements of the same kind have the same styles, but for what scripts and places among siblings do. */
export function kindOf({ element, tag, parent }: Seen, depth = 3): string {
  const own = [tag, ...['class', 'style', 'fill'].map((name) => element.getAttribute(name) ?? '')].join(' ');
  return parent && depth > 0 ? `${own}\n${kindOf(parent, depth - 1)}` : own;
}
