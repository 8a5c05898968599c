/** The style sheets of a recorded page, as a frame shows them: restyled, and with nothing that leads out of it. */
import { addressOf } from '../core/address/address.ts';
import type { Moment, SheetEntry } from '../core/moment/moment.ts';
import { type MediaFeatures, restyle, stateAttributes } from '../core/moment/restyle.ts';
import { stageHost } from '../core/wire/stage.ts';
import { standInRules } from './inert.ts';

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
const folder = document.documentElement.dataset.assets ?? '/asset/';

/** Which recorded file each address stands for, and what media queries said. */
type Recorded = { assets: Record<string, string>; media: MediaFeatures };

export class DrawnSheets {
  readonly #document: Document;
  #recorded: Recorded | null = null;
  /** What the moment that is shown says of its sheets and its media. */
  #moment: Pick<Moment, 'sheets' | 'view'> | null = null;
  /** Text of recorded files by their hash. */
  readonly #texts = new Map<string, string>();
  /** The style elements that show each sheet, and the sheets that roots have adopted. */
  readonly #styles = new Map<number, Set<Element>>();
  readonly #adopted = new Map<number, CSSStyleSheet>();
  #own: CSSStyleSheet | null = null;

  constructor(document: Document) {
    this.#document = document;
  }

  /** Fetches the texts of sheets that are files, so that drawing never waits. */
  async fetch(sheets: readonly (SheetEntry | null)[], files: Recorded['assets']): Promise<void> {
    const hashes = sheets.map((sheet) => (sheet && 'url' in sheet ? files[sheet.url] : undefined));
    const wanted = new Set(hashes.filter((hash) => hash !== undefined && !this.#texts.has(hash)) as string[]);
    const load = async (hash: string) => this.#texts.set(hash, await (await fetch(folder + hash)).text());
    await Promise.all([...wanted].map(load));
  }

  /** Another timeline is drawn from now on. */
  begin({ assets, media }: Recorded): void {
    this.#recorded = { assets, media };
  }

  /** Nothing is drawn any more. */
  clear(): void {
    this.#styles.clear();
    this.#adopted.clear();
    this.#document.adoptedStyleSheets = this.rooted([]);
  }

  /** This moment is shown from now on: its sheets and its media count. */
  turnTo(moment: Moment): void {
    this.#moment = moment;
  }

  /** What media queries say in the moment that is shown. */
  get media(): MediaFeatures {
    return { ...this.#recorded!.media, ...this.#moment?.view.media };
  }

  /** Our own rules, which no page has. */
  get own(): CSSStyleSheet | null {
    return this.#own;
  }

  /** Where a recorded file is found; other addresses would lead out of the recording. */
  resolve(url: string, base?: string): string {
    if (/^(data:|#)/i.test(url)) return url;
    const full = addressOf(url, base ?? `http://${stageHost}/`)?.href;
    const hash = full === undefined ? undefined : this.#recorded!.assets[full];
    return hash ? folder + hash : 'data:,';
  }

  /** An element that is made again, as when one steps back, needs the text that its sheet has at this moment. */
  show(id: number, element: Element): void {
    const users = this.#styles.get(id) ?? new Set();
    this.#styles.set(id, users.add(element));
    const sheet = this.#moment?.sheets[id];
    const text = sheet ? this.#textOf(sheet) : '';
    if (element.textContent !== text) element.textContent = text;
  }

  /** An element is drawn no more. */
  drop(element: Element): void {
    for (const users of this.#styles.values()) users.delete(element);
  }

  /** A sheet has changed, wherever it is shown. */
  change(id: number, sheet: SheetEntry): void {
    const text = this.#textOf(sheet);
    for (const element of this.#styles.get(id) ?? []) if (element.textContent !== text) element.textContent = text;
    this.#adopted.get(id)?.replaceSync(text);
  }

  /** Our own rules, and the sheets that a root has adopted. */
  rooted(ids: readonly number[]): CSSStyleSheet[] {
    if (!this.#own) {
      this.#own = this.#make();
      this.#own.replaceSync(ownRules);
    }
    return [this.#own, ...ids.map((id) => this.#adopt(id))];
  }

  /** The sheet must be of the frame's own realm. */
  #make(): CSSStyleSheet {
    return new (this.#document.defaultView as Window & typeof globalThis).CSSStyleSheet();
  }

  #adopt(id: number): CSSStyleSheet {
    const sheet = this.#adopted.get(id) ?? this.#make();
    this.#adopted.set(id, sheet);
    const entry = this.#moment?.sheets[id];
    if (entry) sheet.replaceSync(this.#textOf(entry));
    return sheet;
  }

  #textOf(sheet: SheetEntry): string {
    const [css, base] =
      'css' in sheet
        ? [sheet.css, sheet.base]
        : [this.#texts.get(this.#recorded!.assets[sheet.url] ?? '') ?? '', sheet.url];
    return restyle(css, this.media, (url) => this.resolve(url, base));
  }
}
