/** The lines of a source around a place, numbered, with a pointer under the column. */
import { shortened } from '../text/folded.ts';
import type { SourcePlace } from '../timeline/timeline.ts';

/** The most characters of a line that are shown. */
const widest = 110;

/** How many characters before the column are shown of a line that is longer. */
const before = 60;

const expanded = (text: string): string => text.replaceAll('\t', '  ');

/** A line from a character on, cut to what can be seen at once. */
function cut(line: string, from: number): string {
  const head = from > 0 ? '…' : '';
  const rest = line.slice(from + head.length);
  return head + shortened(rest, widest);
}

export function codeFrame(source: string, place: Pick<SourcePlace, 'line' | 'column'>, around = 2): string {
  const lines = source.split('\n');
  const first = Math.max(1, place.line - around);
  const last = Math.min(lines.length, place.line + around);
  const width = String(last).length;
  const out: string[] = [];
  for (let n = first; n <= last; n++) {
    const pointed = n === place.line;
    const line = lines[n - 1]!;
    const column = pointed ? expanded(line.slice(0, Math.max(0, place.column - 1))).length : 0;
    const from = column < widest - 10 ? 0 : column - before;
    out.push(`${pointed ? '▸' : ' '} ${String(n).padStart(width)} │ ${cut(expanded(line), from)}`.trimEnd());
    if (pointed) out.push(`  ${' '.repeat(width)} │ ${' '.repeat(column - from)}▲`);
  }
  return out.join('\n');
}
