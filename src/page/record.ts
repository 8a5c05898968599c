/** The timeline of the look that is running: steps, marks and moments, sent to the host as they happen. */
import { fail, type Problem, problem, ProblemError } from '../core/problem.ts';
import type { Mark, Step, StepKind, TimelineEvent } from '../core/timeline.ts';
import type { LookRequest } from '../core/wire.ts';
import { finishAnimations } from './animations.ts';
import { blobAsData } from './blobs.ts';
import { ask, post } from './host.ts';
import { native } from './pinned.ts';
import { Recorder } from './recorder.ts';

/** What a step may add to itself while it goes on. */
export type Details = Partial<Pick<Step, 'target' | 'pointer' | 'tries' | 'capture'>>;

/** A step did not hold; it has been recorded, and the script ends. */
export class StepFailed extends Error {
  readonly problem: Problem;
  readonly stepStack: string | null;
  constructor(value: Problem, stepStack: string | null) {
    super(value.message);
    this.problem = value;
    this.stepStack = stepStack;
  }
}

export class Recording {
  readonly number: number;
  /** True when the redrawing of moments is measured: the page is photographed after every step. */
  readonly photographed: boolean;
  readonly notes: string[] = [];
  /** The first error that nobody caught, with its stack. */
  uncaught: { problem: Problem; stack: string | null } | null = null;
  readonly #began = native.now();
  readonly #recorder: Recorder | null;
  #events: TimelineEvent[] = [];
  /** Every timeline names all files that it shows, also those that an earlier look of the document has named. */
  readonly #assetsSent = new Set<string>();
  readonly #reading: Promise<void>[] = [];
  #steps = 0;
  #marks = 0;
  #moments = 0;
  readonly #running = new Map<number, Step>();
  readonly #stacks = new Map<number, string>();
  readonly #parts: number[] = [];
  /** True while a script runs: only then has a step a place in the look file. */
  inScript = false;
  #ended = false;

