/** What lies over an element, as a person would name it. */
import { describe, nameOf, roleOf } from './names.ts';
import { around } from './flat.ts';

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
export function describeCover(cover: Element): string {
  const part = partAround(cover);
  const layer = layerOf(cover);
  return `${describe(cover)}${part ? ` in ${part}` : ''}${layer ? ` (${layer})` : ''}`;
}
