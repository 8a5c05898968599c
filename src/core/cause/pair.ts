/** Two scenes in one numbering: what is the same node or the same sheet has the same number in both. */
import type { Scene } from '../moment/flat.ts';
import { type ElementEntry, isText, type Moment, type NodeEntry } from '../moment/moment.ts';
import { alignKeys } from '../list/align.ts';
import { match } from './match.ts';
import { withFormerNames } from './rename.ts';
import { interning, type Outline, outlineOf, textOfSheet, treeOf } from './tree.ts';

export type Pair = { before: Scene; now: Scene; trees: { before: Outline; now: Outline } };

const largest = (record: Record<string, unknown>): number =>
  Object.keys(record).reduce((most, key) => Math.max(most, Number(key)), 0);

/** The numbers of later sheets: those of the earlier ones in the same places. */
function sheetNumbers(before: Moment, now: Moment, nodes: ReadonlyMap<number, number>): Map<number, number> {
  const numbers = new Map<number, number>();
  const side = (mine: readonly number[], others: readonly number[]): void => {
    const texts = (moment: Moment, ids: readonly number[]): string[] => ids.map((id) => textOfSheet(moment, id));
    const aligned = alignKeys(texts(before, mine), texts(now, others));
    const [lost, added]: [number[], number[]] = [[], []];
    for (const { before: i, now: j } of aligned) {
      if (i !== null && j !== null) numbers.set(others[j]!, mine[i]!);
      else if (i !== null) lost.push(mine[i]!);
      else added.push(others[j!]!);
    }
    // What is left in both has changed in its place.
    for (const [i, id] of added.entries()) if (lost[i] !== undefined) numbers.set(id, lost[i]);
  };
  side(before.view.sheets, now.view.sheets);
  for (const [x, y] of nodes) {
    const [one, other] = [before.nodes[x]!, now.nodes[y]!];
    if (isText(one) || isText(other)) continue;
    if (one.sheet !== undefined && other.sheet !== undefined) numbers.set(other.sheet, one.sheet);
    if (one.shadow && other.shadow) side(one.shadow.sheets ?? [], other.shadow.sheets ?? []);
  }
  let next = largest(before.sheets) + 1;
  for (const id of Object.keys(now.sheets)) if (!numbers.has(Number(id))) numbers.set(Number(id), next++);
  return numbers;
}

/** An entry whose references are renumbered. */
function renumbered(entry: NodeEntry, node: (id: number) => number, sheet: (id: number) => number): NodeEntry {
  if (isText(entry)) return entry;
  const { kids, shadow, frame } = entry;
  const next: ElementEntry = { ...entry };
  if (kids) next.kids = kids.map(node);
  if (entry.sheet !== undefined) next.sheet = sheet(entry.sheet);
  if (shadow) {
    next.shadow = { kids: shadow.kids.map(node) };
    if (shadow.sheets) next.shadow.sheets = shadow.sheets.map(sheet);
  }
  if (frame) next.frame = { ...frame, kid: frame.kid === null ? null : node(frame.kid) };
  return next;
}

/** Puts two scenes into one numbering, that of the earlier one. */
export function pairScenes(before: Scene, later: Scene): Pair {
  const intern = interning();
  const mine = treeOf(before.moment, intern);
  const others = treeOf(later.moment, intern);
  const matching = match(mine, others);
  const moment = withFormerNames(before.moment, later.moment, matching);
  const sheets = sheetNumbers(before.moment, moment, matching.now);
  const nodes = new Map(matching.before);
  let next = largest(before.moment.nodes) + 1;
  for (const id of others.order) if (!nodes.has(id)) nodes.set(id, next++);
  const node = (id: number): number => nodes.get(id) ?? 0;
  const sheet = (id: number): number => sheets.get(id) ?? 0;
  const { view } = moment;
  const now: Moment = {
    root: node(moment.root),
    nodes: Object.fromEntries(others.order.map((id) => [node(id), renumbered(moment.nodes[id]!, node, sheet)])),
    sheets: Object.fromEntries(Object.entries(moment.sheets).map(([id, entry]) => [sheet(Number(id)), entry])),
    view: {
      ...view,
      hover: view.hover.map(node),
      focus: view.focus === null ? null : node(view.focus),
      sheets: view.sheets.map(sheet),
    },
  };
  const scene = { moment: now, assets: later.assets, leftOut: (later.leftOut ?? []).map(node) };
  return { before, now: scene, trees: { before: mine, now: outlineOf(now) } };
}
