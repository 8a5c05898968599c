/**
 * What libraries build around a control: a field that takes the pointer for it, a twin that is painted in its place, an
 * area that makes it easier to hit.
 */
import { colourOf } from '../check/colour.ts';
import { isElement } from './element.ts';
import { elementsIn } from './find.ts';
import { flatParent, within } from './flat.ts';
import { roleOf } from './names.ts';
import { isPainted } from './visible.ts';

export const controls = 'input, select, textarea, button, meter, output, progress';

/** Smaller than this, in pixels, nobody can hit it. */
const smallest = 3;

export function isClipped(element: Element): boolean {
  const { width, height } = element.getBoundingClientRect();
  const { clip, clipPath } = getComputedStyle(element);
  return width < smallest || height < smallest || /^rect\((0|1)px/.test(clip) || /^inset\((50|100)%/.test(clipPath);
}

/** What a person can use, as far as its tag or an attribute tells. */
const usable = `a[href], ${controls}, summary, [tabindex], [contenteditable], [role=button], [role=link],
  [role=checkbox], [role=radio], [role=switch], [role=slider], [role=combobox], [role=textbox], [role=tab],
  [role=option], [role=menuitem]`;

/** So much wider and higher than a control is what is built around it alone, at most, in pixels. */
const [mostWider, mostHigher] = [240, 64];

/** The largest element around a control in which there is no other, and which is hardly larger: its field. */
function fieldOf(control: Element): Element {
  const own = control.getBoundingClientRect();
  const isOther = (one: Element): boolean =>
    one !== control && one.matches(usable) && !one.matches('[type=hidden]') && !within(one, control);
  let field = control;
  for (let node = flatParent(control); node; node = flatParent(node)) {
    if (!isElement(node)) continue;
    const { width, height } = node.getBoundingClientRect();
    if (width > own.width + mostWider || height > own.height + mostHigher) break;
    if ([...elementsIn(node)].some(isOther)) break;
    field = node;
  }
  return field;
}

/** True for an element that shows something itself: a border, a ground, a text. */
function paints(element: Element): boolean {
  const { borderStyle, borderWidth, backgroundColor, backgroundImage, boxShadow } = getComputedStyle(element);
  const hasBorder = !/^(none ?)+$/.test(borderStyle) && !/^(0px ?)+$/.test(borderWidth);
  const hasGround = backgroundImage !== 'none' || boxShadow !== 'none' || colourOf(backgroundColor)?.[3] !== 0;
  const hasText = [...element.childNodes].some(({ nodeType, textContent }) => nodeType === 3 && textContent?.trim());
  return hasBorder || hasGround || hasText || element.matches('svg, img');
}

/** True when a native control that cannot be seen has a twin that is painted in its place. */
export function hasTwin(control: Element): boolean {
  if (!control.matches(controls)) return false;
  if (getComputedStyle(control).opacity === '0')
    return control.parentElement === null || isPainted(control.parentElement);
  if (!control.matches('input, select, textarea')) return false;
  // It may be all that is transparent of its field.
  const field = fieldOf(control);
  return [field, ...elementsIn(field)].some((one) => isPainted(one) && paints(one));
}

const opened = new Set(['textbox', 'searchbox', 'combobox', 'spinbutton', 'listbox']);

/** So much larger than a control is an area that makes it easier to hit, at most, in pixels. */
const mostTouched = 64;

/** An empty, transparent area over a control, hardly larger, with the pointer of something to press. */
function isTouchArea(element: Element, control: Element): boolean {
  const [own, area] = [control.getBoundingClientRect(), element.getBoundingClientRect()];
  if (area.width > own.width + mostTouched || area.height > own.height + mostTouched) return false;
  const isEmpty = element.childElementCount === 0 && (element.textContent ?? '').trim() === '';
  return isEmpty && getComputedStyle(element).cursor === 'pointer' && !paints(element);
}

/** True when a click on `top` is taken for a control by what is built around it. */
export function isTakenFor(top: Element, control: Element): boolean {
  const { pointerEvents, opacity } = getComputedStyle(control);
  const isFile = control.matches('input[type=file]');
  const isOpened = opened.has(roleOf(control) ?? '') || isFile;
  // Nobody aims at a transparent file field: a click on what is shown in its place opens the chooser, or none opens.
  const letsThrough = (isOpened && pointerEvents === 'none') || (isFile && opacity === '0');
  // A clipped control is used by what is painted around it.
  const isAround = control.matches(controls) && isClipped(control);
  return (letsThrough || isAround || isTouchArea(top, control)) && within(top, fieldOf(control));
}
