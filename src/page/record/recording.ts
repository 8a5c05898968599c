/** The timeline of one look: steps, marks and moments, sent to the host as they happen. */
import type { Problem } from '../../core/problem/problem.ts';
import { counted } from '../../core/text/counted.ts';
import { shortened } from '../../core/text/folded.ts';
import type { Box, Mark, Step, StepKind, TimelineEvent } from '../../core/timeline/timeline.ts';
import { stampOf } from '../../core/timing/costs.ts';
import type { LookRequest } from '../../core/wire/wire.ts';
import { isTryingNow } from '../attend/attend.ts';
import { post } from '../host/host.ts';
import { append, native } from '../host/natives.ts';
import { isTimed } from '../host/settings.ts';
import { timeNow } from '../time/time.ts';
import { blobAsData } from './blobs.ts';
import { Recorder } from './recorder.ts';
import { unrendered } from './unrendered.ts';

/** What a step may add to itself while it goes on. */
export type Details = Partial<Pick<Step, 'target' | 'pointer' | 'tries' | 'capture'>>;

/** Longer texts are cut in the titles of steps and marks. */
const longestTitle = 500;

const cut = (title: string): string => shortened(title, longestTitle);

/** More than any look has; the rest is counted, not kept. */
const mostMarks = 5000;

export class Recording {
  readonly number: number;
  /** True when the redrawing of moments is measured: the page is photographed after every step. */
  readonly photographed: boolean;
  readonly notes: string[] = [];
  /** What may be behind a failure of the look, as notes. */
  readonly suspicions: string[] = [];
  /** The first error that nobody caught, with its stack. */
  uncaught: { problem: Problem; stack: string | null } | null = null;
  /** The first failure behind which somebody has let the script go on. */
  overlooked: Error | null = null;
  /** True while a script runs: only then has a step a place in the look file. */
  inScript = false;
  /** Titles of steps whose work has not ended, whatever is told of them. */
  readonly open = new Map<number, string>();
  /** The look has ended: whatever still goes on belongs to nobody, and does nothing any more. */
  isOver = false;
  /** More was tried on its page than the look does: what the page does from here on is not the look's doing. */
  isTried = false;
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
  readonly #aimed = new Map<number, Element | null>();
  readonly #parts: number[] = [];
  /** Who waits until no step is unfinished. */
  #waiting: (() => void)[] = [];

