/** Where things are in a drawn document. */
import { stateAttributes } from '../core/moment/restyle.ts';

type Box = [left: number, top: number, width: number, height: number];

/** Space left around what is captured, as in captures of live pages. */
const margin = 16;

/** A document with every open shadow root in it. */
function rootsIn(document: Document): (Document | ShadowRoot)[] {
  const roots: (Document | ShadowRoot)[] = [document];
  for (let at = 0; at < roots.length; at++)
    for (const element of roots[at]!.querySelectorAll('*')) if (element.shadowRoot) roots.push(element.shadowRoot);
  return roots;
}

/** What a capture of the document shows: from its top left corner to the far edge of all that can be seen. */
export function clipOf(document: Document): Box {
  const { scrollX, scrollY, innerWidth, innerHeight } = document.defaultView!;
  let right = 0;
  let bottom = 0;
  for (const root of rootsIn(document)) {
    const elements = root === document ? document.body?.querySelectorAll('*') : root.querySelectorAll('*');
    for (const element of elements ?? []) {
      if (element.parentElement === document.body && element.id === 'look') continue;
      const box = element.getBoundingClientRect();
      if (box.width === 0 || box.height === 0) continue;
      if (box.right + scrollX > right && element.checkVisibility()) right = box.right + scrollX;
      if (box.bottom + scrollY > bottom && element.checkVisibility()) bottom = box.bottom + scrollY;
    }
  }
  const { scrollWidth, scrollHeight } = document.documentElement;
  const width = Math.min(Math.ceil(right) + margin, Math.max(innerWidth, scrollWidth));
  const height = Math.min(Math.ceil(bottom) + margin, Math.max(innerHeight, scrollHeight));
  return [0, 0, Math.max(width, margin), Math.max(height, margin)];
}

/** A selector that finds in a drawn document what the recorded page's rule was about, whatever state it is in. */
function findable(selector: string): string {
  const stated = new RegExp(
    `:(${Object.keys(stateAttributes).join('|')}|active|target|defined|state\\([^)]*\\))(?![\\w-])`,
    'g',
  );
  return selector.replace(/::?(before|after|first-line|first-letter)\b|::[\w-]+(\([^)]*\))?/g, '').replace(stated, '');
}

/** The elements that selectors find; one that is none finds nothing. */
export function foundBy(document: Document, selectors: readonly string[]): Set<Element> {
  const found = new Set<Element>();
  const roots = rootsIn(document);
  for (const selector of selectors)
    for (const root of roots)
      try {
        for (const element of root.querySelectorAll(findable(selector))) found.add(element);
      } catch {
        // A selector of a kind that cannot be asked for by itself.
      }
  return found;
}

/** Boxes of elements in CSS pixels of the page, those without any left out. */
export function boxesOf(elements: Iterable<Element>): Box[] {
  return [...elements].flatMap((element): Box[] => {
    const { left, top, width, height } = element.getBoundingClientRect();
    const { scrollX, scrollY } = element.ownerDocument.defaultView ?? { scrollX: 0, scrollY: 0 };
    return width === 0 || height === 0 ? [] : [[left + scrollX, top + scrollY, width, height]];
  });
}
