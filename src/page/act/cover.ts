/** What lies over an element, as a person would name it. */
import { inCode } from '../../language/target.ts';
import { bestTarget } from './bestTarget.ts';
import { elementsIn, isField } from './find.ts';
import { around } from './flat.ts';
import { handles } from './handle.ts';
import { describe, isHiddenFromPeople, nameOf, roleOf } from './names.ts';

/** The nearest part of the page around an element that has a name of its own, such as a dialog. */
function partAround(element: Element): string | null {
  for (const one of around(element)) {
    if (one === element || one === document.body || one === document.documentElement) continue;
    const role = roleOf(one);
    const name = role && role !== 'generic' ? nameOf(one) : '';
    if (role && name && name.length <= 80) return `${role} “${name}”`;
  }
  return null;
}

/** Why it lies above: the layer that it was put into. */
function layerOf(element: Element): string | null {
  for (const one of around(element)) {
    const { position, zIndex } = getComputedStyle(one);
    if (position !== 'static' && zIndex !== 'auto') return `z-index: ${zIndex}`;
    if (one.matches(':modal, :popover-open')) return 'top layer';
  }
  return null;
}

/** `<div class="scrim"> in dialog “Release berth?” (z-index: 1300)` */
function describeCover(cover: Element): string {
  const part = partAround(cover);
  const layer = layerOf(cover);
  return `${describe(cover)}${part ? ` in ${part}` : ''}${layer ? ` (${layer})` : ''}`;
}

/** How to name the control that a click on what covers would reach instead; undefined where it is none. */
function controlOver(cover: Element): string | undefined {
  const isControl = (one: Element): boolean => one.matches(handles) && !isHiddenFromPeople(one);
  // A field may be around its input.
  const fields = [...elementsIn(cover)].filter((one) => isField(one) && isControl(one));
  const control = [...around(cover)].find(isControl) ?? (fields.length === 1 ? fields[0] : undefined);
  return control && inCode(bestTarget(control));
}

/** What a problem tells of what is at a point in place of a target. */
export const whatCovers = (top: Element | null): { cover: string; control?: string | undefined } =>
  top
    ? { cover: describeCover(top), control: controlOver(top) }
    : { cover: 'nothing visible: it lies outside the viewport' };
