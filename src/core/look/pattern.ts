/**
 * Which looks a pattern means. The rule, in any letter case:
 *
 * 1. `Component/look` (or `Component › look`) means exactly the look of that name. The component may be given with
 *    any number of the folders before it: `BerthCard/moored`, `src/BerthCard/moored`.
 * 2. Any other text means every look whose component, name or file contains it.
 * 3. `*` stands for any text. A pattern with it may begin and end anywhere in `component/look` or in the file's path.
 */
import { fail } from '../problem/problem.ts';
import { nearest } from '../text/nearest.ts';
import { type LookInfo, type LookName, lookKey, shortName } from './look.ts';

type Named = Pick<LookInfo, 'file' | 'component' | 'look'>;

const folded = (pattern: string): string => pattern.trim().toLowerCase().replace(/ *› */g, '/').replace(/^\.\//, '');

/** True when the parts are in the text, one after the other. Linear in the text, however many parts there are. */
function holdsInOrder(text: string, parts: readonly string[]): boolean {
  let at = 0;
  for (const part of parts) {
    const found = text.indexOf(part, at);
    if (found < 0) return false;
    at = found + part.length;
  }
  return true;
}

/** True when a path ends with the wanted one, on the border of a folder. */
const endsWithPath = (path: string, wanted: string): boolean => path === wanted || path.endsWith(`/${wanted}`);

function isExactly(wanted: string, component: string, look: string): boolean {
  if (!wanted.endsWith(`/${look}`)) return false;
  return endsWithPath(component, wanted.slice(0, -look.length - 1));
}

/** True when a pattern means a look. */
export function matchesPattern(info: Named, pattern: string): boolean {
  const wanted = folded(pattern);
  const [component, look, file] = [info.component, info.look, info.file].map((part) => part.toLowerCase()) as [
    string,
    string,
    string,
  ];
  if (wanted.includes('*')) {
    const parts = wanted.split('*');
    return holdsInOrder(lookKey(component, look), parts) || holdsInOrder(file, parts);
  }
  // A name that is spelt in other letters than these is folded just as a pattern is.
  if (isExactly(wanted, component, folded(look)) || isExactly(wanted, component, look)) return true;
  return component.includes(wanted) || look.includes(wanted) || file.includes(wanted);
}

/**
 * A predicate for the looks that are meant by any pattern or named in full by any of `names`; without either, for all.
 */
export function isSelected(patterns: readonly string[], names: readonly LookName[] = []): (info: Named) => boolean {
  if (patterns.length === 0 && names.length === 0) return () => true;
  const full = new Set(names.map((name) => JSON.stringify([name.component, name.look])));
  return (info) =>
    full.has(JSON.stringify([info.component, info.look])) || patterns.some((pattern) => matchesPattern(info, pattern));
}

/** What somebody has asked for: looks by patterns, names and tags. */
export type Choice = {
  patterns: readonly string[];
  looks: readonly LookName[];
  /** Looks with any of these tags; all when there are none. */
  tags: readonly string[];
  /** But none with any of these. */
  withoutTags: readonly string[];
};

/** A predicate for the looks that are meant. */
export function isChosen({ patterns, looks, tags, withoutTags }: Choice): (info: LookInfo) => boolean {
  const isNamed = isSelected(patterns, looks);
  return (info) => {
    const own = info.tags ?? [];
    const isTagged = tags.length === 0 || own.some((tag) => tags.includes(tag));
    return isTagged && !own.some((tag) => withoutTags.includes(tag)) && isNamed(info);
  };
}

/** True for a look that its file has in an environment. */
export const isFor = ({ environments }: Pick<LookInfo, 'environments'>, environment: string): boolean =>
  environments === undefined || environments.includes(environment);

/** True for a look that its file leaves out, or leaves out in an environment. */
export const isLeftOut = (info: LookInfo, environment: string): boolean =>
  info.skip !== undefined || !isFor(info, environment);

/** What somebody may have meant by a pattern that means no look: one that it is a part of, or nearly is. */
function meantBy(pattern: string, all: readonly LookName[]): string | undefined {
  const names = [
    ...new Set(all.flatMap(({ component, look }) => [shortName(component), lookKey(shortName(component), look)])),
  ];
  const wanted = folded(pattern);
  return (
    names.find((name) => name.toLowerCase().includes(wanted)) ??
    nearest(wanted, [...names, ...all.map(({ look }) => look)])
  );
}

/**
 * Says that nothing matches what was `wanted`, and what may have been meant by `patterns` among all looks.
 * @throws ProblemError `nothing-selected`
 */
export function failSelecting(patterns: readonly string[], all: readonly LookName[], wanted = patterns): never {
  const near = patterns.map((pattern) => meantBy(pattern, all)).find((name) => name !== undefined);
  const told = wanted.map((one) => `“${one}”`).join(', ') || 'the configuration';
  return fail('nothing-selected', { patterns: told, near: near ?? '' });
}
