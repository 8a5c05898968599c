/** What differs between a value and the one that was wanted, entry by entry. */
import { counted } from '../text/counted.ts';
import { type Contents, equal, isRecord, matchesLoosely } from './equal.ts';
import { show } from './show.ts';

/** Where in a value: the keys and indices that lead there. */
export type Path = readonly (string | number)[];

/** One entry that differs; what is missing on a side is not there at all. */
export type Difference = { path: Path; wanted?: { value: unknown }; actual?: { value: unknown } };

/** How two values are compared: loosely, records may hold more entries than are wanted. */
export type Comparison = { contents: Contents; loose: boolean };

/** A comparison on its way: pairs that are being told already are not told again inside themselves. */
type Walk = Comparison & { open: readonly (readonly [unknown, unknown])[] };

const same = (actual: unknown, wanted: unknown, { contents, loose }: Comparison): boolean =>
  (loose ? matchesLoosely : equal)(actual, wanted, contents);

/** Lists are compared from both ends: what was put in or left out is told as that, not as everything after it. */
function inLists(actual: readonly unknown[], wanted: readonly unknown[], path: Path, how: Walk): Difference[] {
  const least = Math.min(actual.length, wanted.length);
  const isSame = (a: number, b: number): boolean => same(actual[a], wanted[b], how);
  let start = 0;
  while (start < least && isSame(start, start)) start++;
  let end = 0;
  while (end < least - start && isSame(actual.length - 1 - end, wanted.length - 1 - end)) end++;
  const found: Difference[] = [];
  const last = Math.max(actual.length, wanted.length) - end;
  for (let i = start; i < last; i++) {
    const isThere = i < actual.length - end;
    const isWanted = i < wanted.length - end;
    if (isThere && isWanted) found.push(...walk(actual[i], wanted[i], how, [...path, i]));
    else if (isWanted) found.push({ path: [...path, i], wanted: { value: wanted[i] } });
    else found.push({ path: [...path, i], actual: { value: actual[i] } });
  }
  return found;
}

type Entries = Record<string, unknown>;

function inRecords(actual: Entries, wanted: Entries, path: Path, how: Walk): Difference[] {
  const has = (key: string): boolean => (how.loose ? key in actual : Object.hasOwn(actual, key));
  const found = Object.keys(wanted).flatMap((key): Difference[] =>
    has(key)
      ? walk(actual[key], wanted[key], how, [...path, key])
      : [{ path: [...path, key], wanted: { value: wanted[key] } }],
  );
  if (how.loose) return found;
  const more = Object.keys(actual).filter((key) => !Object.hasOwn(wanted, key));
  return [...found, ...more.map((key): Difference => ({ path: [...path, key], actual: { value: actual[key] } }))];
}

function walk(actual: unknown, wanted: unknown, how: Walk, path: Path): Difference[] {
  if (how.open.some(([one, other]) => one === actual && other === wanted) || same(actual, wanted, how)) return [];
  const inner: Walk = { ...how, open: [...how.open, [actual, wanted]] };
  if (Array.isArray(actual) && Array.isArray(wanted)) return inLists(actual, wanted, path, inner);
  const isRecordLike = how.loose ? typeof actual === 'object' && actual !== null : isRecord(actual);
  const isInside = isRecordLike && isRecord(wanted) && !Array.isArray(actual);
  const inside = isInside ? inRecords(actual as Entries, wanted, path, inner) : [];
  // Symbols, and what differs in what it holds of itself, differ where no entry can be named.
  return inside.length > 0 ? inside : [{ path, wanted: { value: wanted }, actual: { value: actual } }];
}

/** Everything in which a value differs from the wanted one; empty when it is as wanted. */
export const differences = (actual: unknown, wanted: unknown, how: Comparison): Difference[] =>
  walk(actual, wanted, { ...how, open: [] }, []);

const isPlainKey = /^[\p{ID_Start}$_][\p{ID_Continue}$]*$/u;

/** `[2].berth`, `.ship["full name"]`. */
export const pathInWords = (path: Path): string =>
  path
    .map((key) =>
      typeof key === 'number' ? `[${key}]` : isPlainKey.test(key) ? `.${key}` : `[${JSON.stringify(key)}]`,
    )
    .join('');

/** So much of a long text is shown around the place where two begin to differ. */
const around = 40;

function textsInWords(actual: string, wanted: string): string | null {
  if (actual.length <= 2 * around && wanted.length <= 2 * around) return null;
  let at = 0;
  while (at < actual.length && actual[at] === wanted[at]) at++;
  const cut = (text: string): string => {
    const from = Math.max(0, at - around);
    const to = at + around;
    const part = JSON.stringify(text.slice(from, to));
    return `${from > 0 ? '…' : ''}${part}${to < text.length ? '…' : ''}`;
  };
  return `expected ${cut(wanted)}, received ${cut(actual)} (they differ from character ${at + 1} on)`;
}

/** What differs, in words: `expected 4, received 5`. */
function sidesInWords({ wanted, actual }: Difference): string {
  if (!actual) return `expected ${show(wanted?.value)}, but there is nothing`;
  if (!wanted) return `received ${show(actual.value)}, which is not expected`;
  const [one, other] = [actual.value, wanted.value];
  const texts = typeof one === 'string' && typeof other === 'string' ? textsInWords(one, other) : null;
  return texts ?? `expected ${show(other)}, received ${show(one)}`;
}

/** One line for each difference; `where` says in words where an entry is. */
export const differencesInWords = (found: readonly Difference[], where: (path: Path) => string): string[] =>
  found.map((one) => {
    const place = where(one.path);
    return place === '' ? sidesInWords(one) : `${place}: ${sidesInWords(one)}`;
  });

/** How many entries of a list or record are as wanted, in words; null for none, or what has no entries. */
export function equalEntries(wanted: unknown, found: readonly Difference[]): string | null {
  if (typeof wanted !== 'object' || wanted === null || found.some(({ path }) => path.length === 0)) return null;
  const differing = new Set(found.filter((one) => one.wanted).map(({ path }) => path[0]));
  const count = Object.keys(wanted).length - differing.size;
  return count > 0 ? `${counted(count, 'other entry', 'other entries')} as expected` : null;
}
