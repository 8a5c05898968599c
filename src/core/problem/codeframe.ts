/** The lines of a source around a place, numbered, with a pointer under the column. */
import type { SourcePlace } from '../timeline/timeline.ts';

export function codeFrame(source: string, place: Pick<SourcePlace, 'line' | 'column'>, around = 2): string {
  const lines = source.split('\n');
  const first = Math.max(1, place.line - around);
  const last = Math.min(lines.length, place.line + around);
  const width = String(last).length;
  const out: string[] = [];
  for (let n = first; n <= last; n++) {
    const text = lines[n - 1]!.replace(/\t/g, '  ').slice(0, 160);
    out.push(`${n === place.line ? '▸' : ' '} ${String(n).padStart(width)} │ ${text}`.trimEnd());
    if (n === place.line) out.push(`  ${' '.repeat(width)} │ ${' '.repeat(Math.max(0, place.column - 1))}▲`);
  }
  return out.join('\n');
}
