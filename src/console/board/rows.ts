/** The board's rows: a heading for each component, and its looks in rows of as many as fit. */
import type { ResultSummary } from '../../core/run/run.ts';

export type Row =
  | { kind: 'header'; component: string; file: string; count: number }
  | { kind: 'tiles'; looks: ResultSummary[] };

/** `Pier2` before `Pier10`. */
const byName = new Intl.Collator('en', { numeric: true });

/** The order in which looks stand: by component, as in its look file, environments side by side. */
export const boardOrder = (a: ResultSummary, b: ResultSummary): number =>
  byName.compare(a.component, b.component) || a.order - b.order || byName.compare(a.environment, b.environment);

export function layOut(looks: readonly ResultSummary[], columns: number): Row[] {
  const groups = new Map<string, ResultSummary[]>();
  for (const look of [...looks].sort(boardOrder)) {
    const group = groups.get(look.component);
    if (group) group.push(look);
    else groups.set(look.component, [look]);
  }
  const rows: Row[] = [];
  for (const [component, group] of groups) {
    rows.push({ kind: 'header', component, file: group[0]!.file, count: group.length });
    for (let i = 0; i < group.length; i += columns) rows.push({ kind: 'tiles', looks: group.slice(i, i + columns) });
  }
  return rows;
}
