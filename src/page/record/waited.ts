/** Steps for which a script has to wait, and whether it does. */
import { problem } from '../../core/problem/problem.ts';
import type { Step } from '../../core/timeline/timeline.ts';
import { append } from '../host/natives.ts';
import type { Recording } from './recording.ts';
import { StepFailed } from './stepFailed.ts';

/** As it is before anything on the page replaces it. */
const { then } = Promise.prototype;

/** A promise that knows whether anybody waits for it. */
class Waited<T> extends Promise<T> {
  hasWaiter = false;

  /** What becomes of it is an ordinary promise. */
  static override get [Symbol.species](): PromiseConstructor {
    return Promise;
  }

  // biome-ignore lint/suspicious/noThenProperty: it is a promise, and has one.
  override then<A = T, B = never>(
    onKept?: ((value: T) => A | PromiseLike<A>) | null,
    onBroken?: ((reason: unknown) => B | PromiseLike<B>) | null,
  ): Promise<A | B> {
    this.hasWaiter = true;
    return then.call(this, onKept, onBroken) as Promise<A | B>;
  }
}

let begun: { step: Step; waited: Waited<unknown> }[] = [];

/** A script begins. */
export function forgetSteps(): void {
  begun = [];
}

/** What a step comes to. That it fails is told at the step, and by {@link failForsaken} when nobody waits for it. */
export function waitedFor<T>(step: Step, work: Promise<T>): Promise<T> {
  const waited = new Waited<T>((resolve, reject) => work.then(resolve, reject));
  then.call(waited, undefined, () => {});
  append(begun, { step, waited });
  return waited;
}

/**
 * Looks for the first step of a script, or of a line that is tried, for which nobody has waited: whether it has ended
 * meanwhile is a matter of luck. @throws StepFailed `step-unfinished`
 */
export function failForsaken(recording: Recording, isLine: boolean): void {
  const own = begun.filter(({ step }) => (step.tried === true) === isLine);
  begun = begun.filter(({ step }) => (step.tried === true) !== isLine);
  const goesOn = recording.unfinished();
  const forsaken = own.find(({ step, waited }) => !waited.hasWaiter || goesOn.includes(step));
  if (!forsaken) return;
  const { step } = forsaken;
  const wrong = problem('step-unfinished', { step: step.title });
  if (step.outcome === 'running') recording.end(step, 'failed', wrong);
  else if (step.outcome === 'passed') recording.amend(step, { outcome: 'failed', problem: wrong });
  throw new StepFailed(wrong, recording.stackOf(step));
}
