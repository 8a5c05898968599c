/** What a page and its host say to one another. Both directions are JSON; the page is never trusted with more than its own look. */
import type { Problem } from './problem.ts';
import type { Box, TimelineEvent } from './timeline.ts';

export type MouseButton = 'left' | 'middle' | 'right' | 'none';

/** Trusted input that a page asks its host to send. */
export type InputRequest =
  | { kind: 'move'; x: number; y: number; button: MouseButton }
  | { kind: 'down' | 'up'; x: number; y: number; button: MouseButton; clicks: number; modifiers: number }
  | { kind: 'key'; key: string; modifiers: number };

/** What a page can ask its host to do while it waits. */
export type Ask = { do: 'input'; events: InputRequest[] } | { do: 'capture'; name: string; clip: Box; beyond: boolean; step: number; moment: number };

/** A stubbed reply to a request. */
export type Reply = { status: number; headers: Record<string, string>; body: string };

export type FromPage =
  | { kind: 'ask'; id: number; ask: Ask }
  | { kind: 'events'; look: number; events: TimelineEvent[] }
  | { kind: 'answer'; request: string; reply: Reply | 'proceed' | 'refuse' };

/** A request of the page, as the host hands it back to the page to be answered. */
export type AskedRequest = { id: string; method: string; url: string; headers: Record<string, string>; body: string | null; asset: boolean };

/** One look to run. */
export type LookRequest = {
  look: string;
  /** Counts the looks that this document has run; events carry it, so that late ones are told apart. */
  number: number;
  patience: number;
  /** What the clock shows when the look begins, in milliseconds since 1970. */
  now: number;
  scheme: 'light' | 'dark';
  /** `on`, but where recording itself is measured: `off`, or `photographed` to take a screenshot after every step. */
  recording: 'on' | 'off' | 'photographed';
};

/** What a look came to inside its page. */
export type LookReport = {
  outcome: 'passed' | 'failed' | 'broken';
  problem: Problem | null;
  /** Stack of the error behind the problem, for the source map. */
  stack: string | null;
  /** What a person should know although it changed no verdict. */
  notes: string[];
};

/** What a look file's document says when it is asked for its looks. */
export type FileReport = { looks: { look: string; hasScript: boolean; after: string | null }[] } | { problem: Problem; stack: string | null };

/** The global functions of a page through which its host calls it. */
export type PageGlobal = {
  file(): Promise<FileReport>;
  run(request: LookRequest): Promise<LookReport>;
  reply(id: number, error: string | null): void;
  request(request: AskedRequest): void;
};
