/** What running looks asks of any browser engine, whatever protocol drives it. */
import type { CoveredScript } from '../core/coverage/hits.ts';
import type { Environment } from '../core/settings/environment.ts';
import type { Measured } from '../core/timing/costs.ts';
import type { Box } from '../core/timeline/timeline.ts';
import type { Files, InputRequest, PausedRequest, Surroundings } from '../core/wire/wire.ts';
import type { ProcessorTime } from './processor.ts';

/** What a window tells its owner. Every handler is called in the order in which things happened. */
export type WindowHandlers = {
  /** The page called the host. */
  message(text: string): void;
  /** The page made a request with fetch or XMLHttpRequest. */
  request(request: PausedRequest): void;
  /** A picture, font, sheet or film that the page has asked for is not there. */
  missing(url: string): void;
  /** A dialog opened and was dismissed. */
  dialog(type: string, text: string): void;
  /** A file chooser opened that nobody had asked for; it stays empty. */
  chooser(): void;
  /** The document was replaced without `load` having been called. */
  left(url: string): void;
  /** The page crashed, the window was closed, or it does not answer any more. */
  lost(error: LostError): void;
};

/** A reply with its body. */
export type FullReply = { status: number; headers: Record<string, string>; body: Uint8Array };

/** What is carried or pasted, with paths of files. */
export type LoadedFiles = { text: string | null; html: string | null; files: string[] };

/** A browser window that one lane works in. Calls reject with a `LostError` once the page or browser is gone. */
export type EngineWindow = {
  handlers: WindowHandlers | null;
  /** Why the window cannot be used any more; null while it can. */
  readonly lost: LostError | null;
  /** Addresses of everything that the page has asked for since it was loaded, or since somebody emptied this. */
  readonly asked: Set<string>;
  /** Those since it was loaded of files that it may show once more without asking again. */
  readonly kept: ReadonlySet<string>;
  /** What the page has asked for besides the requests of its scripts. */
  readonly files: Files;
  /** True for a window that was given a touch screen or no pointer: it cannot be given a mouse again. */
  readonly hasLostMouse: boolean;
  /**
   * From now on time is the page's own: the timelines of animations stand at 0 in every document, and frames of the
   * same origin and workers are given the time of their page.
   */
  holdTime(): Promise<void>;
  /** Makes the window show what a person in that environment would see. */
  apply(environment: Environment): Promise<void>;
  /** Loads a page and waits for its load event. */
  load(url: string): Promise<void>;
  /**
   * Evaluates an expression in the page, awaiting a promise for at most `limit` milliseconds; the value comes back as
   * JSON.
   */
  evaluate(expression: string, limit?: number): Promise<unknown>;
  /** PNG of a clip in CSS pixels of the page; `beyond` when it reaches outside the viewport. */
  screenshot(clip: Box, beyond: boolean): Promise<Buffer>;
  /**
   * Whoever listens is handed a PNG of the viewport whenever that has been painted anew; null ends it. It may be a
   * frame late: for pictures that are compared there is `screenshot`.
   */
  show(listener: ((picture: Buffer) => void) | null): Promise<void>;
  /** Sends events in order and resolves when the page has handled them all. */
  input(events: readonly InputRequest[]): Promise<void>;
  /** As `input`, from a person's own hand: what the page lets be dragged goes with the pointer, and is dropped. */
  handle(events: readonly InputRequest[]): Promise<void>;
  /**
   * Carries what the mouse has begun to drag, or a load from outside, to a point of the viewport, and drops it there or
   * not; true when it was something to be dragged.
   */
  carry(
    point: readonly [number, number],
    load: LoadedFiles | null,
    how: { modifiers: number; drops: boolean },
  ): Promise<boolean>;
  /**
   * Sends input that opens a file chooser, and chooses files by their paths. Resolves with what it took: `none` when no
   * chooser opened, `one` when it takes only one file.
   */
  choose(events: readonly InputRequest[], files: readonly string[]): Promise<'chosen' | 'none' | 'one'>;
  /**
   * Puts a load on the clipboard, and with it a PNG (base64), and pastes that with the keyboard, undisturbed by other
   * windows.
   */
  paste(load: LoadedFiles, pngs: readonly string[]): Promise<void>;
  /** Keeps files where the browser finds them until `restore`; resolves with their paths. */
  hold(files: readonly { name: string; bytes: Uint8Array }[], modified: Date): Promise<string[]>;
  /**
   * Has elements look as if each of them had the focus, while something is done. `elements` is an expression of the
   * page for the list of them.
   */
  asFocused<T>(elements: string, doing: () => Promise<T>): Promise<T>;
  /** Changes the world around the page until `restore`. */
  surround(changes: Surroundings): Promise<void>;
  /** Takes back whatever `surround` has changed. */
  restore(): Promise<void>;
  /** Answers a paused request. */
  fulfil(id: string, response: FullReply): void;
  /** Lets a paused request go to the network. */
  proceed(id: string): void;
  /** Fails a paused request as if the server could not be reached. */
  refuse(id: string): void;
  /** Empties everything that pages of an origin have stored. */
  clearStorage(origin: string): Promise<void>;
  /** Whether `where` can tell anything from now on, which costs every script some of its speed. */
  watch(isWatched: boolean): Promise<void>;
  /** Where the script that runs in the page stands now, as a stack; null when none runs, or nobody watches. */
  where(): Promise<string | null>;
  /**
   * Whether it is counted what scripts run that are compiled after the first page has loaded, which costs some of their
   * speed; of others only functions as a whole. False when a page has been loaded already, so that it is too late.
   */
  cover(isCovered: boolean): Promise<boolean>;
  /** What the scripts at an origin have run since it was asked last. */
  covered(origin: string): Promise<CoveredScript[]>;
  /**
   * Begins to take down what the browser does, and which functions run, until `measured`. One window of a browser can
   * do so at a time.
   */
  measure(): Promise<void>;
  /** What was taken down since. */
  measured(): Promise<Measured>;
  /** Stops the script that runs in the page now, endless or not. */
  halt(): Promise<void>;
  close(): Promise<void>;
};

/** What an engine can do beyond showing pages; where one cannot, the page's side or the run has to do without. */
export type Capabilities = {
  /** Requests can be paused and answered. */
  answers: boolean;
  /** Colour scheme, motion and contrast can be set for each window. */
  media: boolean;
  /** A script that does not end can be stopped without losing the page. */
  halt: boolean;
  /** Pictures may reach outside the viewport. */
  beyondViewport: boolean;
};

/** The processes of a browser by their ids, with what they have had of the processor; `isPage` for those of pages. */
export type BrowserLoad = ReadonlyMap<number, ProcessorTime & { isPage: boolean }>;

/** A running browser. */
export type Engine = {
  capabilities: Capabilities;
  /** For people and fingerprints: `Chromium 156.0.8078.79`. */
  name: string;
  /** Hash of the installed fonts. */
  fonts: string;
  pid: number;
  /** Opens a window with storage of its own. */
  open(): Promise<EngineWindow>;
  /** Empty where the system does not tell, and when the browser has ended. */
  load(): Promise<BrowserLoad>;
  /** Resolves when the browser has ended, with the reason. */
  gone: Promise<string>;
  close(): Promise<void>;
};

/** The page, window or browser that a call was made to is no longer there, or `silent`: it does not answer. */
export class LostError extends Error {
  readonly what: 'page' | 'window' | 'browser' | 'silent';
  constructor(what: LostError['what'], message: string) {
    super(message);
    this.name = 'LostError';
    this.what = what;
  }
}
