/** The names of looks: how one is written, stored and chosen. */

/** One look as a look file declares it; `component` is the look file's path without its ending. */
export type LookInfo = {
  /** Look file, relative to the project's root, with forward slashes. */
  file: string;
  component: string;
  look: string;
  /** Its place in the look file, from 0. */
  order: number;
  hasScript: boolean;
  after: string | null;
};

/** What a look file declared, and the script that did: its address carries a hash of all that is in it. */
export type Declared = { script: string; looks: LookInfo[] };

/** `src/BerthCard.look.tsx` → `src/BerthCard`. */
export const componentOf = (file: string): string => file.replace(/\.look\.[jt]sx?$/, '');

/** The last part of a component's path: what a person calls it. */
export const shortName = (component: string): string => component.slice(component.lastIndexOf('/') + 1);

/** The one text that names a look: `src/BerthCard/asks before releasing`. */
export const lookKey = (component: string, look: string): string => `${component}/${look}`;

/** How a look is written for people: `BerthCard › asks before releasing`. */
export const lookTitle = (component: string, look: string): string => `${shortName(component)} › ${look}`;

/** FNV-1a, 32 bits, in hexadecimal: tells apart names that would become the same file name. */
export function shortHash(text: string): string {
  let hash = 0x811c9dc5;
  for (let i = 0; i < text.length; i++) {
    hash ^= text.charCodeAt(i);
    hash = Math.imul(hash, 0x01000193);
  }
  return (hash >>> 0).toString(16).padStart(8, '0');
}

/** A name as a file name; names that lose something on the way get a hash, so that no two share one. */
export function fileName(name: string): string {
  const plain = name
    .toLowerCase()
    .normalize('NFKD')
    .replace(/[^a-z0-9]+/g, '-')
    .replace(/^-|-$/g, '')
    .slice(0, 80);
  const faithful = plain.replace(/-/g, ' ') === name;
  return faithful ? plain : `${plain || 'look'}-${shortHash(name)}`;
}

/**
 * True when a look is meant by a pattern: a part of its component, name or file, in any letter case; `*` stands
 * for anything, and `Component/look` or `Component › look` names one exactly.
 */
export function matchesPattern(look: Pick<LookInfo, 'file' | 'component' | 'look'>, pattern: string): boolean {
  const wanted = pattern
    .trim()
    .toLowerCase()
    .replace(/\s*›\s*/g, '/')
    .replace(/^\.\//, '');
  const key = lookKey(look.component, look.look).toLowerCase();
  const file = look.file.toLowerCase();
  if (!wanted.includes('*')) return key.includes(wanted) || file.includes(wanted);
  const expression = new RegExp(
    wanted
      .split('*')
      .map((part) => part.replace(/[.+?^${}()|[\]\\]/g, '\\$&'))
      .join('.*'),
  );
  return expression.test(key) || expression.test(file);
}

/** True when there are no patterns, or one of them means the look. */
export const isSelected = (look: Pick<LookInfo, 'file' | 'component' | 'look'>, patterns: readonly string[]): boolean =>
  patterns.length === 0 || patterns.some((pattern) => matchesPattern(look, pattern));
