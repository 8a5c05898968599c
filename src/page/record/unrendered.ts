/** Elements without a box: closed panels, leftovers of libraries. Nobody sees them or hears of them. */
import { shadowOf } from './roots.ts';

/** Elements that never have a box, and hold nothing that is shown. */
const never = new Set(['script', 'style', 'link', 'meta', 'template', 'noscript']);

/** Attributes that name or describe their element by the text of others, hidden or not (WAI-ARIA 1.2). */
const referring = ['aria-labelledby', 'aria-describedby', 'aria-errormessage'];

/** Elements of a tree whose text somebody hears although they may be hidden. */
function referredTo(root: Element | ShadowRoot): Element[] {
  const tree = root.getRootNode() as Document | ShadowRoot;
  const naming = [...tree.querySelectorAll(referring.map((name) => `[${name}]`).join())];
  return naming
    .filter((element) => element.checkVisibility())
    .flatMap((element) =>
      referring
        .flatMap((name) => element.getAttribute(name)?.split(/\s+/) ?? [])
        .map((id) => tree.getElementById(id))
        .filter((one) => one !== null),
    );
}

/** The outermost elements below `root` that are not rendered and give nobody a name, through shadow roots. */
export function* unrendered(root: Element | ShadowRoot, heard = referredTo(root)): Generator<Element> {
  for (const element of root.children) {
    if (never.has(element.localName)) continue;
    // What only passes its children on has no box of its own, and they are rendered.
    const isHidden = getComputedStyle(element).display === 'none';
    if (isHidden && !heard.some((one) => element.contains(one))) {
      yield element;
      continue;
    }
    const shadow = shadowOf(element);
    if (shadow) yield* unrendered(shadow);
    if (!heard.includes(element)) yield* unrendered(element, heard);
  }
}
