/**
 * Builds recorded moments inside a sandboxed frame. In that frame scripts are off and nothing can be loaded but
 * recorded files.
 */
import {
  applyPatch,
  diffMoments,
  type ElementEntry,
  type ElementState,
  emptyMoment,
  isText,
  type Moment,
  type NodeEntry,
  type Patch,
  type SheetEntry,
} from '../core/moment.ts';
import { finishAnimations } from './animations.ts';
import { stageHost } from '../core/stage.ts';
import { type MediaFeatures, restyle, stateAttributes } from '../core/restyle.ts';
import { makeElement, putAttribute, unseen } from './inert.ts';

/** A timeline to be drawn from. */
export type DrawTimeline = { kind: 'timeline'; base: Moment; patches: Patch[]; assets: Record<string, string>; media: MediaFeatures };

/** What browsers show of an element that is pointed at or has the focus, by rules of their own that no sheet of a page says. */
const browserRules = [
  `[${stateAttributes['focus-visible']}]{outline:auto 1px -webkit-focus-ring-color}`,
  ...['inner-spin-button', 'search-cancel-button', 'calendar-picker-indicator'].map(
    (part) => `input:enabled:read-write:where([${stateAttributes.hover}],[${stateAttributes.focus}])::-webkit-${part}{opacity:1}`,
  ),
];

/**
 * A window paints fixed elements in a layer of their own, above the page's; a frame would blend them with what is below,
 * and be off by a step of grey. This empty layer between the two parts them again.
 */
const parting = '[data-sg-parted]::after{content:"";position:fixed;inset:0;will-change:opacity;pointer-events:none}';

/** Our own rules; those that stand for the browser's are in a cascade layer, so that every rule of the page wins over them. */
const ownRules = `@layer{${browserRules.join('')}}${unseen}${parting}`;

/** Opens a modal dialog that takes no focus: that would be taken from whoever looks at it. */
function showWithoutFocus(dialog: HTMLDialogElement): void {
  dialog.inert = true;
  dialog.showModal();
  dialog.inert = false;
  (dialog.ownerDocument.activeElement as HTMLElement | null)?.blur();
}

export class Drawing {
  readonly #frame: HTMLIFrameElement;
  readonly #document: Document;
  #timeline: DrawTimeline | null = null;
  #moments: Moment[] = [];
  #shown: Moment = emptyMoment(0, 0);
  #nodes = new Map<number, Node>();
  #styles = new Map<number, Set<HTMLStyleElement>>();
  #adopted = new Map<number, CSSStyleSheet>();
  #assetText = new Map<string, string>();
  #ownSheet: CSSStyleSheet | null = null;

  constructor(frame: HTMLIFrameElement) {
    this.#frame = frame;
    this.#document = frame.contentDocument!;
  }

