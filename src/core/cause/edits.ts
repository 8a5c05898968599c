/** Everything in which two scenes differ, as edits: each can be made to the earlier one, alone or with others. */
import type { ElementState } from '../moment/moment.ts';
import { type ElementEntry, isText, type Moment, type View } from '../moment/moment.ts';
import { longestRun } from '../list/align.ts';
import { parseStyle } from './css.ts';
import type { Pair } from './pair.ts';
import { type Merged, mergeSheets, type SheetDifference } from './sheet.ts';
import { kidsOf } from './tree.ts';

/** What can be seen of an element besides its attributes, and the size of its frame. */
type Shown = ElementState & { frame?: [number, number] };

export type Edit =
  | { kind: 'text'; node: number; before: string; now: string }
  | { kind: 'attribute'; node: number; name: string; before: string | null; now: string | null }
  /** A class that gave way to another one, came, or went. */
  | { kind: 'class'; node: number; before: string | null; now: string | null }
  /** A declaration in a `style` attribute. */
  | { kind: 'style'; node: number; property: string; before: string | null; now: string | null }
  | { kind: 'state'; node: number; name: keyof Shown; before: unknown; now: unknown }
  | { kind: 'added' | 'removed' | 'moved'; node: number }
  | { kind: 'sheet'; sheet: number; difference: SheetDifference }
  /** A file at one address that holds something else. */
  | { kind: 'file'; address: string; before: string; now: string }
  | { kind: 'view'; name: keyof View; before: unknown; now: unknown };

/** All edits, and the two versions of each sheet that differs. */
export type Edits = { list: Edit[]; sheets: Map<number, Merged[]> };

const equal = (a: unknown, b: unknown): boolean => JSON.stringify(a) === JSON.stringify(b);

const words = (value: string | undefined): string[] => (value ?? '').split(/\s+/).filter(Boolean);

function classEdits(node: number, before: string | undefined, now: string | undefined): Edit[] {
  const [had, has] = [words(before), words(now)];
  const lost = had.filter((name) => !has.includes(name));
  const added = has.filter((name) => !had.includes(name));
  if (lost.length === 1 && added.length === 1) return [{ kind: 'class', node, before: lost[0]!, now: added[0]! }];
  return [
    ...lost.map((name): Edit => ({ kind: 'class', node, before: name, now: null })),
    ...added.map((name): Edit => ({ kind: 'class', node, before: null, now: name })),
  ];
}

function styleEdits(node: number, before: string | undefined, now: string | undefined): Edit[] {
  const values = (style = ''): Map<string, string> =>
    new Map(parseStyle(style).map(({ property, value }) => [property, value]));
  const [had, has] = [values(before), values(now)];
  return [...new Set([...had.keys(), ...has.keys()])].flatMap((property): Edit[] => {
    const [was, is] = [had.get(property) ?? null, has.get(property) ?? null];
    return was === is ? [] : [{ kind: 'style', node, property, before: was, now: is }];
  });
}

function attributeEdits(node: number, { attrs: had = {} }: ElementEntry, { attrs: has = {} }: ElementEntry): Edit[] {
  return [...new Set([...Object.keys(had), ...Object.keys(has)])].flatMap((name): Edit[] => {
    const [before, now] = [had[name], has[name]];
    if (before === now) return [];
    if (name === 'class') return classEdits(node, before, now);
    if (name === 'style') return styleEdits(node, before, now);
    return [{ kind: 'attribute', node, name, before: before ?? null, now: now ?? null }];
  });
}

const shownBy = ({ state, frame }: ElementEntry): Shown => ({
  ...state,
  ...(frame && { frame: [frame.width, frame.height] }),
});

function stateEdits(node: number, before: ElementEntry, now: ElementEntry): Edit[] {
  const [had, has] = [shownBy(before), shownBy(now)];
  const names = new Set([...Object.keys(had), ...Object.keys(has)]) as Set<keyof Shown>;
  return [...names]
    .filter((name) => !equal(had[name], has[name]))
    .map((name) => ({ kind: 'state', node, name, before: had[name], now: has[name] }));
}

/** The lists of children of an element: its own, and those of its shadow root. */
const listsOf = (entry: ElementEntry): number[][] => [entry.kids ?? [], entry.shadow?.kids ?? []];

