/**
 * Records the document as moments: one base, then only what mutations, the live state of a few kinds of elements,
 * scroll offsets and handled style sheets say has changed since.
 */
import type { ElementEntry, Moment, NodeEntry, Patch, SheetEntry, View } from '../../core/moment/moment.ts';
import { append, native } from '../host/natives.ts';
import { animatedNow, type AnimatedValues } from './animated.ts';
import { attributesOf, isStyled, type Styled } from './attributes.ts';
import { documentOf } from './frames.ts';
import { changedMedia } from './media.ts';
import { onRoot, shadowOf } from './roots.ts';
import { adoptedEntry, elementEntry, sheetVersion } from './sheets.ts';
import { focusedIn, isCustom, isMovingPicture, pointedAt, readState, statefulTags } from './state.ts';

const namespaces: Record<string, 'svg' | 'math'> = {
  'http://www.w3.org/2000/svg': 'svg',
  'http://www.w3.org/1998/Math/MathML': 'math',
};
/** What can be scrolled. Asking costs microseconds, and heads and drawings are most of what some pages are made of. */
const mayScroll = ':not(head, head *, svg, svg :not(foreignObject, foreignObject *))';
const observed: MutationObserverInit = { childList: true, attributes: true, characterData: true, subtree: true };

/** Entries on their way into a moment or a patch. */
type Draft = { nodes: Record<string, NodeEntry | null>; sheets: Record<string, SheetEntry | null> };

const isFrame = (element: Element): element is HTMLIFrameElement =>
  element.localName === 'iframe' || element.localName === 'frame';

/** A sheet element as it was last recorded, as far as that can be told without reading it. */
type SheetSeen = { sheet: CSSStyleSheet | null; disabled: boolean; version: number };

export class Recorder {
  readonly #ids = new WeakMap<Node, number>();
  #next = 1;
  /** JSON of every entry as last recorded, by id. */
  readonly #known = new Map<number, string>();
  readonly #knownSheets = new Map<number, string>();
  readonly #sheetIds = new WeakMap<object, number>();
  #nextSheet = 1;
  readonly #stateful = new Set<Element>();
  /** Elements that are scrolled now. */
  readonly #scrolled = new Set<Element>();
  /** What animations make of elements now. */
  #animated: Map<Element, AnimatedValues> = new Map();
  readonly #styled = new Map<Styled, SheetSeen>();
  readonly #adopted = new WeakMap<CSSStyleSheet, SheetSeen>();
  readonly #shadows = new Map<ShadowRoot, readonly CSSStyleSheet[]>();
  readonly #frames = new Map<HTMLIFrameElement, Document>();
  readonly #late = new Set<Element>();
  #records: MutationRecord[] = [];
  readonly #observer = new native.MutationObserver((records) => this.#take(records));
  #view = '';
  readonly #onAsset: (url: string) => void;
  readonly #endRoots: () => void;
  /** How many changes the last patch was made of. */
  changes = 0;

  constructor(onAsset: (url: string) => void) {
    this.#onAsset = onAsset;
    this.#observer.observe(document, observed);
    // A root that is attached to an element that was recorded before changes no node that is observed.
    this.#endRoots = onRoot((root) => void this.#late.add(root.host));
  }

  stop(): void {
    this.#observer.disconnect();
    this.#endRoots();
  }

  /** The id of a recorded node, or null. */
  idOf(node: Node): number | null {
    return this.#ids.get(node) ?? null;
  }

  /** The whole document. Call once, first. */
  base(): Moment {
    const draft: Draft = { nodes: {}, sheets: {} };
    this.#animated = animatedNow();
    const root = this.#encodeTree(document.documentElement, draft);
    this.#late.clear();
    const view = this.#readView(draft);
    this.#view = native.stringify(view);
    return { root, nodes: draft.nodes as Moment['nodes'], sheets: draft.sheets as Moment['sheets'], view };
  }

