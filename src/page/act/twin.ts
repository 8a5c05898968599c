/**
 * What libraries build around a control: a field that takes the pointer for it, a twin that is painted in its place, an
 * area that makes it easier to hit.
 */
import { colourOf } from '../check/colour.ts';
import { isElement } from './element.ts';
import { elementsIn } from './find.ts';
import { around, flatParent, within } from './flat.ts';
import { roleOf } from './names.ts';
import { isPainted } from './visible.ts';

export const controls = 'input, select, textarea, button, meter, output, progress';

/** Smaller than this, in pixels, nobody can hit it. */
const smallest = 3;

/** True for an element that is itself cut to nothing, or next to it. */
function isCut(element: Element): boolean {
  const { width, height } = element.getBoundingClientRect();
  const { clip, clipPath } = getComputedStyle(element);
  return width < smallest || height < smallest || /^rect\((0|1)px/.test(clip) || /^inset\((50|100)%/.test(clipPath);
}

/** True for an element that is cut to nothing, by itself or by what was put around it for that. */
export function isClipped(element: Element): boolean {
  if (isCut(element)) return true;
  const around = flatParent(element);
  return around !== null && isElement(around) && getComputedStyle(around).overflowX !== 'visible' && isCut(around);
}

/** True for an element of which nothing shows, as it or anything around it is cut to nothing. */
export const isCutAway = (element: Element): boolean =>
  isCut(element) || [...around(element)].some((one) => getComputedStyle(one).overflowX !== 'visible' && isCut(one));

/** What a person can use, as far as its tag or an attribute tells. */
const usable = `a[href], ${controls}, summary, [tabindex], [contenteditable], [role=button], [role=link],
  [role=checkbox], [role=radio], [role=switch], [role=slider], [role=combobox], [role=textbox], [role=tab],
  [role=option], [role=menuitem]`;

/** So much wider and higher than a control is what is built around it alone, at most, in pixels. */
const [mostWider, mostHigher] = [240, 64];

/** As much wider where the size of the control says nothing: it is clipped, or grows with what is typed into it. */
const mostAround = 1000;

/** Every element around a control in which there is no other, and which is hardly larger, from the inside out. */
function* aroundAlone(control: Element): Generator<Element> {
  const own = control.getBoundingClientRect();
  const opensList = roleOf(control) === 'combobox';
  const wider = isClipped(control) || opensList ? mostAround : mostWider;
  const isOther = (one: Element): boolean => {
    if (one === control || !one.matches(usable) || one.matches('[type=hidden]') || within(one, control)) return false;
    // What opens the same list with the mouse is none of its own for the keyboard.
    return !opensList || (one as HTMLElement).tabIndex >= 0;
  };
  for (let node = flatParent(control); node; node = flatParent(node)) {
    if (!isElement(node)) continue;
    const { width, height } = node.getBoundingClientRect();
    if (width > own.width + wider || height > own.height + mostHigher) return;
    if ([...elementsIn(node)].some(isOther)) return;
    yield node;
  }
}

/** The largest of them: the field of a control. */
const fieldOf = (control: Element): Element => [...aroundAlone(control)].at(-1) ?? control;

/** True for an element that shows something itself: a border, a ground, a text. */
function paints(element: Element): boolean {
  const { borderStyle, borderWidth, backgroundColor, backgroundImage, boxShadow } = getComputedStyle(element);
  const hasBorder = !/^(none ?)+$/.test(borderStyle) && !/^(0px ?)+$/.test(borderWidth);
  const hasGround = backgroundImage !== 'none' || boxShadow !== 'none' || colourOf(backgroundColor)?.[3] !== 0;
  const hasText = [...element.childNodes].some(({ nodeType, textContent }) => nodeType === 3 && textContent?.trim());
  return hasBorder || hasGround || hasText || element.matches('svg, img');
}

/** What is painted of a control that cannot be seen itself: the nearest around it that shows something, or holds it. */
export function paintedFor(control: Element): Element | null {
  for (const around of aroundAlone(control)) {
    const shown = [around, ...elementsIn(around)].find((one) => one !== control && isPainted(one) && paints(one));
    if (shown) return shown;
  }
  return null;
}

const opened = new Set(['textbox', 'searchbox', 'combobox', 'spinbutton', 'listbox']);

/** True when a control that cannot be seen has a twin that is painted in its place. */
export function hasTwin(control: Element): boolean {
  const isNative = control.matches(controls);
  if (!isNative && !opened.has(roleOf(control) ?? '')) return false;
  if (isNative && getComputedStyle(control).opacity === '0')
    return control.parentElement === null || isPainted(control.parentElement);
  // It may be all that is transparent of its field.
  return !control.matches('button, meter, output, progress') && paintedFor(control) !== null;
}

/** So much larger than a control is an area that makes it easier to hit, at most, in pixels. */
const mostTouched = 64;

/** An empty, transparent area over a control, hardly larger, with the pointer of something to press. */
function isTouchArea(element: Element, control: Element): boolean {
  const [own, area] = [control.getBoundingClientRect(), element.getBoundingClientRect()];
  if (area.width > own.width + mostTouched || area.height > own.height + mostTouched) return false;
  const isEmpty = element.childElementCount === 0 && (element.textContent ?? '').trim() === '';
  return isEmpty && getComputedStyle(element).cursor === 'pointer' && !paints(element);
}

/** True for the host of a control that lets the pointer through to it, and is hardly smaller: the two are one. */
function isHostOf(element: Element, control: Element): boolean {
  const { host } = control.getRootNode() as Partial<ShadowRoot>;
  if (host !== element || getComputedStyle(control).pointerEvents !== 'none') return false;
  const [own, area] = [control.getBoundingClientRect(), element.getBoundingClientRect()];
  return area.width <= own.width + mostTouched && area.height <= own.height + mostTouched;
}

/** True for a text or icon in the field of a control that opens a list: that opens wherever its field is clicked. */
function isInField(element: Element, control: Element): boolean {
  if (roleOf(control) !== 'combobox' || ![element, ...elementsIn(element)].some(paints)) return false;
  const [shown, field] = [element.getBoundingClientRect(), fieldOf(control).getBoundingClientRect()];
  const isInside = shown.left >= field.left && shown.right <= field.right && shown.top >= field.top;
  return (
    isInside && shown.bottom <= field.bottom && !/wait|progress|not-allowed/.test(getComputedStyle(element).cursor)
  );
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
  const isHit = letsThrough || isAround || isTouchArea(top, control) || isInField(top, control);
  return (isHit && within(top, fieldOf(control))) || isHostOf(top, control);
}

/** The nearest that a person can use, of an element and what it lies in; null where there is none. */
function usableAround(element: Element): Element | null {
  for (const one of around(element)) if (one.matches(usable)) return one;
  return null;
}

/** True for a part of a field, or the field around it, that lies over something and does not let it be seen. */
const hides = (part: Element, field: Element): boolean =>
  [...around(part)].some((one) => within(one, field) && paints(one));

/**
 * True when a click on `top` is what a person comes to who clicks a text: it lets the pointer through to what it stands
 * in, or is seen through a transparent field that lies over it, as placeholders are. A button that nobody can reach is
 * no such text.
 */
export function isTextOf(top: Element, text: Element): boolean {
  const own = usableAround(text);
  if (own === text || [...elementsIn(text)].some((one) => one.matches(usable))) return false;
  const letsThrough = getComputedStyle(text).pointerEvents === 'none';
  if (within(text, top)) return letsThrough && (own === null || within(top, own));
  const field = letsThrough ? top : usableAround(top);
  if (field === null || (!letsThrough && (hides(top, field) || (field as HTMLElement).tabIndex < 0))) return false;
  const [shown, area] = [text.getBoundingClientRect(), field.getBoundingClientRect()];
  const isInside = shown.top >= area.top && shown.bottom <= area.bottom && shown.left >= area.left;
  const isAlike = area.height <= shown.height + mostHigher && (letsThrough || shown.right <= area.right);
  // What takes the clicks of the text stands beside it, or around both of them.
  return isInside && isAlike && (own === null ? isNextTo(field, text) : within(field, own));
}

/** True for elements that have a parent in common, or one more around it. */
function isNextTo(one: Element, other: Element): boolean {
  const [, first, second] = around(one);
  return [first, second].some((outer) => outer !== undefined && within(other, outer));
}
