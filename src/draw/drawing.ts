/**
 * Builds recorded moments inside a sandboxed frame. In that frame scripts are off and nothing can be loaded but
 * recorded files.
 */
import { addressOf } from '../core/address/address.ts';
import {
  type ElementEntry,
  emptyMoment,
  isText,
  type Moment,
  type NodeEntry,
  type Patch,
  type SheetEntry,
} from '../core/moment/moment.ts';
import { applyPatch, diffMoments, invertPatch, joinPatches } from '../core/moment/patch.ts';
import { bringToRest } from '../core/moment/rest.ts';
import { type MediaFeatures, restyle, stateAttributes } from '../core/moment/restyle.ts';
import { stageHost } from '../core/wire/stage.ts';
import { drawsDocument, makeElement, putAttribute, standInRules } from './inert.ts';
import { boxesOf, clipOf, foundBy } from './measure.ts';
import { setState } from './state.ts';

/** A timeline to be drawn from. */
export type DrawTimeline = {
  kind: 'timeline';
  base: Moment;
  patches: Patch[];
  assets: Record<string, string>;
  media: MediaFeatures;
};

/**
 * What browsers show of an element that is pointed at or has the focus, by rules of their own that no sheet of a page
 * says.
 */
const browserRules = [
  `[${stateAttributes['focus-visible']}]{outline:auto 1px -webkit-focus-ring-color}`,
  ...['inner-spin-button', 'search-cancel-button', 'calendar-picker-indicator'].map(
    (part) =>
      `input:enabled:read-write:where([${stateAttributes.hover}],[${stateAttributes.focus}])` +
      `::-webkit-${part}{opacity:1}`,
  ),
];

/**
 * A window paints fixed elements in a layer of their own, above the page's; a frame would blend them with what is
 * below, and be off by a step of grey. This empty layer between the two parts them again.
 */
const parting = '[data-sg-parted]::after{content:"";position:fixed;inset:0;will-change:opacity;pointer-events:none}';

/**
 * Our own rules; those that stand for the browser's are in a cascade layer, so that every rule of the page wins over
 * them.
 */
const ownRules = `@layer{${browserRules.join('')}}${standInRules}${parting}`;

/** Where recorded files lie; a published site says so, and calls them by hash and ending. */
const assets = document.documentElement.dataset.assets ?? '/asset/';

/** What a drawn element was made from. */
type Drawn = [Element, ElementEntry];

export class Drawing {
  readonly #frame: HTMLIFrameElement;
  readonly #document: Document;
  #timeline: DrawTimeline | null = null;
  /** Moments up to the furthest that was drawn. */
  #moments: Moment[] = [];
  #index = 0;
  #shown: Moment = emptyMoment(0, 0);
  #nodes = new Map<number, Node>();
  #styles = new Map<number, Set<Element>>();
  #adopted = new Map<number, CSSStyleSheet>();
  #assetText = new Map<string, string>();
  #ownSheet: CSSStyleSheet | null = null;
  #loads = 0;

  constructor(frame: HTMLIFrameElement) {
    this.#frame = frame;
    this.#document = frame.contentDocument!;
  }