  /** What has changed since the last call, or null. */
  flush(): Patch | null {
    const draft: Draft = { nodes: {}, sheets: {} };
    this.#take(this.#observer.takeRecords());
    const records = this.#records;
    this.#records = [];
    this.changes = records.length;
    const { dirty, removed, returned } = this.#sort(records);
    for (const element of this.#animated.keys()) dirty.add(element);
    this.#animated = animatedNow();
    for (const element of this.#animated.keys()) dirty.add(element);
    for (const node of removed) if (!this.#isShown(node)) this.#forget(node, draft);
    // What happened to a node while it was out of the document was not observed.
    for (const node of returned) this.#encodeDeeply(node, draft);
    for (const node of dirty) this.#encodeAgain(node.nodeType === 11 ? (node as ShadowRoot).host : node, draft);
    this.#readSheets(draft);
    return this.#toPatch(draft);
  }

  #take(records: MutationRecord[]): void {
    for (let i = 0; i < records.length; i++) this.#records[this.#records.length] = records[i]!;
  }

  /** True for a node of the document, of a shadow root in it, or of a frame that is recorded. */
  #isShown(node: Node): boolean {
    if (!node.isConnected) return false;
    if (node.ownerDocument === document || node === document) return true;
    const frame = node.ownerDocument?.defaultView?.frameElement as HTMLIFrameElement | null | undefined;
    return frame != null && this.#isShown(frame);
  }

  #sort(records: readonly MutationRecord[]): { dirty: Set<Node>; removed: Set<Node>; returned: Set<Node> } {
    const dirty = new Set<Node>(this.#late);
    const removed = new Set<Node>();
    const returned = new Set<Node>();
    this.#late.clear();
    for (const { target, removedNodes, addedNodes } of records) {
      dirty.add(target);
      for (const node of removedNodes) removed.add(node);
      for (const node of addedNodes) if (this.#ids.has(node)) returned.add(node);
      // Text inside a style element is its sheet.
      const owner = target.nodeType === 1 ? target : target.parentNode;
      if (owner?.nodeName === 'STYLE' || owner?.nodeName === 'style') dirty.add(owner);
    }
    for (const element of this.#stateful) dirty.add(element);
    for (const element of this.#scrolledNow()) dirty.add(element);
    for (const element of this.#scrolled) dirty.add(element);
    for (const [root, adopted] of this.#shadows) {
      const now = root.adoptedStyleSheets;
      if (now.length !== adopted.length || now.some((sheet, i) => sheet !== adopted[i])) dirty.add(root.host);
    }
    return { dirty, removed, returned };
  }

  /** Elements that are scrolled: their event comes a frame later. */
  *#scrolledNow(): Generator<Element> {
    const roots: (Document | ShadowRoot)[] = [document, ...this.#shadows.keys(), ...this.#frames.values()];
    for (const root of roots)
      for (const element of root.querySelectorAll(mayScroll))
        if (element.scrollTop !== 0 || element.scrollLeft !== 0) yield element;
  }

  #readSheets(draft: Draft): void {
    for (const [element, seen] of this.#styled) {
      const { sheet } = element;
      const disabled = sheet?.disabled === true;
      if (sheet === seen.sheet && disabled === seen.disabled && sheetVersion(sheet) === seen.version) continue;
      if (this.#isShown(element)) this.#styledSheet(element, draft);
    }
    for (const [root, adopted] of this.#shadows) if (root.isConnected) this.#adopt(adopted, root.host.baseURI, draft);
  }

  #toPatch({ nodes, sheets }: Draft): Patch | null {
    const patch: Patch = {};
    const view = this.#readView({ nodes, sheets });
    const text = native.stringify(view);
    if (text !== this.#view) {
      const before = JSON.parse(this.#view) as View;
      const differs = ([key, value]: [string, unknown]): boolean =>
        native.stringify(value) !== native.stringify(before[key as keyof View]);
      patch.view = Object.fromEntries(Object.entries(view).filter(differs));
      this.#view = text;
    }
    if (Object.keys(nodes).length > 0) patch.nodes = nodes;
    if (Object.keys(sheets).length > 0) patch.sheets = sheets;
    return patch.nodes || patch.sheets || patch.view ? patch : null;
  }

  #forget(node: Node, draft: Draft): void {
    const id = this.#ids.get(node);
    if (id !== undefined && this.#known.delete(id)) draft.nodes[id] = null;
    if (node.nodeType === 1) {
      const element = node as Element;
      this.#stateful.delete(element);
      this.#scrolled.delete(element);
      this.#styled.delete(element as Styled);
      const shadow = shadowOf(element);
      if (shadow) {
        this.#shadows.delete(shadow);
        for (const kid of shadow.childNodes) this.#forget(kid, draft);
      }
      const inner = this.#frames.get(element as HTMLIFrameElement);
      this.#frames.delete(element as HTMLIFrameElement);
      if (inner?.documentElement) this.#forget(inner.documentElement, draft);
    }
    for (const kid of node.childNodes) this.#forget(kid, draft);
  }

  #encodeAgain(node: Node, draft: Draft): void {
    const id = this.#ids.get(node);
    // A node that is not known is reached through its parent, which has changed too.
    if (id === undefined || !this.#known.has(id) || !this.#isShown(node)) return;
    const entry = this.#encode(node, draft);
    const text = native.stringify(entry);
    if (text === this.#known.get(id)) return;
    this.#known.set(id, text);
    draft.nodes[id] = entry;
  }

  #encodeDeeply(node: Node, draft: Draft): void {
    this.#encodeAgain(node, draft);
    const shadow = node.nodeType === 1 ? shadowOf(node as Element) : null;
    if (shadow) for (const kid of shadow.childNodes) this.#encodeDeeply(kid, draft);
    for (const kid of node.childNodes) this.#encodeDeeply(kid, draft);
  }

  /** Encodes a node that was not known (or was dropped and came back), with everything below it. */
  #encodeTree(node: Node, draft: Draft): number {
    let id = this.#ids.get(node);
    if (id === undefined) {
      id = this.#next++;
      this.#ids.set(node, id);
    } else if (this.#known.has(id)) return id;
    this.#known.set(id, '');
    const entry = this.#encode(node, draft);
    this.#known.set(id, native.stringify(entry));
    draft.nodes[id] = entry;
    return id;
  }

  #kids(parent: Node, draft: Draft): number[] {
    const kids: number[] = [];
    for (let kid = parent.firstChild; kid; kid = kid.nextSibling)
      if (kid.nodeType === 1 || kid.nodeType === 3) append(kids, this.#encodeTree(kid, draft));
    return kids;
  }

  #encode(node: Node, draft: Draft): NodeEntry {
    if (node.nodeType !== 1) return { text: node.nodeValue ?? '' };
    const element = node as Element;
    const entry: ElementEntry = { tag: element.localName };
    const ns = namespaces[element.namespaceURI ?? ''];
    if (ns) entry.ns = ns;
    const attrs = attributesOf(element, this.#onAsset);
    if (Object.keys(attrs).length > 0) entry.attrs = attrs;
    if (isStyled(element)) {
      const sheet = this.#styledSheet(element, draft);
      if (sheet !== null) entry.sheet = sheet;
      return entry;
    }
    if (element.localName === 'script') return entry;
    const kids = this.#kids(element, draft);
    if (kids.length > 0) entry.kids = kids;
    this.#shadow(element, entry, draft);
    if (isFrame(element)) entry.frame = this.#frame(element, draft);
    const isStateful = statefulTags.has(element.localName) || element.hasAttribute('popover') || isCustom(element);
    if (isStateful || isMovingPicture(element)) this.#stateful.add(element);
    const animated = this.#animated.get(element);
    const read = readState(element);
    const state = animated ? { ...read, animated } : read;
    if (state) entry.state = state;
    if (state?.scroll) this.#scrolled.add(element);
    else this.#scrolled.delete(element);
    return entry;
  }

  #shadow(element: Element, entry: ElementEntry, draft: Draft): void {
    const shadow = shadowOf(element);
    if (!shadow) return;
    if (!this.#shadows.has(shadow)) this.#observer.observe(shadow, observed);
    const adopted = [...shadow.adoptedStyleSheets];
    this.#shadows.set(shadow, adopted);
    entry.shadow = { kids: this.#kids(shadow, draft) };
    const sheets = this.#adopt(adopted, element.baseURI, draft);
    if (sheets.length > 0) entry.shadow.sheets = sheets;
  }

  /** A frame's document, where it can be read, and its size in any case. */
  #frame(element: HTMLIFrameElement, draft: Draft): NonNullable<ElementEntry['frame']> {
    const { width, height } = element.getBoundingClientRect();
    const inner = documentOf(element);
    if (!inner?.documentElement) return { kid: null, width, height };
    if (this.#frames.get(element) !== inner) {
      this.#frames.set(element, inner);
      this.#observer.observe(inner, observed);
    }
    return { kid: this.#encodeTree(inner.documentElement, draft), width, height };
  }

  #styledSheet(element: Styled, draft: Draft): number | null {
    const { sheet } = element;
    this.#styled.set(element, { sheet, disabled: sheet?.disabled === true, version: sheetVersion(sheet) });
    return this.#sheetOf(element, elementEntry(element), draft);
  }

  #sheetOf(key: object, entry: SheetEntry | null, draft: Draft): number | null {
    if (!entry) return null;
    let id = this.#sheetIds.get(key);
    if (id === undefined) {
      id = this.#nextSheet++;
      this.#sheetIds.set(key, id);
    }
    const text = native.stringify(entry);
    if (this.#knownSheets.get(id) !== text) {
      this.#knownSheets.set(id, text);
      draft.sheets[id] = entry;
    }
    return id;
  }

  #adopt(list: readonly CSSStyleSheet[], base: string, draft: Draft): number[] {
    return Array.from(list, (sheet) => {
      const id = this.#sheetIds.get(sheet);
      const seen = this.#adopted.get(sheet);
      const now = { sheet, disabled: sheet.disabled, version: sheetVersion(sheet) };
      if (id !== undefined && seen?.disabled === now.disabled && seen.version === now.version) return id;
      this.#adopted.set(sheet, now);
      return this.#sheetOf(sheet, adoptedEntry(sheet, base), draft)!;
    });
  }

  #readView(draft: Draft): View {
    const hover = [...pointedAt(document, shadowOf)].map((element) => this.#ids.get(element));
    const focused = focusedIn(document, shadowOf);
    const focus = focused ? (this.#ids.get(focused) ?? null) : null;
    return {
      width: window.innerWidth,
      height: window.innerHeight,
      scroll: [window.scrollX, window.scrollY],
      hover: hover.filter((id) => id !== undefined),
      focus,
      focusVisible: focus !== null && focused!.matches(':focus-visible'),
      sheets: this.#adopt(document.adoptedStyleSheets, document.baseURI, draft),
      ...changedMedia(),
    };
  }
}