  constructor(number: number, recording: LookRequest['recording']) {
    this.number = number;
    this.photographed = recording === 'photographed';
    this.#recorder = recording !== 'off' ? new Recorder((url) => this.#asset(url)) : null;
    if (this.#recorder) append(this.#events, { kind: 'base', at: 0, moment: this.#recorder.base() });
  }

  /** Milliseconds since the look began, in tenths. */
  now(): number {
    return Math.round((native.now() - this.#began) * 10) / 10;
  }

  /** Takes a moment if anything has changed; the number of the newest one. */
  moment(): number {
    const patch = this.isOver ? null : this.#recorder?.flush();
    if (patch) {
      const at = this.now();
      append(this.#events, { kind: 'patch', at, patch });
      this.#moments++;
      const { changes } = this.#recorder!;
      if (changes > 0) this.mark({ lane: 'dom', at, took: null, title: counted(changes, 'change'), level: 'info' });
    }
    return this.#moments;
  }

  /** Ids of the outermost recorded nodes that are not rendered. */
  unseen(): number[] {
    const found: number[] = [];
    for (const element of unrendered(document.body)) {
      const id = this.idOf(element);
      if (id !== null) append(found, id);
    }
    return found;
  }

  begin(kind: StepKind, title: string, stack: string | undefined, details: Details = {}): Step {
    const before = this.moment();
    const step: Step = {
      index: this.#steps++,
      kind,
      title: cut(title),
      parent: this.#parts.at(-1) ?? null,
      at: this.now(),
      took: null,
      clock: [timeNow(), timeNow()],
      outcome: 'running',
      before,
      after: null,
      ...(isTryingNow() && { tried: true }),
      ...details,
    };
    this.#running.set(step.index, step);
    append(this.#events, { kind: 'step', step: { ...step }, stack });
    if (stack) this.#stacks.set(step.index, stack);
    // Should it never end, the host must know what was going on.
    this.send();
    if (isTimed()) native.timeStamp(stampOf('begin', step.index));
    return step;
  }

  /** Says which element a step is about; one that appeared during the step gets its id at the end of it. */
  aim(step: Step, description: string, element: Element | null, box: Box | null): void {
    step.target = { node: element && this.idOf(element), box, description };
    this.#aimed.set(step.index, element);
  }

  /** Says what lies over the element that a step is about; null for nothing that can be shown. */
  cover(step: Step, element: Element | null): void {
    step.cover = element && this.idOf(element);
  }

  end(step: Step, outcome: 'passed' | 'failed' | 'broken', wrong?: Problem): void {
    if (this.isOver || !this.#running.has(step.index)) return;
    if (isTimed()) native.timeStamp(stampOf('end', step.index));
    step.after = this.moment();
    const aimed = this.#aimed.get(step.index);
    if (step.target && aimed) step.target.node ??= this.idOf(aimed);
    step.took = Math.round((this.now() - step.at) * 10) / 10;
    step.clock = [step.clock![0], timeNow()];
    step.outcome = outcome;
    if (wrong) step.problem = wrong;
    this.#running.delete(step.index);
    append(this.#events, { kind: 'step', step: { ...step } });
    this.send();
    this.#tellFree();
  }

  /** Says something else of a step than was said before. */
  amend(step: Step, change: Partial<Step>): void {
    Object.assign(step, change);
    append(this.#events, { kind: 'step', step: { ...step } });
  }

  /** Adds a mark; calling the returned function again with changes updates it. */
  mark(mark: Mark): (change: Partial<Mark>) => void {
    if (this.isOver || this.#marks >= mostMarks) return () => {};
    const id = this.#marks++;
    let latest = { ...mark, title: cut(mark.title) };
    append(this.#events, { kind: 'mark', id, mark: latest });
    return (change) => {
      latest = { ...latest, ...change };
      if (!this.isOver) append(this.#events, { kind: 'mark', id, mark: { ...latest, title: cut(latest.title) } });
    };
  }

  /** Adds a note once. */
  note(text: string): void {
    if (!this.notes.includes(text)) append(this.notes, text);
  }

  /** Adds what may be behind a failure: a note if the look fails. */
  suspect(text: string): void {
    if (!this.suspicions.includes(text)) append(this.suspicions, text);
  }

  /** Adds a note about something that the page does by itself. */
  witness(text: string): void {
    if (!this.isTried) this.note(text);
  }

  /** A step begins only now: whatever has happened since it was begun was before it. */
  renew(step: Step): void {
    const before = this.moment();
    this.amend(step, { before, at: this.now(), clock: [timeNow(), timeNow()] });
    this.send();
  }

  /** How many steps have begun. */
  get count(): number {
    return this.#steps;
  }

  /** How many parts the script is in. */
  get depth(): number {
    return this.#parts.length;
  }

  enter(part: Step): void {
    append(this.#parts, part.index);
  }

  leave(): void {
    this.#parts.pop();
  }

  /** Steps that have begun and not ended, parts aside. */
  unfinished(): Step[] {
    return [...this.#running.values()].filter((step) => step.kind !== 'part');
  }

  /** Resolves when no step is unfinished. */
  free(): Promise<void> {
    return new Promise((resolve) => {
      append(this.#waiting, resolve);
      this.#tellFree();
    });
  }

  #tellFree(): void {
    if (this.unfinished().length > 0) return;
    const waiting = this.#waiting;
    this.#waiting = [];
    for (let i = 0; i < waiting.length; i++) waiting[i]!();
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
    this.isOver = true;
  }

  #asset(url: string): void {
    if (this.#assetsSent.has(url) || url.startsWith('data:')) return;
    this.#assetsSent.add(url);
    if (!url.startsWith('blob:')) {
      append(this.#events, { kind: 'asset', url });
      return;
    }
    const reading = blobAsData(url).then((data) => void (data && append(this.#events, { kind: 'asset', url, data })));
    append(this.#reading, reading);
  }
}

let running: Recording | null = null;

/** Says which look runs now; null between looks. */
export const setRecording = (recording: Recording | null): void => {
  running = recording;
};

/** The recording of the look that runs, or null between looks. */
export const recordingNow = (): Recording | null => running;