  /**
   * Takes a timeline in; its sheets are fetched, so that drawing never waits. False when a newer one was given
   * meanwhile, and this one is not drawn.
   */
  async load(timeline: DrawTimeline): Promise<boolean> {
    const own = ++this.#loads;
    const sheets = [timeline.base, ...timeline.patches].flatMap((moment) => Object.values(moment.sheets ?? {}));
    const hashOf = (sheet: SheetEntry | null): string | undefined =>
      sheet && 'url' in sheet ? timeline.assets[sheet.url] : undefined;
    const hashes = new Set(sheets.map(hashOf).filter((hash) => hash !== undefined && !this.#assetText.has(hash)));
    const texts = await Promise.all(
      [...hashes].map(async (hash) => [hash!, await (await fetch(assets + hash)).text()] as const),
    );
    for (const [hash, text] of texts) this.#assetText.set(hash, text);
    if (own !== this.#loads) return false;
    this.#timeline = timeline;
    this.#moments = [timeline.base];
    this.#index = 0;
    this.#clear();
    this.#draw(diffMoments(emptyMoment(0, 0), timeline.base), timeline.base);
    return true;
  }

  /** Draws a moment, changing only what lies between it and the one that is shown. */
  show(index: number): void {
    if (!this.#timeline) return;
    const wanted = Math.max(0, Math.min(index, this.#timeline.patches.length));
    const patch = this.#pathTo(wanted);
    const moment = this.#moments[wanted]!;
    if (JSON.stringify(moment.view.media) === JSON.stringify(this.#shown.view.media)) {
      if (patch) this.#draw(patch, moment);
    } else {
      // Whatever media queries say is written into every sheet.
      this.#clear();
      this.#draw(diffMoments(emptyMoment(0, 0), moment), moment);
    }
    this.#index = wanted;
    bringToRest(this.#document);
    this.#partFixed();
  }

  /** What leads from the shown moment to another: patches one after the other, or their inverses. */
  #pathTo(wanted: number): Patch | null {
    const { patches } = this.#timeline!;
    for (let i = this.#moments.length; i <= wanted; i++)
      this.#moments.push(applyPatch(this.#moments[i - 1]!, patches[i - 1]!));
    let path: Patch | null = null;
    const add = (patch: Patch): void => {
      path = path ? joinPatches(path, patch) : patch;
    };
    for (let i = this.#index; i < wanted; i++) add(patches[i]!);
    for (let i = this.#index; i > wanted; i--) add(invertPatch(this.#moments[i - 1]!, patches[i - 1]!));
    return path;
  }

  /** Parts fixed elements that were put beside the component (dialogs, notices) from the page. */
  #partFixed(): void {
    const beside = this.#document.querySelectorAll('body > :not(#look), body > :not(#look) *');
    const isFixed = (element: Element): boolean => this.#window.getComputedStyle(element).position === 'fixed';
    this.#document.getElementById('look')?.toggleAttribute('data-sg-parted', [...beside].some(isFixed));
  }

  /** What media queries say in the moment that is shown. */
  get #media(): MediaFeatures {
    return { ...this.#timeline!.media, ...this.#shown.view.media };
  }

  get view(): Moment['view'] {
    return this.#shown.view;
  }

  /** Where an element is in the viewport, or null. */
  boxOf(id: number): DOMRect | null {
    const node = this.#nodes.get(id);
    return node?.nodeType === 1 ? (node as Element).getBoundingClientRect() : null;
  }

  /** What a capture of what is drawn shows. A frame that is too small for that is made larger. */
  clip(): [number, number, number, number] {
    const clip = clipOf(this.#document);
    const [, , width, height] = clip;
    if (width > Number(this.#frame.width)) this.#frame.width = String(width);
    if (height > Number(this.#frame.height)) this.#frame.height = String(height);
    return clip;
  }

  /** How many elements are meant by ids and selectors, and where they are. */
  find(nodes: readonly number[], selectors: readonly string[]): { count: number; boxes: number[][] } {
    const elements = foundBy(this.#document, selectors);
    for (const id of nodes) {
      const node = this.#nodes.get(id);
      if (node?.isConnected) elements.add(node.nodeType === 1 ? (node as Element) : node.parentElement!);
    }
    return { count: elements.size, boxes: boxesOf(elements) };
  }

  /** The drawn element of a number, while it is in the document; null for any other. */
  elementOf(id: number): Element | null {
    const node = this.#nodes.get(id);
    return node?.nodeType === 1 && node.isConnected ? (node as Element) : null;
  }

  /** Which number each drawn node has. */
  numbers(): Map<Node, number> {
    return new Map([...this.#nodes].map(([id, node]) => [node, id]));
  }

  get document(): Document {
    return this.#document;
  }

  /** Our own rules, which no page has. */
  get ownSheet(): CSSStyleSheet | null {
    return this.#ownSheet;
  }

  /**
   * Gives the focus to the element that had it, for an engine that takes a picture: the caret, invisible as it is,
   * has a layer of its own. Where a person looks on nothing takes the focus from them.
   */
  focus(): void {
    this.#frame.inert = false;
    const { focus } = this.#shown.view;
    const element = focus === null ? null : (this.#nodes.get(focus) as HTMLElement | undefined);
    // Other elements would get a ring that only a keyboard gives them.
    if (element && hasCaret(element)) element.focus({ preventScroll: true });
    else (this.#document.activeElement as HTMLElement | null)?.blur();
  }

  /** Resolves when fonts and images of what is shown are there. */
  async settled(): Promise<void> {
    await this.#document.fonts.ready;
    await Promise.all([...this.#document.images].map((image) => image.decode().catch(() => {})));
    await new Promise((resolve) => requestAnimationFrame(() => requestAnimationFrame(resolve)));
  }

  #clear(): void {
    this.#nodes.clear();
    this.#styles.clear();
    this.#adopted.clear();
    this.#shown = emptyMoment(0, 0);
    this.#document.adoptedStyleSheets = this.#withOwn([]);
  }

  #draw(patch: Patch, moment: Moment): void {
    const before = this.#shown;
    // Sheets of shadow roots and of style elements need the sheet entries of the moment that is shown now.
    this.#shown = moment;
    const entries = Object.entries(patch.nodes ?? {}).map(([key, entry]) => [Number(key), entry] as const);
    const fresh: Drawn[] = [];
    for (const [id, entry] of entries) if (entry) this.#update(id, entry, fresh);
    for (const [id, entry] of entries) if (entry && !isText(entry)) this.#place(id, entry);
    for (const [id, entry] of entries) if (!entry) this.#drop(id);
    for (const [key, sheet] of Object.entries(patch.sheets ?? {})) if (sheet) this.#restyleSheet(Number(key), sheet);
    const root = this.#nodes.get(moment.root);
    if (root && this.#document.documentElement !== root)
      this.#document.replaceChild(root, this.#document.documentElement);
    for (const [element, { shadow }] of fresh)
      if (shadow && element.shadowRoot) element.shadowRoot.adoptedStyleSheets = this.#withOwn(shadow.sheets ?? []);
    if (JSON.stringify(before.view.sheets) !== JSON.stringify(moment.view.sheets))
      this.#document.adoptedStyleSheets = this.#withOwn(moment.view.sheets);
    this.#resize(moment.view);
    this.#placeDocuments(moment);
    for (const [element, entry] of fresh) setState(element, entry.state ?? {});
    this.#markStates(moment);
    this.#scroll(moment);
  }

  #resize({ width, height }: Moment['view']): void {
    if (this.#frame.width === String(width) && this.#frame.height === String(height)) return;
    this.#frame.width = String(width);
    this.#frame.height = String(height);
  }

  #scroll(moment: Moment): void {
    const [left, top] = moment.view.scroll;
    this.#document.defaultView!.scrollTo({ left, top, behavior: 'instant' });
    for (const [id, entry] of Object.entries(moment.nodes)) {
      if (isText(entry) || !entry.state?.scroll) continue;
      const [x, y] = entry.state.scroll;
      (this.#nodes.get(Number(id)) as Element | undefined)?.scrollTo({ left: x, top: y, behavior: 'instant' });
    }
  }

  #drop(id: number): void {
    const node = this.#nodes.get(id);
    this.#nodes.delete(id);
    for (const users of this.#styles.values()) users.delete(node as Element);
  }

  #update(id: number, entry: NodeEntry, fresh: Drawn[]): void {
    const known = this.#nodes.get(id);
    if (isText(entry)) {
      if (known) known.nodeValue = entry.text;
      else this.#nodes.set(id, this.#document.createTextNode(entry.text));
      return;
    }
    const element = this.#elementFor(id, entry, known as Element | undefined);
    fresh.push([element, entry]);
    const wanted = entry.attrs ?? {};
    const media = this.#media;
    for (const { name } of [...element.attributes])
      if (!(name in wanted) && !name.startsWith('data-sg-')) element.removeAttribute(name);
    for (const [name, value] of Object.entries(wanted))
      putAttribute({ element, entry, name, value }, { media, resolve: (url) => this.#resolve(url) });
    if (element.localName === 'sg-frame' && entry.frame) {
      const { width, height } = entry.frame;
      Object.assign((element as HTMLElement).style, { width: `${width}px`, height: `${height}px` });
    }
    if (entry.sheet !== undefined && element.localName === 'style') this.#showSheet(entry.sheet, element);
  }

  /** The element that is drawn for an entry: the known one, unless it got what only a new one can have. */
  #elementFor(id: number, entry: ElementEntry, known: Element | undefined): Element {
    const needsRoot = entry.shadow !== undefined && known?.shadowRoot == null;
    const needsFrame = drawsDocument(entry) && known?.localName !== 'iframe';
    if (known && !needsRoot && !needsFrame) return known;
    const element = makeElement(this.#document, entry);
    this.#nodes.set(id, element);
    if (known) {
      element.append(...known.childNodes);
      known.replaceWith(element);
    }
    return element;
  }

  /** An element that is made again, as when one steps back, needs the text that its sheet has at this moment. */
  #showSheet(id: number, element: Element): void {
    const users = this.#styles.get(id) ?? new Set();
    this.#styles.set(id, users.add(element));
    const sheet = this.#shown.sheets[id];
    const text = sheet ? this.#textOf(sheet) : '';
    if (element.textContent !== text) element.textContent = text;
  }

  get #window(): Window & typeof globalThis {
    return this.#document.defaultView as Window & typeof globalThis;
  }

  #place(id: number, entry: ElementEntry): void {
    const element = this.#nodes.get(id) as Element;
    if (entry.shadow && element.shadowRoot) this.#setKids(element.shadowRoot, entry.shadow.kids);
    if (entry.sheet === undefined && !drawsDocument(entry)) this.#setKids(element, entry.kids ?? []);
  }

  #setKids(parent: Node, kids: readonly number[]): void {
    // What a page has made a circle of cannot be put into itself.
    const wanted = kids.flatMap((id) => this.#nodes.get(id) ?? []).filter((node) => !node.contains(parent));
    const keep = new Set<Node>(wanted);
    for (const node of [...parent.childNodes]) if (!keep.has(node)) node.remove();
    let at: ChildNode | null = parent.firstChild;
    for (const node of wanted) {
      if (node === at) at = at.nextSibling;
      else parent.insertBefore(node, at);
    }
  }

  /** Puts recorded documents into the frames that are drawn for them; a frame that was moved has lost what it held. */
  #placeDocuments(moment: Moment): void {
    for (const [id, entry] of Object.entries(moment.nodes)) {
      if (isText(entry) || !drawsDocument(entry)) continue;
      const frame = this.#nodes.get(Number(id)) as HTMLIFrameElement | undefined;
      const root = this.#nodes.get(entry.frame!.kid!);
      const inner = frame?.contentDocument;
      if (!inner || !root || inner.documentElement === root) continue;
      // A frame's first document is in quirks mode.
      inner.open();
      inner.write('<!doctype html>');
      inner.close();
      if (inner.documentElement) inner.replaceChild(root, inner.documentElement);
      else inner.append(root);
    }
  }

  #resolve(url: string, base?: string): string {
    if (/^(data:|#)/i.test(url)) return url;
    const full = addressOf(url, base ?? `http://${stageHost}/`)?.href;
    const hash = full === undefined ? undefined : this.#timeline!.assets[full];
    // Other addresses would lead out of the recording.
    return hash ? assets + hash : 'data:,';
  }

  #textOf(sheet: SheetEntry): string {
    const { assets } = this.#timeline!;
    const media = this.#media;
    if ('css' in sheet) return restyle(sheet.css, media, (url) => this.#resolve(url, sheet.base));
    const hash = assets[sheet.url];
    return restyle((hash && this.#assetText.get(hash)) || '', media, (url) => this.#resolve(url, sheet.url));
  }

  #restyleSheet(id: number, sheet: SheetEntry): void {
    const text = this.#textOf(sheet);
    for (const element of this.#styles.get(id) ?? []) if (element.textContent !== text) element.textContent = text;
    this.#adopted.get(id)?.replaceSync(text);
  }

  /** Our own rules, and the sheets that a root has adopted. */
  #withOwn(ids: readonly number[]): CSSStyleSheet[] {
    if (!this.#ownSheet) {
      this.#ownSheet = new this.#window.CSSStyleSheet();
      this.#ownSheet.replaceSync(ownRules);
    }
    return [this.#ownSheet, ...ids.map((id) => this.#adopt(id))];
  }

  #adopt(id: number): CSSStyleSheet {
    let sheet = this.#adopted.get(id);
    if (!sheet) {
      // The sheet must be of the frame's own realm.
      sheet = new this.#window.CSSStyleSheet();
      this.#adopted.set(id, sheet);
    }
    const entry = this.#shown.sheets[id];
    if (entry) sheet.replaceSync(this.#textOf(entry));
    return sheet;
  }

  /** Marks what the pointer was over and what had the focus, for the rewritten styles. */
  #markStates(moment: Moment): void {
    const { hover, focus, focusVisible } = moment.view;
    const mark = (attribute: string, ids: readonly number[]): void => {
      const wanted = new Set(ids.map((id) => this.#nodes.get(id)));
      for (const node of this.#nodes.values()) {
        if (node.nodeType !== 1) continue;
        const element = node as Element;
        if (element.hasAttribute(attribute) !== wanted.has(node)) element.toggleAttribute(attribute);
      }
    };
    mark(stateAttributes.hover, hover);
    mark(stateAttributes.focus, focus === null ? [] : [focus]);
    mark(stateAttributes['focus-visible'], focus !== null && focusVisible ? [focus] : []);
    mark(stateAttributes['focus-within'], focus === null ? [] : around(moment, focus));
  }
}

/** True for an element that shows a caret while it has the focus. */
const hasCaret = (element: HTMLElement): boolean =>
  element.localName === 'textarea' ||
  element.isContentEditable ||
  (element.localName === 'input' &&
    !/^(checkbox|radio|button|submit|reset|file|image|range|color)$/.test((element as HTMLInputElement).type));

/** A node and everything that it lies in, from the inside out. */
function around(moment: Moment, id: number): number[] {
  const parents = new Map<number, number>();
  for (const [key, entry] of Object.entries(moment.nodes))
    if (!isText(entry))
      for (const kid of [...(entry.kids ?? []), ...(entry.shadow?.kids ?? [])]) parents.set(kid, Number(key));
  const found: number[] = [];
  for (let at: number | undefined = id; at !== undefined && !found.includes(at); at = parents.get(at)) found.push(at);
  return found;
}
