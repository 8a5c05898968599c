/** A canonical moment as one that can be drawn: with ids, counted in document order, and the texts of its sheets. */
import { stageHost } from '../wire/stage.ts';
import type { CanonicalMoment, CanonicalNode } from './canonical.ts';
import { type ElementEntry, emptyMoment, type Moment, type SheetEntry } from './moment.ts';

/** A moment with the files that it shows: address → hash. */
export type Scene = {
  moment: Moment;
  assets: Record<string, string>;
  /** Ids of elements that are not compared. */
  leftOut?: readonly number[];
};

const pageBase = `http://${stageHost}/`;

type Walk = {
  moment: Moment;
  next: number;
  sheets: number;
  sheetFor(hash: string): SheetEntry;
  texts: ReadonlyMap<string, string>;
  leftOut: number[];
};

function addSheet(hash: string, walk: Walk): number {
  const id = walk.sheets++;
  walk.moment.sheets[id] = walk.sheetFor(hash);
  return id;
}

const addKids = (kids: readonly CanonicalNode[], walk: Walk): number[] => kids.map((kid) => addNode(kid, walk));

function addNode(node: CanonicalNode, walk: Walk): number {
  const id = walk.next++;
  const { nodes, view } = walk.moment;
  if (typeof node === 'string') {
    nodes[id] = { text: node };
    return id;
  }
  const { tag, ns, attrs, state, at = [], sheet, shadow, frame, leftOut } = node;
  if (leftOut) walk.leftOut.push(id);
  const entry: ElementEntry = { tag };
  nodes[id] = entry;
  if (ns) entry.ns = ns;
  if (attrs) entry.attrs = attrs;
  // What a canvas shows is named by its hash; without its text it is drawn empty.
  if (state)
    entry.state = state.pixels === undefined ? state : { ...state, pixels: walk.texts.get(state.pixels) ?? '' };
  if (at.includes('hover')) view.hover.push(id);
  if (at.includes('focus')) view.focus = id;
  if (at.includes('focus-visible')) view.focusVisible = true;
  if (sheet !== undefined) entry.sheet = addSheet(sheet, walk);
  if (shadow) {
    entry.shadow = { kids: addKids(shadow.kids, walk) };
    if (shadow.sheets) entry.shadow.sheets = shadow.sheets.map((hash) => addSheet(hash, walk));
  }
  if (frame) entry.frame = { ...frame, kid: frame.kid === null ? null : addNode(frame.kid, walk) };
  // What a style element holds is told by its sheet.
  if (node.kids && sheet === undefined) entry.kids = addKids(node.kids, walk);
  return id;
}

/** The addresses by which objects in memory are named in canonical moments, each with the hash of its bytes. */
function* blobsOf(node: CanonicalNode | null): Generator<string> {
  if (node === null || typeof node === 'string') return;
  for (const value of Object.values(node.attrs ?? {})) if (/^blob:[0-9a-f]{64}$/.test(value)) yield value;
  for (const kid of [...(node.shadow?.kids ?? []), node.frame?.kid ?? null, ...(node.kids ?? [])]) yield* blobsOf(kid);
}

/**
 * The moment that a canonical form stands for. `texts` has the sheets, and what canvases show, by their hashes; what
 * is missing is empty.
 * `assets` are the files that its look has shown, by address.
 */
export function flatten(
  { view, sheets, root }: CanonicalMoment,
  texts: ReadonlyMap<string, string>,
  assets: Readonly<Record<string, string>>,
): Scene {
  const addresses = new Map(Object.entries(assets).map(([address, hash]) => [hash, address]));
  const moment = emptyMoment(view.width, view.height);
  moment.nodes = {};
  moment.view = { ...moment.view, ...view };
  const sheetFor = (hash: string): SheetEntry => ({
    css: texts.get(hash) ?? '',
    base: addresses.get(hash) ?? pageBase,
  });
  const walk: Walk = { moment, next: 1, sheets: 1, sheetFor, texts, leftOut: [] };
  moment.root = addNode(root, walk);
  moment.view.sheets = sheets.map((hash) => addSheet(hash, walk));
  const blobs = Object.fromEntries([...blobsOf(root)].map((name) => [name, name.slice('blob:'.length)]));
  const { leftOut } = walk;
  return { moment, assets: { ...assets, ...blobs }, ...(leftOut.length > 0 && { leftOut }) };
}
