/** Which parts of the page are compared otherwise, and where they are now. */
import type { PageAllowance } from '../../core/wire/wire.ts';
import type { Looks } from '../../language/looks.ts';
import { type Part, partsOf } from '../../language/compare.ts';
import { the } from '../../language/target.ts';
import { boxOf } from '../act/element.ts';
import { findAll } from '../act/find.ts';
import { append } from '../host/natives.ts';
import type { Recording } from '../record/recording.ts';

/** So many elements of one part are passed over: whoever leaves out more should leave out what they lie in. */
const most = 5000;

let parts: Part[] = [];

/** A look begins: what the project, its file and itself say of parts adds up. */
export function setAllowed(project: readonly Part[], looks: Looks, look: string): void {
  parts = [...project, ...partsOf(looks.compare ?? {}), ...partsOf(looks.states[look]?.compare ?? {})];
}

/** The parts as they are in the page now, in CSS pixels of the page. */
export function allowedNow(recording: Recording): PageAllowance[] {
  const found: PageAllowance[] = [];
  for (const { kind, target, why, upTo } of parts) {
    if (target === null) {
      append(found, { kind, why, upTo, boxes: null, nodes: [] });
      continue;
    }
    const elements = findAll(typeof target === 'string' ? the.css(target) : target).slice(0, most);
    if (elements.length === 0) continue;
    const nodes = elements.map((element) => recording.idOf(element)).filter((id) => id !== null);
    const boxes = elements
      .map(boxOf)
      .map(([left, top, width, height]): [number, number, number, number] => [
        left + scrollX,
        top + scrollY,
        width,
        height,
      ]);
    append(found, { kind, why, upTo, boxes, nodes: kind === 'left-out' ? nodes : [] });
  }
  return found;
}