/** Children that came, went, or stand elsewhere. */
function kidEdits({ before, now, trees }: Pair, had: ElementEntry, has: ElementEntry): Edit[] {
  const edits: Edit[] = [];
  const [thenParents, parents] = [trees.before.parents, trees.now.parents];
  const lists = listsOf(has);
  listsOf(had).forEach((mine, which) => {
    const others = lists[which]!;
    for (const id of mine) if (!now.moment.nodes[id]) edits.push({ kind: 'removed', node: id });
    for (const id of others) if (!before.moment.nodes[id]) edits.push({ kind: 'added', node: id });
    const places = new Map(mine.map((id, i) => [id, i]));
    const staying = others.flatMap((id, j): [number, number][] => (places.has(id) ? [[places.get(id)!, j]] : []));
    const kept = new Set(longestRun(staying.sort(([one], [other]) => one - other)).map(([, j]) => others[j]!));
    for (const id of others) {
      const isElsewhere = thenParents.get(id) !== parents.get(id) || !places.has(id);
      if (before.moment.nodes[id] && (isElsewhere || !kept.has(id))) edits.push({ kind: 'moved', node: id });
    }
  });
  return edits;
}

/** Nodes that were there before, and stand in what is new now. */
function movedIntoNew({ before, now, trees }: Pair): Edit[] {
  return trees.now.order.flatMap((id): Edit[] => {
    const parent = trees.now.parents.get(id);
    const isKept = before.moment.nodes[id] !== undefined;
    return isKept && parent !== undefined && !before.moment.nodes[parent] && now.moment.nodes[id]
      ? [{ kind: 'moved', node: id }]
      : [];
  });
}

function nodeEdits(pair: Pair): Edit[] {
  const { before, now, trees } = pair;
  const edits = trees.before.order.flatMap((id): Edit[] => {
    const [one, other] = [before.moment.nodes[id]!, now.moment.nodes[id]];
    if (!other) return [];
    if (isText(one) || isText(other)) {
      const [was, is] = [isText(one) ? one.text : '', isText(other) ? other.text : ''];
      return was === is ? [] : [{ kind: 'text', node: id, before: was, now: is }];
    }
    return [...attributeEdits(id, one, other), ...stateEdits(id, one, other), ...kidEdits(pair, one, other)];
  });
  return [...edits, ...movedIntoNew(pair)];
}

/** The files that a moment shows by their addresses, style sheets aside. */
function filesShown({ nodes, sheets }: Moment): (address: string) => boolean {
  const texts = Object.values(sheets).map((sheet) => ('css' in sheet ? sheet.css : ''));
  const values = Object.values(nodes).flatMap((entry) => (isText(entry) ? [] : Object.values(entry.attrs ?? {})));
  const all = [...texts, ...values].join('\n');
  const bases = new Set(Object.values(sheets).map((sheet) => ('css' in sheet ? sheet.base : sheet.url)));
  return (address) => !bases.has(address) && all.includes(address.slice(address.lastIndexOf('/') + 1));
}

function fileEdits({ before, now }: Pair): Edit[] {
  const isShown = filesShown(now.moment);
  return Object.entries(before.assets).flatMap(([address, hash]): Edit[] => {
    const other = now.assets[address];
    if (other === undefined || other === hash || !isShown(address)) return [];
    return [{ kind: 'file', address, before: hash, now: other }];
  });
}

function viewEdits({ before, now }: Pair): Edit[] {
  const names = new Set([...Object.keys(before.moment.view), ...Object.keys(now.moment.view)]) as Set<keyof View>;
  return [...names].flatMap((name): Edit[] => {
    const [was, is] = [before.moment.view[name], now.moment.view[name]];
    return equal(was, is) ? [] : [{ kind: 'view', name, before: was, now: is }];
  });
}

/** Everything in which the scenes of a pair differ. */
export function editsOf(pair: Pair): Edits {
  const { before, now } = pair;
  const list = [...nodeEdits(pair), ...fileEdits(pair), ...viewEdits(pair)];
  const sheets = new Map<number, Merged[]>();
  for (const [key, sheet] of Object.entries(now.moment.sheets)) {
    const former = before.moment.sheets[key];
    if (!former || !('css' in former) || !('css' in sheet) || former.css === sheet.css) continue;
    const id = Number(key);
    const note = (difference: SheetDifference): number => list.push({ kind: 'sheet', sheet: id, difference }) - 1;
    sheets.set(id, mergeSheets(former.css, sheet.css, note));
  }
  return { list, sheets };
}

/** A node with everything that it holds. */
export function* within(moment: Moment, id: number, seen = new Set<number>()): Generator<number> {
  const entry = moment.nodes[id];
  if (!entry || seen.has(id)) return;
  seen.add(id);
  yield id;
  if (!isText(entry)) for (const kid of kidsOf(entry)) yield* within(moment, kid, seen);
}
