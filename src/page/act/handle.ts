/**
 * What a person points at to use an element. Libraries paint a twin of a native control and make the control itself
 * transparent, or clip it to a pixel beside its label: what counts is what a click there reaches.
 */
import { within } from './scroll.ts';
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

/** Why nobody can point at the element, or null. A transparent native control can be used all the same. */
export const whyOutOfReach = (element: Element): string | null =>
  whyInvisible(element, { transparent: element.matches(controls) });

/** What is pointed at for an element: the element itself, or a label of a control that cannot be pointed at. */
export function handleOf(element: Element): Element {
  if (!element.matches(controls) || (whyOutOfReach(element) === null && !isClipped(element))) return element;
  return labelsOf(element).find((label) => whyInvisible(label) === null && !isClipped(label)) ?? element;
}

/** True when a click on `top` is one on the element: it lies inside, or in a label of it. */
export const reaches = (top: Element | null, element: Element): boolean =>
  within(top, element) || labelsOf(element).some((label) => within(top, label));
