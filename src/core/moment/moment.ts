/**
 * A moment: the DOM as it was at one instant, as a plain value.
 *
 * A moment is three flat records (nodes by id, style sheets by id, and the view), so that the difference
 * between two moments is a record of the same shape: a patch sets entries, or drops them with null.
 * The format is described in docs/formats/timeline.md.
 */

/** What an element shows besides its attributes; only what differs from a fresh element is there. */
export type ElementState = {
  /** Current value of an input, textarea or select. */
  value?: string;
  checked?: boolean;
  indeterminate?: boolean;
  /** Indexes of a select's selected options. */
  selected?: number[];
  /** Scroll offsets [left, top] in CSS pixels. */
  scroll?: [number, number];
  /** How a dialog is shown: `modal` ones are in the top layer. */
  dialog?: 'modal' | 'open';
  /** A popover that is shown (top layer). */
  popover?: true;
  /** A canvas's pixels as a `data:` URL. */
  pixels?: string;
  /** The validity a person has been told about (`:user-invalid`, `:user-valid`). */
  user?: 'invalid' | 'valid';
  /** What sheets see of a custom element: `undefined`, `disabled`, and `:open` for `:state(open)`. */
  custom?: string[];
  /** How far the animations inside an SVG picture are. */
  seconds?: number;
  /**
   * What animations make of it: by pseudo-element (`''` for the element itself), values by property as scripts write
   * it. What a style sheet's own animation shows at its end is left out.
   */
  animated?: Record<string, Record<string, string>>;
};

/** An element. `kids` are ids, in order. */
export type ElementEntry = {
  tag: string;
  /** `svg` or `math`; absent for HTML. */
  ns?: 'svg' | 'math';
  attrs?: Record<string, string>;
  kids?: number[];
  /** An open shadow root: its children and its adopted sheets. */
  shadow?: { kids: number[]; sheets?: number[] };
  /** For `style` and `link`: the id of its sheet. */
  sheet?: number;
  /** For frames: the element of their document where it could be read, and their size in CSS pixels. */
  frame?: { kid: number | null; width: number; height: number };
  state?: ElementState;
};

type TextEntry = { text: string };
export type NodeEntry = ElementEntry | TextEntry;

/** A style sheet: its text, or the URL of the asset that holds it. */
export type SheetEntry = { css: string; base: string } | { url: string };

/** What belongs to the window rather than to a node. */
export type View = {
  width: number;
  height: number;
  scroll: [number, number];
  /** Elements under the pointer, from the root inwards. */
  hover: number[];
  focus: number | null;
  focusVisible: boolean;
  /** Sheets adopted by the document, in order. */
  sheets: number[];
  /** What the look itself has changed of what media queries see. */
  media?: ChangedMedia;
};

/** Media features that a look has changed, beside those of its environment. */
export type ChangedMedia = {
  scheme?: 'light' | 'dark';
  motion?: 'reduce' | 'no-preference';
  contrast?: 'more' | 'no-preference';
  forcedColours?: boolean;
  print?: boolean;
};

export type Moment = {
  /** The id of the document element. */
  root: number;
  nodes: Record<string, NodeEntry>;
  sheets: Record<string, SheetEntry>;
  view: View;
};

/** What turns one moment into another: entries set, entries dropped (null), parts of the view replaced. */
export type Patch = {
  nodes?: Record<string, NodeEntry | null>;
  sheets?: Record<string, SheetEntry | null>;
  view?: Partial<View>;
};

export const isText = (entry: NodeEntry): entry is TextEntry => 'text' in entry;

/** An empty window: one `html` element, nothing in it. */
export const emptyMoment = (width: number, height: number): Moment => ({
  root: 1,
  nodes: { 1: { tag: 'html' } },
  sheets: {},
  view: { width, height, scroll: [0, 0], hover: [], focus: null, focusVisible: false, sheets: [] },
});
