/**
 * A sitting: one look that is run for a person, who can stop it at any step, try lines on the page that stands there,
 * touch it, and go on.
 */
import type { Problem } from '../problem/problem.ts';
import type { Step } from '../timeline/timeline.ts';

/** How a script goes on, and where it stops next. Steps are counted as in a run in which nobody tries anything. */
export type Orders = {
  /** Until something says stop; over the step that is next, with all that is in it; or into it. */
  go: 'on' | 'over' | 'into';
  /** The number of the step before which it stops; null for none. */
  to: number | null;
  /** It goes straight there: nothing on the way stops it. */
  straight: boolean;
  /** Numbers of steps before which it stops whenever it comes there. */
  breaks: number[];
  /** It stops where a step fails, and goes on behind that when it is told to. */
  failure: boolean;
};

/** Runs through, as fast as it can. */
export const usualOrders: Orders = { go: 'on', to: null, straight: false, breaks: [], failure: false };

/** Why a script has stopped: a `pause()`, a breakpoint, the step that was wanted, the next one, a failure, its end. */
export type StopWhy = 'pause' | 'breakpoint' | 'reached' | 'next' | 'failure' | 'end';

/** Where a script stands. */
export type Stop = {
  why: StopWhy;
  /** The number of the step that comes next, or that has failed; the number of all of them at the end. */
  number: number;
  /** Its index in the timeline of this sitting, in which lines that were tried are steps, too; null at the end. */
  step: number | null;
  /** The moment that the page stands at. */
  moment: number;
  /** What has failed. */
  problem: Problem | null;
};

/** What a line that was tried came to: it held, and gave a value in words; or what was wrong with it. */
export type TriedLine = {
  text: string;
  value: string | null;
  problem: Problem | null;
  /** How many steps it has made: a line that only asks for a value makes none. */
  steps: number;
  /** It was not written but done, by hand, with this number. */
  byHand?: number;
  /** Checks of what came of it. */
  offers?: string[];
};

/** A line for something that was done by hand; without a text it is taken back. */
export type Did = { id: number; text: string | null; offers: string[] };

/** Words that may come next in a line, in place of what stands from `from` on. */
export type Completion = { from: number; words: string[] };

/** Where a sitting has come to somewhere else than the run that it follows, in words; one thing a line. */
export type Parted = { what: string; lines: string[] };

/** What a sitting is asked for with. */
export type SittingRequest = {
  file: string;
  look: string;
  /** The configuration's first one when null. */
  environment: string | null;
  orders: Orders;
  /** The result whose timeline it follows: where it stops is compared with what was recorded there. */
  result: number | null;
  /** Its window can be seen on the screen. */
  headed: boolean;
  /** How long each step waits, in milliseconds, for somebody who looks on. */
  pace: number;
};

/** A list of options that the page has opened, and which of them is chosen. */
export type OptionList = { options: { label: string; isDisabled: boolean }[]; chosen: number };

/** A sitting as it is now. */
export type SittingState = {
  id: number;
  file: string;
  component: string;
  look: string;
  environment: string;
  viewport: [number, number];
  headed: boolean;
  /** The result whose timeline it follows, if it does. */
  result: number | null;
  /** `starting` until its page is there; `over` when that is gone. */
  phase: 'starting' | 'running' | 'stopped' | 'over';
  stop: Stop | null;
  steps: Step[];
  /** Lines that were tried since it began, oldest first. */
  lines: TriedLine[];
  /** Time moves on by itself. */
  isTimeRunning: boolean;
  /** What is done by hand becomes lines. */
  isRecording: boolean;
  /** The list that somebody has to choose from before they go on. */
  choice: OptionList | null;
  /** How it differs from the run that it follows; null when it does not, or follows none. */
  parted: Parted | null;
  /** Why it is over; null for one that has come to its end. */
  problem: Problem | null;
};

/** What a page can be told while its look is attended. */
export type Steering =
  | { do: 'go'; orders: Orders }
  /** Lets happen what is due now, as it is after an action. */
  | { do: 'settle' }
  | { do: 'time'; runs: boolean }
  /** What is done by hand is written down from now on, or no more. */
  | { do: 'record'; isOn: boolean }
  /** An option of the list that the page has opened, by its place. */
  | { do: 'choose'; index: number };
