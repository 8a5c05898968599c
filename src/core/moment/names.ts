/**
 * Names that are made up at run time or at build time: counted ids, hashed classes, the marks of scoped styles. They
 * say what belongs together and nothing else, so what is compared has something steady in their place.
 */
import { type CanonicalElement, type CanonicalNode, elementsOf } from './canonical.ts';

/** A part of a name that nobody writes by hand: letters and digits mixed, or a long number. */
const isHash = (part: string): boolean => /^(?=.*\d)(?=.*[a-z])[a-z0-9]{5,}$/i.test(part) || /^\d{6,}$/.test(part);

/** What stands for a made-up part of a name. */
const madeUp = '‹›';

/** `css-` and a hash of letters only, as style libraries write it; `_name_1x2y3_4`, as CSS modules are built. */
const styled = /^(css|sc|jss|jsx|go)-?[a-z0-9]{4,}(?=-|$)/i;
const moduled = /^_(.+)_[a-z0-9]{5}_\d+$/i;

/** A class as it is compared; empty for one that says nothing. */
export function className(token: string): string {
  if (/^svelte-[a-z0-9]+$/.test(token)) return '';
  const inModule = moduled.exec(token);
  if (inModule) return `_${inModule[1]}_${madeUp}`;
  // Utility classes with values of their own, such as w-[320px], are written by hand.
  if (/[[\]:/.%]/.test(token)) return token;
  const named = token.replace(styled, (_, library: string) => `${library}-${madeUp}`);
  const parts = named.split(/([-_]+)/);
  return parts.map((part) => (isHash(part) ? madeUp : part)).join('');
}

/** `class` as it is compared: in the order written, since later ones do not win by it, without what says nothing. */
export const classes = (value: string): string =>
  value
    .split(/\s+/)
    .map(className)
    .filter((token) => token !== '' && token !== madeUp)
    .join(' ');

/** The marks by which frameworks scope styles. */
export const isScopeMark = (name: string): boolean => /^data-v-[0-9a-f]{6,}$|^_ng(content|host)-/.test(name);

/** `style` as declarations, sorted by property. */
const declarations = (value: string): string =>
  value
    .split(/;(?![^(]*\))/)
    .map((one) => one.trim().replace(/\s*:\s*/, ': '))
    .filter((one) => one !== '')
    .sort()
    .map((one) => `${one};`)
    .join(' ');

/**
 * An id that a person would not write: one with a number in it, unless the canonical form has named that already. What
 * it is called cannot be perceived.
 */
const isCounted = (id: string): boolean => /\d/.test(id) && !id.includes('‹');

/** Every counted id of a document, in document order, with its name. */
function countedIds(root: CanonicalNode): Map<string, string> {
  const names = new Map<string, string>();
  for (const { attrs } of elementsOf(root)) {
    const id = attrs?.id;
    if (id !== undefined && isCounted(id) && !names.has(id)) names.set(id, `‹name ${names.size + 1}›`);
  }
  return names;
}

/** Attributes whose value is the id of another element (HTML, WAI-ARIA 1.2). */
const refers = new RegExp(
  '^(for|form|list|headers|popovertarget|commandfor|aria-(labelledby|describedby|details|controls|owns|flowto|' +
    'errormessage|activedescendant))$',
);

/** Attributes in which libraries keep names for themselves; those by which tests find elements are written by hand. */
const isOwn = (name: string): boolean =>
  name === 'name' || (/-/.test(name) && !/^(aria-|data-(test|qa|e2e|automation))/.test(name));

/** A word or several, and a number: how names are counted. */
const countedName = /^([a-z][\w:]*(?:[-_:.][a-z][\w:]*)*[-_:.])\d+(?:[-_]\d+)*$/i;

/** Names that libraries count, by the order in which they come: the first of its kind, the second. */
function countedNames(): { of(token: string): string; met(token: string): string | undefined } {
  const kinds = new Map<string, string[]>();
  const names = new Map<string, string>();
  const of = (token: string): string => {
    const kind = countedName.exec(token)?.[1];
    if (kind === undefined) return token;
    const known = kinds.get(kind) ?? [];
    kinds.set(kind, known);
    if (!known.includes(token)) known.push(token);
    const name = `${kind}‹${known.indexOf(token) + 1}›`;
    names.set(token, name);
    return name;
  };
  return { of, met: (token) => names.get(token) };
}

/** Gives the attributes of an element as they are compared. */
export function steadyNames(root: CanonicalNode): (element: CanonicalElement) => Record<string, string> {
  const ids = countedIds(root);
  const counted = countedNames();
  /** A class that is made of a name that was met: `datepicker-4-backdrop`. */
  const classOf = (value: string): string =>
    value.replace(/\S+?\d(?=-[a-z]|\s|$)/gi, (start) => ids.get(start) ?? counted.met(start) ?? start);
  /** What a name is that no element of the document has for its id. */
  const other = (attribute: string, token: string): string => {
    // The canonical form has named some already.
    if (/[‹›]/.test(token)) return token;
    if (refers.test(attribute)) return isCounted(token) ? '‹gone›' : token;
    return isOwn(attribute) ? counted.of(token) : token;
  };
  const renameIn = (attribute: string, value: string): string =>
    value.replace(/[^\s"'#(),;]+/g, (token) => ids.get(token) ?? other(attribute, token));
  // Classes may be made of names that stand behind them.
  for (const { attrs = {} } of elementsOf(root))
    for (const [name, value] of Object.entries(attrs)) if (isOwn(name) && !isScopeMark(name)) renameIn(name, value);
  return ({ attrs = {} }) => {
    const found: Record<string, string> = {};
    for (const [name, value] of Object.entries(attrs)) {
      if (isScopeMark(name)) continue;
      const isList = name === 'class' || name === 'style';
      const renamed = name === 'class' ? classOf(value) : renameIn(name, value);
      const now = name === 'class' ? classes(renamed) : name === 'style' ? declarations(renamed) : renamed;
      // An empty list of classes or declarations is none.
      if (now !== '' || !isList) found[name] = now;
    }
    return found;
  };
}
