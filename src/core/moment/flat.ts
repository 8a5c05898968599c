/** A canonical moment as one that can be drawn: with ids, counted in document order, and the texts of its sheets. */
import { stageHost } from '../wire/stage.ts';
import { type CanonicalMoment, type CanonicalNode, isPlainLink } from './canonical.ts';
import { type ElementEntry, emptyMoment, type Moment, type SheetEntry } from './moment.ts';

/** A moment with the files that it shows: address → hash. */
export type Scene = {
  moment: Moment;
  assets: Record<string, string>;
  /** Ids of elements that are not compared. */
  leftOut?: readonly number[];
};

const pageBase = `http://${stageHost}/`;

type LinkedSheet = Extract<SheetEntry, { css: string }>;

type Walk = {
  moment: Moment;
  next: number;
  sheets: number;
  sheetFor(hash: string): LinkedSheet;
  texts: ReadonlyMap<string, string>;
  leftOut: number[];
};

function putSheet(sheet: SheetEntry, walk: Walk): number {
  const id = walk.sheets++;
  walk.moment.sheets[id] = sheet;
  return id;
}

const addSheet = (hash: string, walk: Walk): number => putSheet(walk.sheetFor(hash), walk);

const folderOf = (address: string): string => address.slice(0, address.lastIndexOf('/'));

/** True for a sheet that says the same when its rules stand behind those of another. */
const mayFollow = (one: LinkedSheet, before: LinkedSheet): boolean =>
  folderOf(one.base) === folderOf(before.base) && !/@(import|namespace|charset)\b/.test(one.css);

/** Adds children; sheets that are linked one behind the other are one. */
function addKids(kids: readonly CanonicalNode[], walk: Walk): number[] {
  const ids: number[] = [];
  let last: LinkedSheet | null = null;
  for (const kid of kids) {
    const sheet = isPlainLink(kid) ? walk.sheetFor(kid.sheet) : null;
    if (sheet && last && mayFollow(sheet, last)) {
      last.css += `\n${sheet.css}`;
      continue;
    }
    const id = addNode(kid, walk);
    ids.push(id);
    const entry = walk.moment.nodes[id]!;
    last = sheet && 'sheet' in entry ? (walk.moment.sheets[entry.sheet!] as LinkedSheet) : null;
  }
  return ids;
}

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
  const sheetFor = (hash: string): LinkedSheet => ({
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
