/** Where on a timeline one is, and how one moves. */
import { failingStep, type Step, type Timeline } from '../../core/timeline/timeline.ts';

/** A position: a step seen before or after, or a free point in time between steps. */
export type Position = { step: number; side: 'before' | 'after'; time: number; moment: number };

const endOf = (step: Step): number => step.at + (step.took ?? 0);

/** The position at a step. */
export function atStep(timeline: Timeline, index: number, side: 'before' | 'after' = 'after'): Position {
  const step = timeline.steps[Math.max(0, Math.min(timeline.steps.length - 1, index))];
  if (!step) return { step: 0, side, time: 0, moment: 0 };
  return side === 'before'
    ? { step: step.index, side, time: step.at, moment: step.before }
    : { step: step.index, side, time: endOf(step), moment: step.after ?? timeline.patches.length };
}

/** The position at a time: the newest moment taken by then, and the innermost step that had begun. */
export function atTime(timeline: Timeline, time: number): Position {
  let moment = 0;
  while (moment + 1 < timeline.taken.length && timeline.taken[moment + 1]! <= time) moment++;
  const begun = timeline.steps.filter((step) => step.at <= time && step.kind !== 'part').at(-1) ?? timeline.steps[0];
  return { step: begun?.index ?? 0, side: begun && time < endOf(begun) ? 'before' : 'after', time, moment };
}

/** The position of a moment, or of the nearest that there is. */
export const atMoment = (timeline: Timeline, moment: number): Position =>
  atTime(timeline, timeline.taken[Math.max(0, Math.min(timeline.taken.length - 1, moment))] ?? 0);

/** The steps that the arrow keys stop at: all but parts, which only hold others. */
export const stops = (timeline: Timeline): Step[] => timeline.steps.filter((step) => step.kind !== 'part');

/** The step `by` stops away. */
export function moveBy(timeline: Timeline, position: Position, by: number): Position {
  const list = stops(timeline);
  const at = list.findIndex((step) => step.index >= position.step);
  const next = list[Math.max(0, Math.min(list.length - 1, (at < 0 ? list.length - 1 : at) + by))];
  return next ? atStep(timeline, next.index, position.side) : position;
}

/** Where a look is opened: at the step that went wrong, or at its end. */
export function firstPosition(timeline: Timeline, asked: number | null): Position {
  if (asked !== null && timeline.steps[asked]) return atStep(timeline, asked);
  const failed = failingStep(timeline.steps);
  return atStep(timeline, failed ? failed.index : timeline.steps.length - 1);
}

/** When everything was over. */
export const endTime = (timeline: Timeline): number =>
  Math.max(
    1,
    ...timeline.steps.map(endOf),
    ...timeline.marks.map((mark) => mark.at + (mark.took ?? 0)),
    ...timeline.taken,
  );