  /** Takes a timeline in; its sheets are fetched, so that drawing never waits. */
  async load(timeline: DrawTimeline): Promise<void> {
    const sheets = [timeline.base, ...timeline.patches].flatMap((moment) => Object.values(moment.sheets ?? {}));
    const hashes = new Set(sheets.flatMap((sheet) => (sheet && 'url' in sheet && timeline.assets[sheet.url] ? [timeline.assets[sheet.url]!] : [])));
    await Promise.all(
      [...hashes].filter((hash) => !this.#assetText.has(hash)).map(async (hash) => this.#assetText.set(hash, await (await fetch(`/asset/${hash}`)).text())),
    );
    this.#timeline = timeline;
    this.#moments = [timeline.base];
    this.#clear();
    this.#patch(diffMoments(emptyMoment(0, 0), timeline.base), timeline.base);
  }

  /** Draws a moment, changing only what differs from the one that is shown. */
  show(index: number): void {
    if (!this.#timeline) return;
    const { patches } = this.#timeline;
    const wanted = Math.max(0, Math.min(index, patches.length));
    for (let i = this.#moments.length; i <= wanted; i++) this.#moments.push(applyPatch(this.#moments[i - 1]!, patches[i - 1]!));
    const moment = this.#moments[wanted]!;
    if (moment !== this.#shown) this.#patch(diffMoments(this.#shown, moment), moment);
    finishAnimations(this.#document);
    this.#partFixed();
  }

  /** Parts fixed elements that were put beside the component (dialogs, notices) from the page. */
  #partFixed(): void {
    const look = this.#document.getElementById('look');
    const beside = this.#document.querySelectorAll('body > :not(#look), body > :not(#look) *');
    look?.toggleAttribute(
      'data-sg-parted',
      [...beside].some((element) => this.#window.getComputedStyle(element).position === 'fixed'),
    );
  }

  get view(): Moment['view'] {
    return this.#shown.view;
  }

  /** Where an element is in the viewport, or null. */
  boxOf(id: number): DOMRect | null {
    const node = this.#nodes.get(id);
    return node?.nodeType === 1 ? (node as Element).getBoundingClientRect() : null;
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

  #patch(patch: Patch, moment: Moment): void {
    const fresh: [Element, ElementEntry][] = [];
    for (const [key, entry] of Object.entries(patch.nodes ?? {})) if (entry) this.#update(Number(key), entry, fresh);
    for (const [key, entry] of Object.entries(patch.nodes ?? {})) if (entry && !isText(entry)) this.#place(Number(key), entry);
    for (const [key, entry] of Object.entries(patch.nodes ?? {})) if (!entry) this.#nodes.delete(Number(key));
    for (const [key, sheet] of Object.entries(patch.sheets ?? {})) if (sheet) this.#restyleSheet(Number(key), sheet);
    const root = this.#nodes.get(moment.root);
    if (root && this.#document.documentElement !== root) this.#document.replaceChild(root, this.#document.documentElement);
    const before = this.#shown;
    this.#shown = moment;
    // Sheets of shadow roots and the document need the sheet entries of the moment that is shown now.
    for (const [element, entry] of fresh) if (entry.shadow) element.shadowRoot!.adoptedStyleSheets = this.#withOwn(entry.shadow.sheets ?? []);
    if (JSON.stringify(before.view.sheets) !== JSON.stringify(moment.view.sheets)) this.#document.adoptedStyleSheets = this.#withOwn(moment.view.sheets);
    const { width, height } = moment.view;
    if (this.#frame.width !== String(width) || this.#frame.height !== String(height)) {
      this.#frame.width = String(width);
      this.#frame.height = String(height);
    }
    for (const [element, entry] of fresh) this.#setState(element, entry.state ?? {});
    this.#markStates(moment);
    this.#document.defaultView!.scrollTo(moment.view.scroll[0], moment.view.scroll[1]);
    for (const { id, scroll } of this.#scrolled(moment))
      (this.#nodes.get(id) as Element | undefined)?.scrollTo({ left: scroll[0], top: scroll[1], behavior: 'instant' });
  }

  *#scrolled(moment: Moment): Generator<{ id: number; scroll: [number, number] }> {
    for (const [id, entry] of Object.entries(moment.nodes)) if (!isText(entry) && entry.state?.scroll) yield { id: Number(id), scroll: entry.state.scroll };
  }

  #update(id: number, entry: NodeEntry, fresh: [Element, ElementEntry][]): void {
    const known = this.#nodes.get(id);
    if (isText(entry)) {
      if (known) known.nodeValue = entry.text;
      else this.#nodes.set(id, this.#document.createTextNode(entry.text));
      return;
    }
    const element = (known as Element | undefined) ?? makeElement(this.#document, entry);
    if (!known) this.#nodes.set(id, element);
    fresh.push([element, entry]);
    const wanted = entry.attrs ?? {};
    for (const { name } of [...element.attributes]) if (!(name in wanted) && !name.startsWith('data-sg-')) element.removeAttribute(name);
    for (const [name, value] of Object.entries(wanted)) putAttribute(element, entry, name, value, this.#timeline!.media, (url) => this.#resolve(url));
    if (entry.sheet !== undefined && element instanceof this.#window.HTMLStyleElement) {
      const users = this.#styles.get(entry.sheet) ?? new Set();
      this.#styles.set(entry.sheet, users.add(element));
    }
  }

  get #window(): Window & typeof globalThis {
    return this.#document.defaultView as Window & typeof globalThis;
  }

  #place(id: number, entry: ElementEntry): void {
    const element = this.#nodes.get(id) as Element;
    if (entry.shadow) this.#setKids(element.shadowRoot!, entry.shadow.kids);
    if (entry.sheet === undefined) this.#setKids(element, entry.kids ?? []);
  }

  #setKids(parent: Node, kids: readonly number[]): void {
    const wanted = kids.flatMap((id) => this.#nodes.get(id) ?? []);
    const keep = new Set<Node>(wanted);
    for (const node of [...parent.childNodes]) if (!keep.has(node)) node.remove();
    let at: ChildNode | null = parent.firstChild;
    for (const node of wanted) {
      if (node === at) at = at.nextSibling;
      else parent.insertBefore(node, at);
    }
  }

  #resolve(url: string, base?: string): string {
    if (url.startsWith('data:') || url.startsWith('#')) return url;
    try {
      const full = new URL(url, base ?? `http://${stageHost}/`).href;
      const hash = this.#timeline!.assets[full];
      // Other addresses would lead out of the recording.
      return hash ? `/asset/${hash}` : 'data:,';
    } catch {
      return 'data:,';
    }
  }

  #textOf(sheet: SheetEntry): string {
    const { assets, media } = this.#timeline!;
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
      const entry = this.#shown.sheets[id];
      if (entry) sheet.replaceSync(this.#textOf(entry));
      this.#adopted.set(id, sheet);
    }
    return sheet;
  }

  #setState(element: Element, state: ElementState): void {
    const w = this.#window;
    if (element instanceof w.HTMLInputElement) {
      if (element.type === 'checkbox' || element.type === 'radio') {
        element.checked = state.checked === true;
        element.indeterminate = state.indeterminate === true;
      } else if (element.type !== 'file' && element.value !== (state.value ?? '')) element.value = state.value ?? '';
    } else if (element instanceof w.HTMLTextAreaElement) {
      if (element.value !== (state.value ?? '')) element.value = state.value ?? '';
    } else if (element instanceof w.HTMLSelectElement) {
      const chosen = new Set(state.selected ?? []);
      Array.from(element.options).forEach((option, i) => {
        option.selected = chosen.has(i);
      });
    } else if (element instanceof w.HTMLDialogElement) {
      if (state.dialog === 'modal' && !element.open && element.isConnected) showWithoutFocus(element);
      else if (!state.dialog && element.open) element.close();
    } else if (element instanceof w.HTMLCanvasElement) {
      // Where scripts are off a canvas is an element like any other, so its pixels replace its content.
      element.style.content = state.pixels ? `url("${state.pixels}")` : '';
    }
    if (element.hasAttribute('popover') && element.isConnected) {
      const popover = element as HTMLElement;
      if (state.popover && !popover.matches(':popover-open')) popover.showPopover();
      else if (!state.popover && popover.matches(':popover-open')) popover.hidePopover();
    }
    element.toggleAttribute(stateAttributes['user-invalid'], state.user === 'invalid');
    element.toggleAttribute(stateAttributes['user-valid'], state.user === 'valid');
    if (!state.scroll && (element.scrollTop !== 0 || element.scrollLeft !== 0)) element.scrollTo(0, 0);
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
    const within: number[] = [];
    if (focus !== null) {
      const parents = new Map<number, number>();
      for (const [id, entry] of Object.entries(moment.nodes))
        if (!isText(entry)) for (const kid of [...(entry.kids ?? []), ...(entry.shadow?.kids ?? [])]) parents.set(kid, Number(id));
      for (let at: number | undefined = focus; at !== undefined; at = parents.get(at)) within.push(at);
    }
    mark(stateAttributes.hover, hover);
    mark(stateAttributes.focus, focus === null ? [] : [focus]);
    mark(stateAttributes['focus-visible'], focus !== null && focusVisible ? [focus] : []);
    mark(stateAttributes['focus-within'], within);
  }
}
