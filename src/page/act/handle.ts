/**
 * What a person points at to use an element. Libraries paint a twin of a native control and make the control itself
 * transparent, or clip it to a pixel beside its label: what counts is what a click there reaches.
 */
import { within } from './flat.ts';
import { roleOf } from './names.ts';
import { slottedTextAt } from './scroll.ts';
import { drawnOption } from './told.ts';
import { controls, hasTwin, isClipped, isTakenFor, isTextOf, paintedFor } from './twin.ts';
import { whyInvisible } from './visible.ts';

/** What people do something to, rather than to what lies in it: as a selector. */
export const handles = [
  'a[href], button, summary, input, select, textarea, option, label',
  ...['button', 'link', 'checkbox', 'radio', 'switch', 'tab', 'menuitem', 'menuitemcheckbox', 'menuitemradio'],
  ...['option', 'treeitem', 'gridcell', 'slider', 'spinbutton', 'combobox', 'textbox', 'searchbox'],
]
  .map((one, i) => (i === 0 ? one : `[role="${one}"]`))
  .join(', ');

/** The labels of an element that can have some. */
const labelsOf = (element: Element): Element[] => [...((element as HTMLInputElement).labels ?? [])];

/** Why nobody can point at the element, or null. A transparent native control can be used all the same. */
export const whyOutOfReach = (element: Element): string | null => whyInvisible(element, () => hasTwin(element));

/**
 * What is pointed at for an element: the element itself, a label of a control that cannot be pointed at, or what is
 * drawn for an option that is only told.
 */
export function handleOf(element: Element): Element {
  if (roleOf(element) === 'option') return drawnOption(element);
  if (!element.matches(controls) || (whyOutOfReach(element) === null && !isClipped(element))) return element;
  const labels = labelsOf(element).filter((label) => whyInvisible(label) === null && !isClipped(label));
  // People press the switch that they see, and not the words at the other side of the form.
  const painted = isClipped(element) ? paintedFor(element) : null;
  return (
    labels.find((label) => within(element, label) || painted === null || within(painted, label)) ??
    painted ??
    labels[0] ??
    element
  );
}

/** True when a click on `top`, at a point, is one on the element: it lies inside, in a label, or is taken for it. */
export function reaches(top: Element | null, element: Element, [x, y]: readonly [number, number]): boolean {
  if (top === null) return false;
  const hit = slottedTextAt(top, x, y) ?? top;
  if (within(hit, handleOf(element))) return true;
  if (within(hit, element) || labelsOf(element).some((label) => within(hit, label))) return true;
  return isTakenFor(top, element) || isTextOf(top, element);
}
