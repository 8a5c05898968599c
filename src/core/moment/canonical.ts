/**
 * The canonical form of a moment: what can be seen of it, in document order and without ids, files by their content.
 * Two moments with equal canonical forms have equal pictures under one engine fingerprint.
 */
import { idNames } from './ids.ts';
import { type ChangedMedia, type ElementEntry, type ElementState, isText, type Moment } from './moment.ts';

export type CanonicalElement = {
  tag: string;
  ns?: 'svg' | 'math';
  /** Sorted by name. */
  attrs?: Record<string, string>;
  state?: ElementState;
  /** What the pointer and the focus do here. */
  at?: ('hover' | 'focus' | 'focus-visible')[];
  /** For `style` and linked sheets: the hash of the sheet's text. */
  sheet?: string;
  shadow?: { kids: CanonicalNode[]; sheets?: string[] };
  frame?: { kid: CanonicalNode | null; width: number; height: number };
  kids?: CanonicalNode[];
  /** It is not rendered, and neither is what it holds. */
  unseen?: true;
  /** It is not compared, and neither is what it holds. */
  leftOut?: true;
};

/** An element, or a text. */
export type CanonicalNode = string | CanonicalElement;

export type CanonicalMoment = {
  view: { width: number; height: number; scroll: [number, number]; media?: ChangedMedia };
  /** Hashes of the sheets that the document has adopted. */
  sheets: string[];
  /** Address of each file that is shown → hash of its bytes. */
  assets: Record<string, string>;
  root: CanonicalNode;
};

/** What a moment refers to by content. */
export type Contents = {
  /** SHA-256 of a text, in hexadecimal. */
  hash(text: string): string;
  /** Hash of the file at an address, where it was gathered. */
  assets: Readonly<Record<string, string>>;
  /** Ids of nodes that are not rendered, where that was asked. */
  unseen?: ReadonlySet<number>;
  /** Ids of nodes that are not compared. */
  leftOut?: ReadonlySet<number>;
};

/** Elements that show nothing, and differ from one build to the next. */
const unseen = new Set(['script', 'noscript', 'title', 'base']);

/** Attributes of elements with a sheet that matter beside the sheet. */
const sheetAttributes = new Set(['media', 'disabled']);

const isShown = ({ tag, attrs }: ElementEntry): boolean => {
  if (unseen.has(tag)) return false;
  if (tag === 'meta') return /^(color-scheme|viewport)$/i.test(attrs?.name ?? '');
  return tag !== 'link' || attrs?.rel?.toLowerCase() === 'stylesheet';
};

/** A moment's nodes come from a page, which may have made circles of them; nothing is visited twice. */
type Walk = { moment: Moment; contents: Contents; rename(value: string): string; seen: Set<number>; depth: number };

/** Twice as deep as any parser nests elements; what lies deeper is left out. */
const deepest = 1000;

function attributesOf({ attrs = {}, sheet }: ElementEntry, { contents, rename }: Walk): Record<string, string> {
  const kept: Record<string, string> = {};
  for (const name of Object.keys(attrs).sort()) {
    if (sheet !== undefined && !sheetAttributes.has(name)) continue;
    const value = attrs[name]!;
    // The address of an object in memory is a new one at every run.
    const known = value.startsWith('blob:') ? contents.assets[value] : undefined;
    kept[name] = known ? `blob:${known}` : rename(value);
  }
  return kept;
}

function sheetHash(id: number, { moment, contents }: Walk): string {
  const sheet = moment.sheets[id];
  if (!sheet) return '';
  return 'url' in sheet ? (contents.assets[sheet.url] ?? `missing ${sheet.url}`) : contents.hash(sheet.css);
}

function stateOf({ state }: ElementEntry, { contents }: Walk): ElementState | undefined {
  return state?.pixels === undefined ? state : { ...state, pixels: contents.hash(state.pixels) };
}

function kidsOf(ids: readonly number[], walk: Walk): CanonicalNode[] {
  const kids: CanonicalNode[] = [];
  for (const id of ids) {
    const node = nodeOf(id, walk);
    if (node !== null) kids.push(node);
  }
  return kids;
}

