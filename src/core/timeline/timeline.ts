/**
 * A timeline: everything that happened to one look in one run, on one clock.
 * All times are milliseconds since the look began. The format is described in docs/formats/timeline.md.
 */
import type { Costs, Flame } from '../timing/costs.ts';
import type { Problem } from '../problem/problem.ts';
import type { Moment, Patch } from '../moment/moment.ts';

export type StepKind = 'mount' | 'action' | 'check' | 'answer' | 'capture' | 'part' | 'navigation' | 'error';

/** A rectangle in CSS pixels: left, top, width, height. */
export type Box = [number, number, number, number];

/** A place in a source file; line and column count from 1. */
export type SourcePlace = { file: string; line: number; column: number };

export type Step = {
  index: number;
  kind: StepKind;
  /** What was done, in words: `click button “Release berth”`. */
  title: string;
  /** The index of the part that this step belongs to. */
  parent: number | null;
  at: number;
  /** How long it took; null while it goes on, and for ever when the page died in it. */
  took: number | null;
  /** The look's own time when the step began and when it ended, in milliseconds since the look began. */
  clock?: [number, number];
  outcome: 'passed' | 'failed' | 'broken' | 'running';
  /** Numbers of the moments before and after the step. */
  before: number;
  after: number | null;
  /** The element that the step was about: its id in the moments and where it was. */
  target?: { node: number | null; box: Box | null; description: string };
  /** The element that lay over the one the step was about: its id in the moments. */
  cover?: number | null;
  /** Where the pointer was, in CSS pixels of the viewport. */
  pointer?: [number, number];
  /** How often a check or a wait looked before it came to its outcome. */
  tries?: number;
  /** What a check saw last before it held, or before its patience ended, one thing a line. */
  saw?: string[];
  /** Why a step that passed may say nothing, in words. */
  doubt?: string;
  /** It is none of the script's: somebody has tried it while that stood. */
  tried?: true;
  /** The capture's name. */
  capture?: string;
  /** What it cost the browser, where that was measured. */
  costs?: Costs;
  problem?: Problem;
  source?: SourcePlace;
};

export type Lane = 'console' | 'network' | 'spies' | 'dom';

/** Something that happened beside the steps. */
export type Mark = {
  lane: Lane;
  at: number;
  /** How long it took; null for what has no length or has not ended. */
  took: number | null;
  /** One line for people. */
  title: string;
  level: 'info' | 'warning' | 'error';
  /** All there is to know, as text: arguments, a request's body, a response. */
  detail?: string;
};

/** The steps and marks of a look, with its moments: `moments[0]` is the base, each patch leads to the next. */
export type Timeline = {
  steps: Step[];
  marks: Mark[];
  /** When each moment was taken; one more than there are patches. */
  taken: number[];
  base: Moment;
  patches: Patch[];
  /** Address of a sheet, image or font → hash of the blob that holds it. */
  assets: Record<string, string>;
  /** Which functions of the project ran in a step, where that was measured; by its index. */
  flames?: Record<string, Flame>;
  /** Script source, for the bench: the look file as it was when it ran. */
  source: string | null;
};

/** What a page reports while a look runs, in order. */
export type TimelineEvent =
  | { kind: 'base'; at: number; moment: Moment }
  | { kind: 'patch'; at: number; patch: Patch }
  | { kind: 'step'; step: Step; stack?: string }
  | { kind: 'mark'; id: number; mark: Mark }
  | { kind: 'asset'; url: string; data?: string };

/** The step at which a look went wrong: the innermost one that did not pass, or null. */
export function failingStep(steps: readonly Step[]): Step | null {
  const wrong = steps.filter((step) => step.outcome === 'failed' || step.outcome === 'broken');
  return wrong.filter((step) => step.kind !== 'part').at(0) ?? wrong.at(0) ?? null;
}
