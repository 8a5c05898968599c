/** Lines of text whose contrast is measured on the picture (WCAG 2.2, 1.4.3): where they are, and in what ink. */
import type { TextLine } from '../../core/accessibility/finding.ts';
import { colourOf } from '../check/colour.ts';
import { common, kindOf, ownTexts, painterOf } from './paint.ts';
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

const isOff = (element: Element): boolean =>
  element.closest(':disabled, [aria-disabled="true"], [inert]') !== null ||
  (element instanceof HTMLLabelElement && element.control?.matches(':disabled') === true);

/** How letters are painted: in what colour, how large as they are drawn, and whether with an outline of their own. */
type Letters = { colour: Rgba | null; opacity: number; size: number; isOutlined: boolean };

function lettersOf(element: Element, style: CSSStyleDeclaration): Letters {
  const size = Number.parseFloat(style.fontSize);
  if (!(element instanceof SVGElement))
    return { colour: inkOf(style.webkitTextFillColor), opacity: 1, size, isOutlined: false };
  // A drawing is shown larger or smaller than it was drawn.
  const { a, b, c, d } = (element as SVGTextContentElement).getScreenCTM() ?? new DOMMatrix();
  const isOutlined = style.stroke !== 'none' && Number.parseFloat(style.strokeWidth) > 0;
  const scale = Math.sqrt(Math.abs(a * d - b * c));
  return { colour: inkOf(style.fill), opacity: Number(style.fillOpacity), size: size * scale, isOutlined };
}

/** Text that others of the drawing are made of, and that is not there itself. */
const isMaterial = (element: Element): boolean =>
  element.closest('defs, symbol, pattern, mask, clipPath, marker') !== null;

/** True for what holds text to be read: in drawings only some elements do, and in lists nobody sees options. */
const mayHoldText = ({ element, tag }: Seen): boolean =>
  element instanceof SVGElement ? element instanceof SVGTextContentElement && !isMaterial(element) : tag !== 'option';

/** True for two of one drawing the first of which is painted before the second. */
const isPaintedBefore = (one: Element, other: Element): boolean =>
  other instanceof SVGElement &&
  (one as SVGElement).ownerSVGElement === other.ownerSVGElement &&
  (one.compareDocumentPosition(other) & Node.DOCUMENT_POSITION_FOLLOWING) !== 0;

/** True when something else is painted over the middle of a box, as far as it is in sight. */
function isCovered(element: Element, box: DOMRect): boolean {
  const [x, y] = [box.left + box.width / 2, box.top + box.height / 2];
  if (x < 0 || y < 0 || x >= innerWidth || y >= innerHeight) return false;
  const root = element.getRootNode() as Document | ShadowRoot;
  const top = root.elementFromPoint?.(x, y);
  if (!top || element.contains(top) || top.contains(element)) return false;
  // Labels of charts often let the pointer through to what they stand on.
  return !isPaintedBefore(top, element);
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

/** The lines that can be seen, with their ink, and their boxes on the page in CSS pixels; `about` tells whose. */
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
    if ((texts.length === 0 && !isHint) || !mayHoldText(seen)) continue;
    const kind = kindOf(seen);
    const before = alike.get(kind) ?? 0;
    if (before >= mostAlike) continue;
    alike.set(kind, before + 1);
    const { opacity: ownOpacity, isClippedAway, style: ownStyle, clip } = paintOf(seen);
    if (isClippedAway) continue;
    const style = isHint ? getComputedStyle(element, '::placeholder') : ownStyle;
    const { colour, size, isOutlined, opacity: inkOpacity } = lettersOf(element, style);
    const opacity = ownOpacity * inkOpacity * (isHint ? Number(style.opacity) : 1);
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
      size,
      isBold: Number(style.fontWeight) >= 700,
      isAside: !seen.isTold || isOutlined || style.textShadow !== 'none' || style.mixBlendMode !== 'normal',
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
