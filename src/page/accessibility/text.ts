/** Text: lines whose contrast is measured, and whether text stays whole when it grows (WCAG 2.2 1.4). */
import type { TextLine } from '../../core/accessibility/finding.ts';
import { colourOf } from '../check/colour.ts';
import type { Check } from './check.ts';
import type { Scene, Seen } from './scene.ts';

/** So many lines are measured, and so many elements of one style: in a table one row says what the next one does. */
const mostLines = 400;
const mostAlike = 8;

type Rgba = TextLine['colour'];

/** The colour of text in any notation, with its opacity from 0 to 1; null for what is no colour. */
function inkOf(text: string): Rgba | null {
  const whole = colourOf(text);
  // What is seen through is painted in fewer shades than it has.
  const [red, green, blue] = (whole && colourOf(`rgb(from ${text} r g b / 1)`)) ?? [];
  return whole && red !== undefined ? [red, green!, blue!, whole[3]! / 255] : null;
}

/** The sides of a part of the viewport. */
type Sides = { left: number; top: number; right: number; bottom: number };

const everywhere: Sides = { left: -1e9, top: -1e9, right: 1e9, bottom: 1e9 };

const common = (one: Sides, other: Sides): Sides => ({
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
function painterOf(scene: Scene): (seen: Seen) => Paint {
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

const isOff = (element: Element): boolean =>
  element.closest(':disabled, [aria-disabled="true"], [inert]') !== null ||
  (element instanceof HTMLLabelElement && element.control?.matches(':disabled') === true);

/** True when something else is painted over the middle of a box, as far as it is in sight. */
function isCovered(element: Element, box: DOMRect): boolean {
  const [x, y] = [box.left + box.width / 2, box.top + box.height / 2];
  if (x < 0 || y < 0 || x >= innerWidth || y >= innerHeight) return false;
  const root = element.getRootNode() as Document | ShadowRoot;
  const top = root.elementFromPoint?.(x, y);
  return top !== null && top !== undefined && !element.contains(top) && !top.contains(element);
}

/** Texts that stand in an element itself, with something to read in them. */
const ownTexts = (element: Element): Text[] =>
  [...element.childNodes].filter(
    (node): node is Text => node.nodeType === 3 && /[\p{L}\p{N}]/u.test(node.textContent ?? ''),
  );

/** Elements of the same kind have the same styles, but for what scripts and places among siblings do. */
function kindOf({ element, tag, parent }: Seen, depth = 3): string {
  const own = `${tag} ${element.getAttribute('class') ?? ''} ${element.getAttribute('style') ?? ''}`;
  return parent && depth > 0 ? `${own}\n${kindOf(parent, depth - 1)}` : own;
}

/** An empty field that says what belongs into it. */
const saysHint = (element: Element): element is HTMLInputElement | HTMLTextAreaElement =>
  /^(input|textarea)$/.test(element.localName) &&
  element.matches(':placeholder-shown') &&
  /[\p{L}\p{N}]/u.test((element as HTMLInputElement).placeholder);

/** Where the first line of a field's hint stands: no range goes around it, so its letters are measured. */
function hintBox(field: HTMLInputElement | HTMLTextAreaElement, style: CSSStyleDeclaration): DOMRect {
  const px = (name: string): number => Number.parseFloat(getComputedStyle(field).getPropertyValue(name)) || 0;
  const { left, top, width, height } = field.getBoundingClientRect();
  const [x, right] = [px('border-left-width') + px('padding-left'), px('border-right-width') + px('padding-right')];
  const room = width - x - right;
  const pen = new OffscreenCanvas(1, 1).getContext('2d')!;
  pen.font = `${style.fontStyle} ${style.fontWeight} ${style.fontSize} ${style.fontFamily}`;
  const letters = Math.min(room, pen.measureText(field.placeholder).width);
  const size = Number.parseFloat(style.fontSize) * 1.2;
  const inset = px('border-top-width') + px('padding-top');
  const y = field.localName === 'textarea' ? inset : (height - size) / 2;
  const start = { center: (room - letters) / 2, right: room - letters, end: room - letters }[style.textAlign] ?? 0;
  return new DOMRect(left + x + start, top + y, letters, size);
}

export function linesOf(scene: Scene, about: (seen: Seen) => Pick<TextLine, 'element' | 'node' | 'step'>): TextLine[] {
  const lines: TextLine[] = [];
  const paintOf = painterOf(scene);
  const [left, top] = [scrollX, scrollY];
  const range = document.createRange();
  /** How many elements of a kind there have been. */
  const alike = new Map<string, number>();
  for (const seen of scene.all) {
    const { element } = seen;
    if (!seen.isPainted || lines.length >= mostLines) continue;
    const texts = ownTexts(element);
    const isHint = saysHint(element);
    if ((texts.length === 0 && !isHint) || seen.tag === 'option' || element instanceof SVGElement) continue;
    const kind = kindOf(seen);
    const before = alike.get(kind) ?? 0;
    if (before >= mostAlike) continue;
    alike.set(kind, before + 1);
    const { opacity: ownOpacity, isClippedAway, style: ownStyle, clip } = paintOf(seen);
    if (isClippedAway) continue;
    const style = isHint ? getComputedStyle(element, '::placeholder') : ownStyle;
    const opacity = isHint ? ownOpacity * Number(style.opacity) : ownOpacity;
    const colour = inkOf(style.color);
    // Text that is drawn as a shape of what is behind it has no colour of its own.
    if (
      !colour ||
      opacity === 0 ||
      colour[3] === 0 ||
      style.getPropertyValue('background-clip') === 'text' ||
      isOff(element)
    )
      continue;
    const [red, green, blue, alpha] = colour;
    const ofLine = {
      ...about(seen),
      colour: [red, green, blue, alpha * opacity] as Rgba,
      size: Number.parseFloat(style.fontSize),
      isBold: Number(style.fontWeight) >= 700,
      isAside: !seen.isTold || style.textShadow !== 'none' || style.mixBlendMode !== 'normal',
    };
    const boxes = isHint
      ? [hintBox(element, style)]
      : texts.flatMap((text) => {
          range.selectNodeContents(text);
          return [...range.getClientRects()];
        });
    for (const whole of boxes) {
      const seenOf = common(whole, clip);
      const box = new DOMRect(seenOf.left, seenOf.top, seenOf.right - seenOf.left, seenOf.bottom - seenOf.top);
      // What is made to be read out only is not there for the eye.
      if (box.width < 4 || box.height < 4 || isCovered(element, box)) continue;
      lines.push({ ...ofLine, box: [box.x + left, box.y + top, box.width, box.height] });
    }
  }
  return lines;
}

/** What people set for themselves: spacing as WCAG 2.2, 1.4.12 says, and text twice as large. */
const settings = [
  {
    rule: 'text-can-be-spaced',
    css:
      '*{line-height:1.5!important;letter-spacing:.12em!important;word-spacing:.16em!important}' +
      'p{margin-bottom:2em!important}',
    what: 'With more space in it text is cut off.',
  },
  { rule: 'text-can-be-larger', css: ':root{font-size:200%!important}', what: 'At twice the size text is cut off.' },
] as const;

/** Elements that cut off what does not fit, without a way to see it. */
function cutters(scene: Scene): Element[] {
  const paintOf = painterOf(scene);
  const known = new Map<string, boolean>();
  const cuts = (seen: Seen): boolean => {
    const kind = kindOf(seen);
    const before = known.get(kind);
    if (before !== undefined) return before;
    const { style, isClippedAway } = paintOf(seen);
    const isCut = [style.overflowX, style.overflowY].some((one) => one === 'hidden' || one === 'clip');
    // Text that ends in an ellipsis ends so by intention.
    const found = isCut && style.textOverflow !== 'ellipsis' && !isClippedAway;
    known.set(kind, found);
    return found;
  };
  return scene.all.flatMap((seen) => {
    const { element, isPainted, tag } = seen;
    if (!isPainted || /^(input|textarea|select|svg|canvas|video|img|iframe)$/.test(tag)) return [];
    return cuts(seen) && (element.textContent ?? '').trim() !== '' ? [element] : [];
  });
}

const overflow = (element: Element): [number, number] => {
  const { overflowX, overflowY } = getComputedStyle(element);
  const { scrollWidth, clientWidth, scrollHeight, clientHeight } = element;
  return [
    /^(hidden|clip)$/.test(overflowX) ? scrollWidth - clientWidth : 0,
    /^(hidden|clip)$/.test(overflowY) ? scrollHeight - clientHeight : 0,
  ];
};

/** Text that people enlarge or space out: what it is cut off by then. Styles are as they were afterwards. */
const grown: Check = (scene, tell) => {
  const candidates = cutters(scene).map((element) => ({ element, before: overflow(element) }));
  if (candidates.length === 0) return;
  for (const { rule, css, what } of settings) {
    const sheet = new CSSStyleSheet();
    // What would move on to its new size would not have it yet.
    sheet.replaceSync(`${css}*{transition:none!important}`);
    // The list itself is alive: it would hold the new sheet too.
    const sheets = [...document.adoptedStyleSheets];
    document.adoptedStyleSheets = [...sheets, sheet];
    try {
      for (const { element, before } of candidates) {
        const now = overflow(element);
        if (now.some((value, i) => value > before[i]! + 4)) tell(rule, element, what, false);
      }
    } finally {
      document.adoptedStyleSheets = sheets;
    }
  }
};

const links: Check = ({ told }, tell) => {
  for (const { element, tag } of told) {
    if (tag !== 'a' || !element.hasAttribute('href')) continue;
    const around = element.parentElement;
    const isInText = around !== null && ownTexts(around).length > 0 && ownTexts(element).length > 0;
    if (!isInText) continue;
    const [own, other] = [getComputedStyle(element), getComputedStyle(around)];
    const isMarked =
      own.textDecorationLine !== 'none' ||
      own.fontWeight !== other.fontWeight ||
      own.fontStyle !== other.fontStyle ||
      own.backgroundColor !== other.backgroundColor ||
      own.borderBottomStyle !== 'none' ||
      own.display !== 'inline';
    if (!isMarked)
      tell('links-are-more-than-colour', element, 'Only its colour tells it from the text around it.', false);
  }
};

export const textChecks: Check[] = [grown, links];
