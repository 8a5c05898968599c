/** Elements without a box: closed panels, leftovers of libraries. Nobody sees them or hears of them. */
import { shadowOf } from './roots.ts';

/** Elements that never have a box, and hold nothing that is shown. */
const never = new Set(['script', 'style', 'link', 'meta', 'template', 'noscript']);

/** The outermost elements below `root` that are not rendered, through shadow roots. */
export function* unrendered(root: Element | ShadowRoot): Generator<Element> {
  for (const element of root.children) {
    if (never.has(element.localName)) continue;
    // What only passes its children on has no box of its own, and they are rendered.
    if (getComputedStyle(element).display === 'none') yield element;
    else {
      const shadow = shadowOf(element);
      if (shadow) yield* unrendered(shadow);
      yield* unrendered(element);
    }
  }
}
