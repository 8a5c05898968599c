/** Carries out some of the edits between two scenes on the earlier one. */
import type { Scene } from '../moment/flat.ts';
import {
  type ElementEntry,
  type ElementState,
  isText,
  type Moment,
  type NodeEntry,
  type View,
} from '../moment/moment.ts';
import type { Edit, Edits } from './edits.ts';
import type { Pair } from './pair.ts';
import { writeMerged } from './sheet.ts';

type Work = {
  pair: Pair;
  isChosen(edit: number): boolean;
  /** Edits by the node that they are about, each with its number. */
  byNode: ReadonlyMap<number, (readonly [number, Edit])[]>;
  isMoved(node: number): boolean;
  isAdded(node: number): boolean;
  isRemoved(node: number): boolean;
};

/** Children of an element of the earlier scene: those that stay, with those that came behind what they stand behind. */
function kidsUnder(had: readonly number[], has: readonly number[], work: Work): number[] {
  const { pair, isMoved, isAdded, isRemoved } = work;
  const kids = had.filter((id) => !isRemoved(id) && !isMoved(id));
  const there = new Set(kids);
  let last: number | null = null;
  for (const id of has) {
    const comes = !there.has(id) && (pair.before.moment.nodes[id] ? isMoved(id) : isAdded(id));
    if (comes) {
      kids.splice(last === null ? 0 : kids.indexOf(last) + 1, 0, id);
      there.add(id);
    }
    if (there.has(id)) last = id;
  }
  return kids;
}

function withAttributes(
  attrs: Record<string, string>,
  now: Record<string, string>,
  edits: readonly (readonly [number, Edit])[],
  { isChosen }: Work,
) {
  const next = { ...attrs };
  const set = (name: string, value: string | null): void => {
    if (value === null || value === '') delete next[name];
    else next[name] = value;
  };
  for (const kind of ['class', 'style'] as const) {
    const mine = edits.filter(([, edit]) => edit.kind === kind);
    const chosen = mine.filter(([at]) => isChosen(at)).map(([, edit]) => edit);
    // With every edit it is what it is now, to the letter.
    if (mine.length > 0 && chosen.length === mine.length) set(kind, now[kind] ?? null);
    else if (chosen.length > 0)
      set(kind, kind === 'class' ? composedClass(attrs.class, chosen) : composedStyle(attrs.style, chosen));
  }
  for (const [at, edit] of edits) {
    if (edit.kind !== 'attribute' || !isChosen(at)) continue;
    if (edit.now === null) delete next[edit.name];
    else next[edit.name] = edit.now;
  }
  return next;
}

function composedClass(value = '', edits: readonly Edit[]): string {
  const names = value.split(/\s+/).filter(Boolean);
  for (const edit of edits) {
    if (edit.kind !== 'class') continue;
    const at = edit.before === null ? names.length : names.indexOf(edit.before);
    names.splice(at, edit.before === null ? 0 : 1, ...(edit.now === null ? [] : [edit.now]));
  }
  return names.join(' ');
}

function composedStyle(value = '', edits: readonly Edit[]): string {
  const changed = new Set(edits.flatMap((edit) => (edit.kind === 'style' ? [edit.property] : [])));
  const kept = value.split(/;(?![^(]*\))/).filter((one) => one.trim() && !changed.has(one.split(':')[0]!.trim()));
  const added = edits.flatMap((edit) =>
    edit.kind === 'style' && edit.now !== null ? [`${edit.property}: ${edit.now}`] : [],
  );
  return [...kept, ...added].join('; ');
}

function withState(entry: ElementEntry, edits: readonly (readonly [number, Edit])[], { isChosen }: Work): void {
  for (const [at, edit] of edits) {
    if (edit.kind !== 'state' || !isChosen(at)) continue;
    if (edit.name === 'frame') {
      const [width, height] = (edit.now ?? [0, 0]) as [number, number];
      entry.frame = { ...entry.frame!, width, height };
      continue;
    }
    const state = { ...entry.state } as Record<string, unknown>;
    if (edit.now === undefined) delete state[edit.name];
    else state[edit.name] = edit.now;
    entry.state = state as ElementState;
  }
}

