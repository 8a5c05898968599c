/**
 * Builds recorded moments inside a sandboxed frame. In that frame scripts are off and nothing can be loaded but
 * recorded files.
 */
import {
  type ElementEntry,
  emptyMoment,
  isText,
  type Moment,
  type NodeEntry,
  type Patch,
} from '../core/moment/moment.ts';
import { applyPatch, diffMoments, invertPatch, joinPatches } from '../core/moment/patch.ts';
import { bringToRest } from '../core/moment/rest.ts';
import { type MediaFeatures, stateAttributes } from '../core/moment/restyle.ts';
import { drawsDocument, makeElement, putAttribute } from './inert.ts';
import { boxesOf, clipOf, foundBy } from './measure.ts';
import { DrawnSheets } from './sheets.ts';
import { setState } from './state.ts';

/** A timeline to be drawn from. */
export type DrawTimeline = {
  kind: 'timeline';
  base: Moment;
  patches: Patch[];
  assets: Record<string, string>;
  media: MediaFeatures;
};

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
  readonly #sheets: DrawnSheets;
  #loads = 0;

  constructor(frame: HTMLIFrameElement) {
    this.#frame = frame;
    this.#document = frame.contentDocument!;
    this.#sheets = new DrawnSheets(this.#document);
  }

  /**
   * Takes a timeline in; its sheets are fetched, so that drawing never waits. False when a newer one was given
   * meanwhile, and this one is not drawn.
   */
  async load(timeline: DrawTimeline): Promise<boolean> {
    const own = ++this.#loads;
    const sheets = [timeline.base, ...timeline.patches].flatMap((moment) => Object.values(moment.sheets ?? {}));
    await this.#sheets.fetch(sheets, timeline.assets);
    if (own !== this.#loads) return false;
    this.#timeline = timeline;
    this.#moments = [timeline.base];
    this.#index = 0;
    this.#sheets.begin(timeline);
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
    const { defaultView } = this.#document;
    const isFixed = (element: Element): boolean => defaultView!.getComputedStyle(element).position === 'fixed';
    this.#document.getElementById('look')?.toggleAttribute('data-sg-parted', [...beside].some(isFixed));
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
    return this.#sheets.own;
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
    this.#shown = emptyMoment(0, 0);
    this.#sheets.clear();
  }

  #draw(patch: Patch, moment: Moment): void {
    const before = this.#shown;
    // Sheets of shadow roots and of style elements need the sheet entries of the moment that is shown now.
    this.#shown = moment;
    this.#sheets.turnTo(moment);
    const entries = Object.entries(patch.nodes ?? {}).map(([key, entry]) => [Number(key), entry] as const);
    const fresh: Drawn[] = [];
    for (const [id, entry] of entries) if (entry) this.#update(id, entry, fresh);
    for (const [id, entry] of entries) if (entry && !isText(entry)) this.#place(id, entry);
    for (const [id, entry] of entries) if (!entry) this.#drop(id);
    for (const [key, sheet] of Object.entries(patch.sheets ?? {})) if (sheet) this.#sheets.change(Number(key), sheet);
    const root = this.#nodes.get(moment.root);
    if (root && this.#document.documentElement !== root)
      this.#document.replaceChild(root, this.#document.documentElement);
    for (const [element, { shadow }] of fresh)
      if (shadow && element.shadowRoot)
        element.shadowRoot.adoptedStyleSheets = this.#sheets.rooted(shadow.sheets ?? []);
    if (JSON.stringify(before.view.sheets) !== JSON.stringify(moment.view.sheets))
      this.#document.adoptedStyleSheets = this.#sheets.rooted(moment.view.sheets);
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
    this.#sheets.drop(this.#nodes.get(id) as Element);
    this.#nodes.delete(id);
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
    const { media } = this.#sheets;
    for (const { name } of [...element.attributes])
      if (!(name in wanted) && !name.startsWith('data-sg-')) element.removeAttribute(name);
    for (const [name, value] of Object.entries(wanted))
      putAttribute({ element, entry, name, value }, { media, resolve: (url) => this.#sheets.resolve(url) });
    if (element.localName === 'sg-frame' && entry.frame) {
      const { width, height } = entry.frame;
      Object.assign((element as HTMLElement).style, { width: `${width}px`, height: `${height}px` });
    }
    if (entry.sheet !== undefined && element.localName === 'style') this.#sheets.show(entry.sheet, element);
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
