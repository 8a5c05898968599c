/** The document that a lane's window shows: the look file that it is for, and what came before that. */
import type { BundledLooks } from '../bundle/index.ts';
import { addressOf } from '../core/address/address.ts';
import type { Settings } from '../core/settings/config.ts';
import type { Environment } from '../core/settings/environment.ts';
import type { FileReport } from '../core/wire/wire.ts';
import type { EngineWindow } from '../engine/engine.ts';
import type { Contract } from './contract.ts';
import { Conversation } from './conversation.ts';
import type { Ran } from './job.ts';

export type LookDocument = {
  /** What documents have in common that look files can follow one another in. */
  world: string;
  /** The look file that it is for now, and what that says of its looks; null when none has been evaluated yet. */
  present: { entry: BundledLooks; report: Extract<FileReport, { looks: object }> } | null;
  /** No other look file was evaluated before. */
  isOwn: boolean;
  /** Nothing that was evaluated in it so far has asked for anything that the bundle does not hold. */
  isQuiet: boolean;
  /** The looks that it has run, in their order. */
  ran: Ran[];
};

/** A document that has run so many looks turns to no other file: whatever they have left grows with them. */
const mostRan = 50;

/** What a document is before a look file is evaluated in it. */
export const worldOf = ({ base }: BundledLooks, environment: Environment, { network }: Settings): string =>
  JSON.stringify([base, environment, network]);

/** True for a document that has the style sheets that its file was thought to bring. */
export const isAsBuilt = (report: FileReport, { styles }: BundledLooks): boolean =>
  'looks' in report && styles !== null && report.styles.join('\n') === styles.join('\n');

/** Addresses that are none of the bundle, whose addresses change with what is there. */
const beside = (addresses: Iterable<string>): string[] =>
  [...addresses].filter((address) => !/^\/(assets|look)\//.test(addressOf(address)?.pathname ?? ''));

/** True when a document that has just been made, or turned, has asked for nothing but what its bundle holds. */
export const asksNothing = (window: EngineWindow): boolean => beside(window.asked).length === 0;

/** True for a document that may be turned to another look file: its looks so far have left nothing behind. */
export function mayTurn(document: LookDocument, window: EngineWindow, isolate: Settings['isolate']): boolean {
  const { present, isQuiet, ran } = document;
  if (!present || !isQuiet) return isQuiet;
  if (isolate !== null) return false;
  const { report, entry } = present;
  if (ran.length === 0 || ran.length >= mostRan || !report.isPlain || !isAsBuilt(report, entry)) return false;
  // A file that the page holds is not asked for again, and nobody would know that the next look wants it.
  return beside(window.kept).length === 0;
}

/** What is known of a window: whom it talks to, what it shows, and how many looks it has run. */
export type Held = {
  conversation: Conversation;
  document: LookDocument | null;
  looks: number;
  /** How many runs have used it. */
  runs: number;
  /** Resolves when the window is not being made ready for the next run any more. */
  ready: Promise<void>;
};

const windows = new WeakMap<EngineWindow, Held>();

/**
 * What is known of a window for a run that begins: a document that has run looks is none for it. Files that looks hand
 * to their pages are as old as `now`, and their answers keep to the contract.
 */
export async function heldIn(
  window: EngineWindow,
  origin: string,
  now: Date,
  contract: Contract | null,
): Promise<Held> {
  const held = windows.get(window) ?? {
    conversation: new Conversation(window, origin, now),
    document: null,
    looks: 0,
    runs: 0,
    ready: Promise.resolve(),
  };
  windows.set(window, held);
  held.runs++;
  await held.ready;
  held.conversation.forget(contract);
  if (held.document?.present) held.document = null;
  return held;
}
