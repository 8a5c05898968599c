/** Gathers what a page reports while a look runs into a timeline, also when the page dies in the middle. */
import { emptyMoment, type Moment, type Patch } from '../moment/moment.ts';
import type { Problem } from '../problem/problem.ts';
import type { Mark, Step, TimelineEvent } from './timeline.ts';

export type Trace = {
  steps: Step[];
  /** Stack of each step as the page saw it, by step index. */
  stacks: (string | undefined)[];
  marks: Mark[];
  taken: number[];
  base: Moment;
  patches: Patch[];
  /** Addresses of sheets, images and fonts, with their bytes as a `data:` URL when only the page has them. */
  assets: Map<string, string | undefined>;
};

export const emptyTrace = (): Trace => ({
  steps: [],
  stacks: [],
  marks: [],
  taken: [0],
  base: emptyMoment(0, 0),
  patches: [],
  assets: new Map(),
});

/** More than any script has; a page that reports more is not believed. */
const mostSteps = 100_000;

/** Adds one event. The page is not trusted: what does not fit is left out. */
export function gather(trace: Trace, event: TimelineEvent): void {
  switch (event.kind) {
    case 'base':
      trace.base = event.moment;
      trace.taken = [event.at];
      break;
    case 'patch':
      trace.patches.push(event.patch);
      trace.taken.push(event.at);
      break;
    case 'step': {
      const { index } = event.step;
      if (!Number.isInteger(index) || index < 0 || index > trace.steps.length || index > mostSteps) return;
      trace.steps[index] = event.step;
      if (event.stack) trace.stacks[index] = event.stack;
      break;
    }
    case 'mark':
      if (Number.isInteger(event.id) && event.id >= 0 && event.id <= trace.marks.length && event.id < mostSteps)
        trace.marks[event.id] = event.mark;
      break;
    case 'asset':
      trace.assets.set(event.url, event.data);
      break;
  }
}

/** Ends the steps that were going on when the page was lost: they broke, with this problem. */
export function breakOff(trace: Trace, wrong: Problem, at: number): void {
  const running = trace.steps.filter((step) => step.outcome === 'running');
  const innermost = running.at(-1);
  for (const step of running) {
    step.outcome = 'broken';
    step.after = trace.patches.length;
    if (step === innermost) step.problem = wrong;
  }
  if (innermost) return;
  trace.steps.push({
    index: trace.steps.length,
    kind: 'error',
    title: wrong.message,
    parent: null,
    at,
    took: 0,
    outcome: 'broken',
    before: trace.patches.length,
    after: trace.patches.length,
    problem: wrong,
  });
}

/** What the look was doing when it was stopped, in words. */
export function doing(trace: Trace): string {
  const step = trace.steps.filter((one) => one.outcome === 'running').at(-1);
  if (!step) return 'The look';
  if (step.kind === 'mount') return 'Rendering';
  return `“${step.title}”`;
}
