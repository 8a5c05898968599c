/**
 * What a person points at to use an element. Libraries paint a twin of a native control and make the control itself
 * transparent, or clip it to a pixel beside its label: what counts is what a click there reaches.
 */
import { flatParent, within } from './flat.ts';
import { isElement } from './element.ts';
import { elementsIn } from './find.ts';
import { roleOf } from './names.ts';
import { slottedTextAt } from './scroll.ts';
import { whyInvisible } from './visible.ts';

const controls = 'input, select, textarea, button, meter, output, progress';

/** The labels of an element that can have some. */
const labelsOf = (element: Element): Element[] => [...((element as HTMLInputElement).labels ?? [])];

/** Smaller than this, in pixels, nobody can hit it. */
const smallest = 3;

function isClipped(element: Element): boolean {
  const { width, height } = element.getBoundingClientRect();
  const { clip, clipPath } = getComputedStyle(element);
  return width < smallest || height < smallest || /^rect\((0|1)px/.test(clip) || /^inset\((50|100)%/.test(clipPath);
}

/** What a person can use, as far as its tag or an attribute tells. */
const usable = `a[href], ${controls}, summary, [tabindex], [contenteditable], [role]:is([role=button], [role=link],
  [role=checkbox], [role=radio], [role=switch], [role=slider], [role=combobox], [role=textbox], [role=tab],
  [role=option], [role=menuitem])`;

/** So much wider and higher than a control is what is built around it alone, at most, in pixels. */
const [mostWider, mostHigher] = [240, 64];

/** The largest element around a control in which there is no other, and which is hardly larger: its field. */
function fieldOf(control: Element): Element {
  const own = control.getBoundingClientRect();
  const isOther = (one: Element): boolean => one !== control && one.matches(usable) && !within(one, control);
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

/** Why nobody can point at the element, or null. A transparent native control can be used all the same. */
export const whyOutOfReach = (element: Element): string | null =>
  whyInvisible(element, element.matches(controls) ? { inside: () => fieldOf(element) } : {});

/** What is pointed at for an element: the element itself, or a label of a control that cannot be pointed at. */
export function handleOf(element: Element): Element {
  if (!element.matches(controls) || (whyOutOfReach(element) === null && !isClipped(element))) return element;
  return labelsOf(element).find((label) => whyInvisible(label) === null && !isClipped(label)) ?? element;
}

const opened = new Set(['textbox', 'searchbox', 'combobox', 'spinbutton', 'listbox']);

/** So much larger than a control is an area that makes it easier to hit, at most, in pixels. */
const mostTouched = 64;

/** An empty, transparent area over a control, hardly larger, with the pointer of something to press. */
function isTouchArea(element: Element, control: Element): boolean {
  const [own, area] = [control.getBoundingClientRect(), element.getBoundingClientRect()];
  if (area.width > own.width + mostTouched || area.height > own.height + mostTouched) return false;
  const { cursor, backgroundColor, backgroundImage } = getComputedStyle(element);
  const isEmpty = element.childElementCount === 0 && (element.textContent ?? '').trim() === '';
  return isEmpty && cursor === 'pointer' && backgroundColor === 'rgba(0, 0, 0, 0)' && backgroundImage === 'none';
}

/** True when a click on `top` is taken by what is built around a control: by a field, or by an area made larger. */
function isInField(top: Element, element: Element): boolean {
  const isOpened = opened.has(roleOf(element) ?? '') || element.matches('input[type=file]');
  const letsThrough = isOpened && getComputedStyle(element).pointerEvents === 'none';
  // A clipped control is used by what is painted around it.
  const isTwin = element.matches(controls) && isClipped(element);
  return (letsThrough || isTwin || isTouchArea(top, element)) && within(top, fieldOf(element));
}

/** True when a click on `top`, at a point, is one on the element: it lies inside, in a label or in the field of it. */
export function reaches(top: Element | null, element: Element, [x, y]: readonly [number, number]): boolean {
  if (top === null) return false;
  const hit = slottedTextAt(top, x, y) ?? top;
  return within(hit, element) || labelsOf(element).some((label) => within(hit, label)) || isInField(top, element);
}
