/** Two versions of markup as one tree of lines, of which those that are equal can be folded away. */
import { diffLines } from './markup.ts';

export type MarkupRow = { side: 'both' | 'baseline' | 'now'; depth: number; text: string };

/** A row, or rows that say nothing new. */
export type FoldedRow = MarkupRow | { side: 'fold'; rows: MarkupRow[] };

/** As many spaces stand before a line for each level. */
const indent = 2;

const rowOf = (side: MarkupRow['side'], line: string): MarkupRow => {
  const text = line.trimStart();
  return { side, depth: (line.length - text.length) / indent, text };
};

/** The lines of both versions in one order: what only the baseline has before what only the new one has. */
export function markupRows(before: readonly string[], now: readonly string[]): MarkupRow[] {
  const changes = diffLines(before, now, 2000);
  const numbers = (side: 'baseline' | 'now'): Set<number> =>
    new Set(changes.flatMap((change) => (change.side === side ? [change.line - 1] : [])));
  const [lost, added] = [numbers('baseline'), numbers('now')];
  const rows: MarkupRow[] = [];
  for (let i = 0, j = 0; i < before.length || j < now.length; ) {
    if (i < before.length && lost.has(i)) rows.push(rowOf('baseline', before[i++]!));
    else if (j < now.length && added.has(j)) rows.push(rowOf('now', now[j++]!));
    else {
      rows.push(rowOf('both', (now[j] ?? before[i])!));
      i++;
      j++;
    }
  }
  return rows;
}

/** So many equal lines in a row are worth folding. */
const least = 3;

/** Rows with the equal ones folded: what stays is what differs, and what it lies in. */
export function foldEqual(rows: readonly MarkupRow[]): FoldedRow[] {
  const isKept = rows.map(({ side }) => side !== 'both');
  for (const [at, row] of rows.entries()) {
    if (row.side === 'both') continue;
    // Whatever a line lies in stands above it, one level higher each.
    let { depth } = row;
    for (let i = at - 1; i >= 0 && depth > 0; i--) {
      if (rows[i]!.depth >= depth || rows[i]!.side !== 'both') continue;
      isKept[i] = true;
      depth = rows[i]!.depth;
    }
  }
  const folded: FoldedRow[] = [];
  for (let at = 0; at < rows.length; ) {
    let end = at;
    while (end < rows.length && !isKept[end]) end++;
    if (end - at >= least) folded.push({ side: 'fold', rows: rows.slice(at, end) });
    else folded.push(...rows.slice(at, Math.max(end, at + 1)));
    at = Math.max(end, at + 1);
  }
  return folded;
}
