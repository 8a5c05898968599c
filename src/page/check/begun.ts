/** Checks that were begun: `ensure(target)` alone says nothing. */
import { stackHere } from '../host/stack.ts';
import { problem } from '../../core/problem/problem.ts';
import { show } from '../../core/value/show.ts';
import { isTarget } from '../../language/target.ts';
import { recordingNow } from '../record/recording.ts';
import { StepFailed } from '../record/stepFailed.ts';

type Begun = { subject: unknown; stack: string | null };

let begun = new Set<Begun>();

/** A script begins. */
export function forgetBegun(): void {
  begun = new Set();
}

/** A check of something is begun; what is returned is called when one is asked for. */
export function checkBegun(subject: unknown): () => void {
  const one: Begun = { subject, stack: recordingNow()?.inScript ? stackHere() : null };
  begun.add(one);
  return () => void begun.delete(one);
}

/** @throws StepFailed `check-missing` when something was begun to be checked, and nothing said of it */
export function failUnsaid(): void {
  const [first] = begun;
  const recording = recordingNow();
  if (!first || !recording) return;
  const { subject, stack } = first;
  const wrong = problem('check-missing', { subject: isTarget(subject) ? String(subject) : show(subject) });
  recording.end(recording.begin('error', wrong.message, stack ?? undefined), 'failed', wrong);
  throw new StepFailed(wrong, stack);
}
