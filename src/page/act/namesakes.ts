/**
 * Tells quickly which elements cannot have a name. Most get theirs from their text and nothing else: where that is so
 * it is enough to read it.
 */
import { readable } from '../../core/text/folded.ts';
import type { Name } from '../../language/target.ts';
import { rootsNow, shadowOf } from '../record/roots.ts';
import { rulesIn, sheetVersion } from '../record/sheets.ts';
import { atThisInstant, untilChange } from './memo.ts';
import { matchesName } from './names.ts';

/** What may make the name of an element around it another one than its text. */
const special =
  '[aria-label], [aria-labelledby], [aria-owns], [title], [alt], [role], slot, img, svg, input, select, textarea, ' +
  'iframe, object, canvas, math, table, label';

type Root = Element | Document | ShadowRoot;

const specials = untilChange<Root, Set<Node>>();
const labels = untilChange<Root, boolean>();

/** Elements of a root whose name may come from more than their text. */
function specialIn(root: Root): Set<Node> {
  const found = new Set<Node>();
  for (const element of root.querySelectorAll(special))
    for (let node: Node | null = element; node && node !== root && !found.has(node); node = node.parentNode)
      found.add(node);
  return found;
}

const generated = /(?:^|[{;\s])content:\s*(?!normal\b|none\b|""|'')/;

/** What is known of sheets, for as long as they are as they were. */
const sheets = new WeakMap<CSSStyleSheet, { version: number; rules: number; adds: boolean }>();

/** True when a sheet may add texts of its own to elements. */
function addsText(sheet: CSSStyleSheet): boolean {
  try {
    const version = sheetVersion(sheet);
    const all = rulesIn(sheet);
    const rules = all.length;
    const before = sheets.get(sheet);
    if (before?.version === version && before.rules === rules) return before.adds;
    const adds = Array.from(all, ({ cssText }) => cssText).some((text) => generated.test(text));
    sheets.set(sheet, { version, rules, adds });
    return adds;
  } catch {
    return true;
  }
}

const added = atThisInstant<Document, boolean>();

/**
 * True when any sheet of the page may add texts to elements. Sheets whose rules somebody may hold are read for it as a
 * whole: once for an instant, not for each element that is looked for in a page of a thousand shadow roots.
 */
const isTextAdded = (): boolean =>
  added(document, () => rootsNow().some((root) => [...root.styleSheets, ...root.adoptedStyleSheets].some(addsText)));

/** Letters that say nothing in a name: white space, and those of icon fonts. */
const mute = /\s|[\ue000-\uf8ff]|[\udb80-\udbff][\udc00-\udfff]/g;

const bare = (text: string): string => text.replace(mute, '');

/** True when the letters of a text are in another one, in their order. */
function isWithin(letters: string, text: string): boolean {
  let at = 0;
  for (let i = 0; i < text.length && at < letters.length; i++) if (text[i] === letters[at]) at++;
  return at === letters.length;
}

/** The first letter that may say something. */
function firstOf(text: string): string {
  for (let i = 0; i < text.length; i++)
    if (text[i]! > ' ' && !(text[i]! >= '\ud800' && text[i]! <= '\uf8ff')) return text[i]!;
  return '';
}

/** Says whether a text of an element's own cannot be its name, as far as that is shown; a leaf is shown as a whole. */
function cannotRead(name: Name): (text: string, isLeaf: boolean) => boolean {
  if (typeof name !== 'string') return (text, isLeaf) => isLeaf && !matchesName(readable(text), name);
  const wanted = bare(name);
  const first = firstOf(name);
  return (text, isLeaf) => {
    if (!isLeaf) return !isWithin(wanted, bare(text));
    return text !== name && (firstOf(text) !== first || bare(text) !== wanted);
  };
}

/** Says of elements of a root that they cannot have a name; of those that it does not say so of, some may have it. */
export function cannotBeNamed(root: Root, name: Name): (element: Element) => boolean {
  // Texts that sheets add are in no element.
  if (isTextAdded()) return () => false;
  const cannot = cannotRead(name);
  const known = specials(root, specialIn);
  const hasLabels = labels(root, (one) => one.querySelector('label') !== null);
  return (element) => {
    if (!cannot(element.textContent ?? '', element.firstElementChild === null)) return false;
    return !known.has(element) && !(hasLabels && (element as HTMLButtonElement).labels?.length) && !shadowOf(element);
  };
}
