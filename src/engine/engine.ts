/** What the runner asks of any browser engine, whatever protocol drives it. */
import type { Environment } from '../core/environment.ts';
import type { Box } from '../core/timeline.ts';

/** A request that the page made and that waits for a decision. */
export type PausedRequest = {
  id: string;
  method: string;
  url: string;
  headers: Record<string, string>;
  body: string | null;
};

export type FulfilledResponse = { status: number; headers: Record<string, string>; body: string };

export type MouseButton = 'none' | 'left' | 'middle' | 'right';

/** One trusted input event. Positions are CSS pixels of the viewport. */
export type InputEvent =
  | { kind: 'move'; x: number; y: number; button: MouseButton }
  | { kind: 'down' | 'up'; x: number; y: number; button: MouseButton; clicks: number; modifiers: number }
  | { kind: 'key'; key: string; modifiers: number };

/** What a window tells its owner. Every handler is called in the order in which things happened. */
export type WindowHandlers = {
  /** The page called the host. */
  message(text: string): void;
  /** The page made a request with fetch or XMLHttpRequest. */
  request(request: PausedRequest): void;
  /** A dialog opened and was dismissed. */
  dialog(type: string, text: string): void;
  /** The document was replaced without `load` having been called. */
  left(url: string): void;
  crashed(): void;
  closed(): void;
};

/** A browser window that one lane works in. Calls reject with a `LostError` once the page or browser is gone. */
export type EngineWindow = {
  handlers: WindowHandlers | null;
  /** Makes the window show what a person in that environment would see. */
  apply(environment: Environment): Promise<void>;
  /** Loads a page and waits for its load event. */
  load(url: string): Promise<void>;
  /** Evaluates an expression in the page, awaiting a promise; the value comes back as JSON. */
  evaluate(expression: string): Promise<unknown>;
  /** PNG of a clip in CSS pixels of the page; `beyond` when it reaches outside the viewport. */
  screenshot(clip: Box, beyond: boolean): Promise<Buffer>;
  /** Sends events in order and resolves when the page has handled them all. */
  input(events: readonly InputEvent[]): Promise<void>;
  /** Answers a paused request. */
  fulfil(id: string, response: FulfilledResponse): void;
  /** Lets a paused request go to the network. */
  proceed(id: string): void;
  /** Fails a paused request as if the server could not be reached. */
  refuse(id: string): void;
  /** Stops the script that runs in the page now, endless or not. */
  halt(): Promise<void>;
  close(): Promise<void>;
};

/** A running browser. */
export type Engine = {
  /** For people and fingerprints: `Chromium 156.0.8078.79`. */
  name: string;
  /** Hash of the installed fonts. */
  fonts: string;
  pid: number;
  /** Opens a window with storage of its own. */
  open(): Promise<EngineWindow>;
  /** Resolves when the browser has ended, with the reason. */
  gone: Promise<string>;
  close(): Promise<void>;
};

/** The page, window or browser that a call was made to is no longer there. */
export class LostError extends Error {
  readonly what: 'page' | 'window' | 'browser';
  constructor(what: LostError['what'], message: string) {
    super(message);
    this.name = 'LostError';
    this.what = what;
  }
}
