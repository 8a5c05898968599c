/** Trying again until something holds or patience ends. */
import { fail, ProblemError } from '../../core/problem/problem.ts';
import type { Step } from '../../core/timeline/timeline.ts';
import type { Target } from '../../language/target.ts';
import { native } from '../host/natives.ts';
import { patience } from '../host/settings.ts';
import type { Recording } from '../record/recording.ts';
import { nextFrame } from '../session/still.ts';
import { findAll, insteadOf } from './find.ts';
import { describe } from './names.ts';

/**
 * Tries again at every frame until `attempt` throws no problem, or patience ends with the last one, or the look has.
 */
export async function retry<T>(current: Step, recording: Recording, attempt: () => T | Promise<T>): Promise<T> {
  const until = native.now() + patience();
  current.tries = 0;
  for (;;) {
    current.tries++;
    try {
      return await attempt();
    } catch (error) {
      if (!(error instanceof ProblemError) || recording.isOver || native.now() >= until) throw error;
    }
    await nextFrame();
    if (recording.isOver) throw new Error('The look has ended.');
  }
}

/** The one element that a target describes, or a problem that says what is there instead. */
export function only(target: Target): Element {
  const found = findAll(target);
  if (found.length === 1) return found[0]!;
  const name = String(target);
  if (found.length === 0)
    return fail('target-missing', { target: name, patience: patience() }, { found: insteadOf(target) });
  return fail('target-ambiguous', { target: name, count: found.length }, { found: found.slice(0, 8).map(describe) });
}
