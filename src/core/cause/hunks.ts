/** Edits of source files, cut into the pieces that can be undone one by one. */
import { alignKeys } from '../list/align.ts';

/** Lines of a file that gave way to others; `line` counts from 1, in the file as it is now. */
export type Hunk = { file: string; line: number; removed: string[]; added: string[] };

/** A file before and now; null where it was not there. */
export type FileEdit = { file: string; before: string | null; now: string | null };

/** The hunks between two versions of a file. Lines that differ in white space at their ends only are equal. */
export function hunksOf({ file, before: then, now }: FileEdit): Hunk[] {
  // A file that has come or gone is imported by others: it is not undone by itself.
  if (then === null || now === null) return [];
  const [before, after] = [then.split('\n'), now.split('\n')];
  const key = (line: string): string => line.trimEnd();
  const hunks: Hunk[] = [];
  let open: Hunk | null = null;
  let line = 1;
  for (const { before: i, now: j } of alignKeys(before.map(key), after.map(key))) {
    if (i !== null && j !== null) open = null;
    else {
      if (!open) {
        open = { file, line, removed: [], added: [] };
        hunks.push(open);
      }
      if (i !== null) open.removed.push(before[i]!);
      else open.added.push(after[j!]!);
    }
    if (j !== null) line = j + 2;
  }
  return hunks;
}

/** The text of a file with some of its hunks undone. They must come from the same text. */
export function withoutHunks(now: string, hunks: readonly Hunk[]): string {
  const lines = now.split('\n');
  for (const { line, removed, added } of [...hunks].sort((one, other) => other.line - one.line))
    lines.splice(line - 1, added.length, ...removed);
  return lines.join('\n');
}

/** The lines of a hunk without the white space that all of them begin with. */
export function dedented<H extends Hunk>(hunk: H): H {
  const lines = [...hunk.removed, ...hunk.added].filter((line) => line.trim() !== '');
  const indents = lines.map((line) => /^\s*/.exec(line)![0].length);
  const by = Math.min(...indents, 200);
  return {
    ...hunk,
    removed: hunk.removed.map((line) => line.slice(by)),
    added: hunk.added.map((line) => line.slice(by)),
  };
}

const words = (text: string): string[] => text.toLowerCase().match(/#?[\p{L}\p{N}_-]{2,}/gu) ?? [];

/** What is looked for in hunks. */
export type Wanted = { before: string | null; now: string | null; place: { file: string; line: number } | null };

/** How likely it is that a hunk did what a cause says: by the values that occur in it, and by where it is. */
function likelihood({ file, line, removed, added }: Hunk, { before, now, place }: Wanted): number {
  const share = (text: string | null, lines: readonly string[]): number => {
    const wanted = new Set(words(text ?? ''));
    if (wanted.size === 0) return 0;
    const there = new Set(words(lines.join('\n')));
    return [...wanted].filter((word) => there.has(word)).length / wanted.size;
  };
  const isThere = place?.file === file && place.line >= line && place.line < line + Math.max(1, added.length);
  const size = Math.min(0.5, (removed.length + added.length) / 200);
  return (isThere ? 3 : 0) + 2 * share(now, added) + 2 * share(before, removed) - size;
}

/** From this likelihood on it pays to try a hunk by itself before anything else. */
export const striking = 1.9;

/** The hunks with how likely each is, the likeliest for a cause first. */
export const byLikelihood = (hunks: readonly Hunk[], wanted: Wanted): { hunk: Hunk; score: number }[] =>
  hunks.map((hunk) => ({ hunk, score: likelihood(hunk, wanted) })).sort((one, other) => other.score - one.score);