/** A node as it is with the chosen edits. */
function entryOf(id: number, work: Work): NodeEntry | null {
  const { before, now } = work.pair;
  const [had, has] = [before.moment.nodes[id], now.moment.nodes[id]];
  if (!had) return has && !isText(has) ? newEntry(has, work) : (has ?? null);
  if (!has) return had;
  const edits = work.byNode.get(id) ?? [];
  if (isText(had) || isText(has)) {
    const isNow = edits.some(([at, { kind }]) => kind === 'text' && work.isChosen(at));
    return isNow ? has : had;
  }
  const entry: ElementEntry = { ...had };
  const attrs = withAttributes(had.attrs ?? {}, has.attrs ?? {}, edits, work);
  if (Object.keys(attrs).length > 0) entry.attrs = attrs;
  else delete entry.attrs;
  entry.kids = kidsUnder(had.kids ?? [], has.kids ?? [], work);
  if (had.shadow && has.shadow)
    entry.shadow = { ...had.shadow, kids: kidsUnder(had.shadow.kids, has.shadow.kids, work) };
  withState(entry, edits, work);
  return entry;
}

/** An element that is new: what was there before is in it only if that has been moved. */
function newEntry(has: ElementEntry, { pair, isMoved }: Work): ElementEntry {
  const isIn = (id: number): boolean => pair.before.moment.nodes[id] === undefined || isMoved(id);
  const entry = { ...has };
  if (has.kids) entry.kids = has.kids.filter(isIn);
  if (has.shadow) entry.shadow = { ...has.shadow, kids: has.shadow.kids.filter(isIn) };
  return entry;
}

function sheetsOf({ list, sheets }: Edits, { pair: { before, now }, isChosen }: Work): Moment['sheets'] {
  const found: Moment['sheets'] = { ...now.moment.sheets, ...before.moment.sheets };
  for (const [id, merged] of sheets) {
    const mine = list.flatMap((edit, at) => (edit.kind === 'sheet' && edit.sheet === id ? [at] : []));
    const chosen = mine.filter(isChosen);
    const later = now.moment.sheets[id]!;
    if (chosen.length === mine.length) found[id] = later;
    else if (chosen.length > 0 && 'css' in later) found[id] = { ...later, css: writeMerged(merged, isChosen) };
  }
  return found;
}

/** The earlier scene with the chosen edits, by their numbers; with all of them it is the later one. */
export function applyEdits(pair: Pair, edits: Edits, chosen: ReadonlySet<number>): Scene {
  const byNode = new Map<number, (readonly [number, Edit])[]>();
  edits.list.forEach((edit, at) => {
    if ('node' in edit) byNode.set(edit.node, [...(byNode.get(edit.node) ?? []), [at, edit]]);
  });
  const isChosen = (at: number): boolean => chosen.has(at);
  const asks =
    (kind: Edit['kind']) =>
    (node: number): boolean =>
      byNode.get(node)?.some(([at, edit]) => edit.kind === kind && isChosen(at)) ?? false;
  const work: Work = {
    pair,
    isChosen,
    byNode,
    isMoved: asks('moved'),
    isAdded: asks('added'),
    isRemoved: asks('removed'),
  };
  const { before, now } = pair;
  const nodes: Moment['nodes'] = {};
  for (const id of new Set([...pair.trees.before.order, ...pair.trees.now.order])) {
    const entry = entryOf(id, work);
    if (entry) nodes[id] = entry;
  }
  const view: View = { ...before.moment.view };
  const assets = { ...now.assets, ...before.assets };
  edits.list.forEach((edit, at) => {
    if (!isChosen(at)) return;
    if (edit.kind === 'file') assets[edit.address] = edit.now;
    if (edit.kind === 'view') Object.assign(view, { [edit.name]: edit.now });
  });
  return { moment: { root: before.moment.root, nodes, sheets: sheetsOf(edits, work), view }, assets };
}
