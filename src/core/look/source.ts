/** Where a look is written down in its file, as far as that is plain to see. */
import { codeFrame } from '../problem/codeframe.ts';
import type { Problem } from '../problem/problem.ts';
import { escaped } from '../text/escaped.ts';
import type { LookInfo } from './look.ts';

/** Where a look's name stands as a key, counted from 1; null where it is not written out. */
export function placeOfLook(source: string, look: string): { line: number; column: number } | null {
  const names = [JSON.stringify(look), `'${look.replaceAll("'", "\\'")}'`, look].map(escaped).join('|');
  const found = new RegExp(`(?:^|[{,\\s])(?:${names})\\s*:`).exec(source);
  if (!found) return null;
  const at = found.index + found[0].search(/[^{,\s]/);
  const before = source.slice(0, at).split('\n');
  return { line: before.length, column: before.at(-1)!.length + 1 };
}

/** The line on which a look's name stands as a key; null where it is not written out. */
export const lineOfLook = (source: string, look: string): number | null => placeOfLook(source, look)?.line ?? null;

/** A problem without a place of its own is where its look is written: what is wrong with a look as a whole. */
export function locateAtLook(
  wrong: Problem,
  { file, look }: Pick<LookInfo, 'file' | 'look'>,
  source: string | null,
): Problem {
  const place = wrong.place || source === null ? null : placeOfLook(source, look);
  if (!place) return wrong;
  return { ...wrong, place: `${file}:${place.line}:${place.column}`, frame: codeFrame(source!, place) };
}