  constructor(number: number, recording: LookRequest['recording']) {
    this.number = number;
    this.photographed = recording === 'photographed';
    this.#recorder = recording !== 'off' ? new Recorder((url) => this.#asset(url)) : null;
    if (this.#recorder) this.#events.push({ kind: 'base', at: 0, moment: this.#recorder.base() });
  }

  /** Milliseconds since the look began, in tenths. */
  now(): number {
    return Math.round((native.now() - this.#began) * 10) / 10;
  }

  /** Takes a moment if anything has changed; the number of the newest one. */
  moment(): number {
    const patch = this.#recorder?.flush();
    if (patch) {
      const at = this.now();
      this.#events.push({ kind: 'patch', at, patch });
      this.#moments++;
      if (this.#recorder!.changes > 0) this.mark({ lane: 'dom', at, took: null, title: `${this.#recorder!.changes} changes`, level: 'info' });
    }
    return this.#moments;
  }

  begin(kind: StepKind, title: string, stack: string | undefined, details: Details = {}): Step {
    const before = this.moment();
    const step: Step = {
      index: this.#steps++,
      kind,
      title,
      parent: this.#parts.at(-1) ?? null,
      at: this.now(),
      took: null,
      outcome: 'running',
      before,
      after: null,
      ...details,
    };
    this.#running.set(step.index, step);
    this.#events.push({ kind: 'step', step: { ...step }, stack });
    if (stack) this.#stacks.set(step.index, stack);
    // Should it never end, the host must know what was going on.
    this.send();
    return step;
  }

  end(step: Step, outcome: 'passed' | 'failed' | 'broken', wrong?: Problem): void {
    if (this.#ended || !this.#running.has(step.index)) return;
    step.after = this.moment();
    step.took = Math.round((this.now() - step.at) * 10) / 10;
    step.outcome = outcome;
    if (wrong) step.problem = wrong;
    this.#running.delete(step.index);
    this.#events.push({ kind: 'step', step: { ...step } });
    this.send();
  }

  /** Adds a mark; calling the returned function again with changes updates it. */
  mark(mark: Mark): (change: Partial<Mark>) => void {
    const id = this.#marks++;
    let latest = mark;
    this.#events.push({ kind: 'mark', id, mark });
    return (change) => {
      latest = { ...latest, ...change };
      if (!this.#ended) this.#events.push({ kind: 'mark', id, mark: latest });
    };
  }

  enter(part: Step): void {
    this.#parts.push(part.index);
  }

  leave(): void {
    this.#parts.pop();
  }

  /** Steps that have begun and not ended, parts aside: somebody forgot an await. */
  unfinished(): Step[] {
    return [...this.#running.values()].filter((step) => step.kind !== 'part');
  }

  /** Where in the look file a step was made, as a stack. */
  stackOf(step: Step): string | null {
    return this.#stacks.get(step.index) ?? null;
  }

  idOf(element: Node): number | null {
    return this.#recorder?.idOf(element) ?? null;
  }

  send(): void {
    if (this.#events.length === 0) return;
    post({ kind: 'events', look: this.number, events: this.#events });
    this.#events = [];
  }

  /** Takes the last moment, and resolves when everything has been sent. */
  async stop(): Promise<void> {
    this.moment();
    this.#recorder?.stop();
    await Promise.all(this.#reading);
    this.send();
    this.#ended = true;
  }

  #asset(url: string): void {
    if (this.#assetsSent.has(url) || url.startsWith('data:')) return;
    this.#assetsSent.add(url);
    if (!url.startsWith('blob:')) {
      this.#events.push({ kind: 'asset', url });
      return;
    }
    const reading = blobAsData(url).then((data) => void (data && this.#events.push({ kind: 'asset', url, data })));
    this.#reading.push(reading);
  }
}

let running: Recording | null = null;

export const setRecording = (recording: Recording | null): void => {
  running = recording;
};

/** The recording of the look that runs, or null between looks. */
export const recordingNow = (): Recording | null => running;

/** The recording of the look that runs; actions and checks are meaningless outside one. */
export function recordingOf(what: string): Recording {
  return running ?? fail('bad-step', { what: `${what} was called outside a script.`, remedy: 'Call it inside the async script() of a look.' });
}

/** Takes a picture of the viewport at one moment: once more when the document has changed meanwhile. */
async function photograph(current: Step, recording: Recording): Promise<void> {
  for (let tries = 0; tries < 20; tries++) {
    finishAnimations();
    const moment = recording.moment();
    await ask({ do: 'capture', name: `step ${current.index}`, clip: [0, 0, innerWidth, innerHeight], beyond: false, step: current.index, moment });
    if (recording.moment() === moment) return;
  }
}

/** Runs `body` as one step of the timeline. Must be called before the caller awaits anything, so that its place is known. */
export async function step<T>(kind: StepKind, title: string, body: (step: Step, recording: Recording) => Promise<T> | T, details: Details = {}): Promise<T> {
  const recording = recordingOf(title);
  const stack = recording.inScript ? (new Error().stack ?? '') : undefined;
  const current = recording.begin(kind, title, stack, details);
  try {
    const result = await body(current, recording);
    if (kind !== 'part') finishAnimations();
    recording.end(current, 'passed');
    if (recording.photographed && kind !== 'part') await photograph(current, recording);
    return result;
  } catch (error) {
    if (error instanceof StepFailed) {
      // It was told at the inner step; the part around it only shares the outcome.
      recording.end(current, 'failed');
      throw error;
    }
    const wrong =
      error instanceof ProblemError
        ? error.problem
        : problem('script-threw', { error: error instanceof Error ? `${error.name}: ${error.message}` : String(error) });
    const told = (error instanceof ProblemError || !(error instanceof Error) ? stack : (error.stack ?? stack)) ?? null;
    recording.end(current, wrong.code === 'render-threw' ? 'broken' : 'failed', wrong);
    throw new StepFailed(wrong, told);
  }
}
