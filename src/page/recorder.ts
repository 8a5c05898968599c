/**
 * Records the document as moments: one base, then only what a MutationObserver and the live state of a few kinds
 * of elements say has changed since.
 */
import type { ElementEntry, ElementState, Moment, NodeEntry, Patch, SheetEntry, View } from '../core/moment.ts';
import { adoptedEntry, elementEntry, sheetChanges } from './sheets.ts';

const namespaces: Record<string, 'svg' | 'math'> = { 'http://www.w3.org/2000/svg': 'svg', 'http://www.w3.org/1998/Math/MathML': 'math' };
const statefulTags = new Set(['input', 'textarea', 'select', 'dialog', 'canvas']);
const formTags = new Set(['input', 'textarea', 'select']);
const observed: MutationObserverInit = { childList: true, attributes: true, characterData: true, subtree: true };

export class Recorder {
  readonly #ids = new WeakMap<Node, number>();
  #next = 1;
  /** JSON of every entry as last recorded, by id. */
  readonly #known = new Map<number, string>();
  readonly #knownSheets = new Map<number, string>();
  readonly #sheetIds = new WeakMap<object, number>();
  #nextSheet = 1;
  readonly #stateful = new Set<Element>();
  readonly #styled = new Set<HTMLStyleElement | HTMLLinkElement>();
  readonly #shadows = new Set<ShadowRoot>();
  #records: MutationRecord[] = [];
  readonly #observer = new MutationObserver((records) => void this.#records.push(...records));
  #view = '';
  #seenSheetChanges = sheetChanges();
  readonly #onScroll = (event: Event): void => {
    if (event.target instanceof Element) this.#stateful.add(event.target);
  };
  readonly #onAsset: (url: string) => void;
  /** How many changes the last patch was made of. */
  changes = 0;

  constructor(onAsset: (url: string) => void) {
    this.#onAsset = onAsset;
    this.#observer.observe(document, observed);
    document.addEventListener('scroll', this.#onScroll, { capture: true, passive: true });
  }

  stop(): void {
    this.#observer.disconnect();
    document.removeEventListener('scroll', this.#onScroll, { capture: true });
  }

  /** The id of a recorded node, or null. */
  idOf(node: Node): number | null {
    return this.#ids.get(node) ?? null;
  }

  /** The whole document. Call once, first. */
  base(): Moment {
    const nodes: Record<string, NodeEntry> = {};
    const sheets: Record<string, SheetEntry> = {};
    const root = this.#encodeTree(document.documentElement, nodes, sheets);
    const view = this.#readView(sheets);
    this.#view = JSON.stringify(view);
    return { root, nodes, sheets, view };
  }

  /** What has changed since the last call, or null. */
  flush(): Patch | null {
    const dirty = new Set<Node>();
    const removed = new Set<Node>();
    const records = [...this.#records, ...this.#observer.takeRecords()];
    this.#records = [];
    this.changes = records.length;
    for (const record of records) {
      dirty.add(record.target);
      for (const node of record.removedNodes) removed.add(node);
      // Text inside a style element is its sheet.
      const owner = record.target.parentNode ?? record.target;
      if (owner instanceof HTMLStyleElement) dirty.add(owner);
    }
    for (const element of this.#stateful) if (element.isConnected) dirty.add(element);
    const nodes: Record<string, NodeEntry | null> = {};
    const sheets: Record<string, SheetEntry | null> = {};
    for (const node of removed) if (!node.isConnected) this.#forget(node, nodes);
    for (const node of dirty) {
      if (!node.isConnected) continue;
      if (node instanceof ShadowRoot) this.#encodeAgain(node.host, nodes, sheets);
      else this.#encodeAgain(node, nodes, sheets);
    }
    if (sheetChanges() !== this.#seenSheetChanges) {
      this.#seenSheetChanges = sheetChanges();
      for (const element of this.#styled) if (element.isConnected) this.#sheetOf(element, () => elementEntry(element), sheets);
      for (const shadow of this.#shadows) this.#adopt(shadow.adoptedStyleSheets, sheets);
    }
    const patch: Patch = {};
    const view = this.#readView(sheets);
    const text = JSON.stringify(view);
    if (text !== this.#view) {
      const before = JSON.parse(this.#view) as View;
      patch.view = Object.fromEntries(Object.entries(view).filter(([key, value]) => JSON.stringify(value) !== JSON.stringify(before[key as keyof View])));
      this.#view = text;
    }
    if (Object.keys(nodes).length > 0) patch.nodes = nodes;
    if (Object.keys(sheets).length > 0) patch.sheets = sheets;
    return patch.nodes || patch.sheets || patch.view ? patch : null;
  }

  #forget(node: Node, nodes: Record<string, NodeEntry | null>): void {
    const id = this.#ids.get(node);
    if (id !== undefined && this.#known.delete(id)) nodes[id] = null;
    if (node instanceof Element) {
      this.#stateful.delete(node);
      this.#styled.delete(node as HTMLStyleElement);
      if (node.shadowRoot) for (const kid of node.shadowRoot.childNodes) this.#forget(kid, nodes);
    }
    for (const kid of node.childNodes) this.#forget(kid, nodes);
  }

  #encodeAgain(node: Node, nodes: Record<string, NodeEntry | null>, sheets: Record<string, SheetEntry | null>): void {
    const id = this.#ids.get(node);
    // A node that is not known is reached through its parent, which has changed too.
    if (id === undefined || !this.#known.has(id)) return;
    const entry = this.#encode(node, nodes, sheets);
    const text = JSON.stringify(entry);
    if (text === this.#known.get(id)) return;
    this.#known.set(id, text);
    nodes[id] = entry;
  }

  /** Encodes a node that was not known (or was dropped and came back), with everything below it. */
  #encodeTree(node: Node, nodes: Record<string, NodeEntry | null>, sheets: Record<string, SheetEntry | null>): number {
    let id = this.#ids.get(node);
    if (id === undefined) {
      id = this.#next++;
      this.#ids.set(node, id);
    } else if (this.#known.has(id)) return id;
    this.#known.set(id, '');
    const entry = this.#encode(node, nodes, sheets);
    this.#known.set(id, JSON.stringify(entry));
    nodes[id] = entry;
    return id;
  }

  #kids(parent: Node, nodes: Record<string, NodeEntry | null>, sheets: Record<string, SheetEntry | null>): number[] {
    const kids: number[] = [];
    for (let kid = parent.firstChild; kid; kid = kid.nextSibling) {
      if (kid.nodeType === Node.ELEMENT_NODE || kid.nodeType === Node.TEXT_NODE) kids.push(this.#encodeTree(kid, nodes, sheets));
    }
    return kids;
  }

  #encode(node: Node, nodes: Record<string, NodeEntry | null>, sheets: Record<string, SheetEntry | null>): NodeEntry {
    if (!(node instanceof Element)) return { text: node.nodeValue ?? '' };
    const entry: ElementEntry = { tag: node.localName };
    const ns = namespaces[node.namespaceURI ?? ''];
    if (ns) entry.ns = ns;
    const attrs: Record<string, string> = {};
    for (const { name, value } of node.attributes) if (!name.startsWith('on')) attrs[name] = value;
    this.#assets(node, attrs);
    if (Object.keys(attrs).length > 0) entry.attrs = attrs;
    if (node instanceof HTMLStyleElement || (node instanceof HTMLLinkElement && node.rel === 'stylesheet')) {
      this.#styled.add(node);
      const sheet = this.#sheetOf(node, () => elementEntry(node), sheets);
      if (sheet !== null) entry.sheet = sheet;
      return entry;
    }
    if (node.localName === 'script') return entry;
    const kids = this.#kids(node, nodes, sheets);
    if (kids.length > 0) entry.kids = kids;
    if (node.shadowRoot) {
      if (!this.#shadows.has(node.shadowRoot)) {
        this.#shadows.add(node.shadowRoot);
        this.#observer.observe(node.shadowRoot, observed);
        node.shadowRoot.addEventListener('scroll', this.#onScroll, { capture: true, passive: true });
      }
      entry.shadow = { kids: this.#kids(node.shadowRoot, nodes, sheets) };
      const adopted = this.#adopt(node.shadowRoot.adoptedStyleSheets, sheets);
      if (adopted.length > 0) entry.shadow.sheets = adopted;
    }
    if (statefulTags.has(node.localName) || node.hasAttribute('popover')) this.#stateful.add(node);
    const state = readState(node);
    if (state) entry.state = state;
    return entry;
  }

  #assets(node: Element, attrs: Record<string, string>): void {
    if (node instanceof HTMLImageElement) {
      // The one address that is shown; what it was chosen from would be chosen again when drawn on another screen.
      if (node.currentSrc && (attrs.srcset || node.parentElement?.localName === 'picture')) attrs.src = node.currentSrc;
      delete attrs.srcset;
      delete attrs.loading;
      if (node.src) this.#onAsset(node.currentSrc || node.src);
    } else if (node instanceof SVGImageElement || node instanceof SVGUseElement) {
      if (node.href.baseVal && !node.href.baseVal.startsWith('#')) this.#onAsset(new URL(node.href.baseVal, document.baseURI).href);
    } else if (node instanceof HTMLLinkElement && node.rel === 'stylesheet') this.#onAsset(node.href);
    else if (node instanceof HTMLVideoElement && node.poster) this.#onAsset(node.poster);
    else if (node instanceof HTMLInputElement && node.type === 'image' && node.src) this.#onAsset(node.src);
  }

  #sheetOf(key: object, read: () => SheetEntry | null, sheets: Record<string, SheetEntry | null>): number | null {
    const entry = read();
    if (!entry) return null;
    let id = this.#sheetIds.get(key);
    if (id === undefined) {
      id = this.#nextSheet++;
      this.#sheetIds.set(key, id);
    }
    const text = JSON.stringify(entry);
    if (this.#knownSheets.get(id) !== text) {
      this.#knownSheets.set(id, text);
      sheets[id] = entry;
    }
    return id;
  }

  #adopt(list: readonly CSSStyleSheet[], sheets: Record<string, SheetEntry | null>): number[] {
    return Array.from(list, (sheet) => this.#sheetOf(sheet, () => adoptedEntry(sheet), sheets)!);
  }

  #readView(sheets: Record<string, SheetEntry | null>): View {
    const hover = [...pointedAt(document)].map((element) => this.#ids.get(element)).filter((id) => id !== undefined);
    let focused = document.activeElement;
    while (focused?.shadowRoot?.activeElement) focused = focused.shadowRoot.activeElement;
    const focus = focused && focused !== document.body ? (this.#ids.get(focused) ?? null) : null;
    return {
      width: window.innerWidth,
      height: window.innerHeight,
      scroll: [window.scrollX, window.scrollY],
      hover,
      focus,
      focusVisible: focus !== null && focused!.matches(':focus-visible'),
      sheets: this.#adopt(document.adoptedStyleSheets, sheets),
    };
  }
}

/** The elements under the pointer, from the root inwards, through shadow roots. */
function* pointedAt(root: Document | ShadowRoot): Generator<Element> {
  let innermost: Element | null = null;
  for (const element of root.querySelectorAll(':hover')) {
    yield element;
    innermost = element;
  }
  if (innermost?.shadowRoot) yield* pointedAt(innermost.shadowRoot);
}

/** What the element shows besides its attributes, or null. */
function readState(element: Element): ElementState | null {
  const state: ElementState = {};
  if (element instanceof HTMLInputElement) {
    if (element.type === 'checkbox' || element.type === 'radio') {
      if (element.checked) state.checked = true;
      if (element.indeterminate) state.indeterminate = true;
    } else if (element.type !== 'file' && element.value !== '') state.value = element.value;
  } else if (element instanceof HTMLTextAreaElement) {
    if (element.value !== '') state.value = element.value;
  } else if (element instanceof HTMLSelectElement) {
    state.selected = Array.from(element.options).flatMap((option, index) => (option.selected ? [index] : []));
  } else if (element instanceof HTMLDialogElement) {
    if (element.open) state.dialog = element.matches(':modal') ? 'modal' : 'open';
  } else if (element instanceof HTMLCanvasElement) {
    try {
      if (element.width > 0 && element.height > 0) state.pixels = element.toDataURL();
    } catch {
      // Pixels that come from another origin cannot be read.
    }
  }
  if (element.hasAttribute('popover') && element.matches(':popover-open')) state.popover = true;
  if (formTags.has(element.localName)) {
    if (element.matches(':user-invalid')) state.user = 'invalid';
    else if (element.matches(':user-valid')) state.user = 'valid';
  }
  if (element.scrollLeft !== 0 || element.scrollTop !== 0) state.scroll = [element.scrollLeft, element.scrollTop];
  return Object.keys(state).length > 0 ? state : null;
}