function nodeOf(id: number, walk: Walk): CanonicalNode | null {
  const entry = walk.moment.nodes[id];
  if (!entry || walk.seen.has(id) || walk.depth >= deepest) return null;
  walk.seen.add(id);
  if (isText(entry)) return entry.text === '' ? null : entry.text;
  if (!isShown(entry)) return null;
  walk.depth++;
  const node: CanonicalElement = { tag: entry.tag };
  if (entry.ns) node.ns = entry.ns;
  if (walk.contents.unseen?.has(id)) node.unseen = true;
  if (walk.contents.leftOut?.has(id)) node.leftOut = true;
  const attrs = attributesOf(entry, walk);
  if (Object.keys(attrs).length > 0) node.attrs = attrs;
  const state = stateOf(entry, walk);
  if (state) node.state = state;
  const { hover, focus, focusVisible } = walk.moment.view;
  const at: CanonicalElement['at'] = [];
  if (hover.includes(id)) at.push('hover');
  if (focus === id) at.push('focus');
  if (focus === id && focusVisible) at.push('focus-visible');
  if (at.length > 0) node.at = at;
  if (entry.sheet !== undefined) node.sheet = sheetHash(entry.sheet, walk);
  if (entry.shadow) {
    node.shadow = { kids: kidsOf(entry.shadow.kids, walk) };
    if (entry.shadow.sheets) node.shadow.sheets = entry.shadow.sheets.map((sheet) => sheetHash(sheet, walk));
  }
  if (entry.frame) {
    const { kid, width, height } = entry.frame;
    node.frame = { kid: kid === null ? null : nodeOf(kid, walk), width, height };
  }
  const kids = kidsOf(entry.kids ?? [], walk);
  if (kids.length > 0) node.kids = kids;
  walk.depth--;
  return node;
}

/** The canonical form of a moment. Total: whatever the moment holds, this ends and throws nothing. */
export function canonicalise(moment: Moment, contents: Contents): CanonicalMoment {
  const { width, height, scroll, sheets, media } = moment.view;
  const walk: Walk = { moment, contents, rename: idNames(), seen: new Set(), depth: 0 };
  const root = nodeOf(moment.root, walk) ?? '';
  const view = { width, height, scroll, ...(media && { media }) };
  return { view, sheets: sheets.map((id) => sheetHash(id, walk)), assets: {}, root };
}

/** A link to a sheet that says nothing but which, as those of bundles do. */
export type PlainLink = CanonicalElement & { sheet: string };

/**
 * True for a plain link. Of several that stand side by side counts what they say together: which of them a rule is in
 * depends on which look files were built together.
 */
export function isPlainLink(node: CanonicalNode): node is PlainLink {
  if (typeof node === 'string' || node.tag !== 'link' || node.sheet === undefined) return false;
  return Object.keys(node).length === 2;
}

/** Every element of a canonical moment, in document order. */
export function* elementsOf(node: CanonicalNode | null): Generator<CanonicalElement> {
  if (node === null || typeof node === 'string') return;
  yield node;
  for (const kid of node.shadow?.kids ?? []) yield* elementsOf(kid);
  if (node.frame) yield* elementsOf(node.frame.kid);
  for (const kid of node.kids ?? []) yield* elementsOf(kid);
}

/** The hashes of all sheets of a canonical moment. */
export function sheetsOf({ sheets, root }: CanonicalMoment): string[] {
  const found = new Set(sheets);
  for (const { sheet, shadow } of elementsOf(root)) {
    if (sheet) found.add(sheet);
    for (const one of shadow?.sheets ?? []) found.add(one);
  }
  return [...found].filter((hash) => /^[0-9a-f]{64}$/.test(hash)).sort();
}

/** The hashes of what the canvases of a canonical moment show. */
export const drawingsOf = ({ root }: CanonicalMoment): string[] => [
  ...new Set([...elementsOf(root)].flatMap(({ state }) => state?.pixels ?? [])),
];
