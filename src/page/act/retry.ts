/** Trying again until something holds or patience ends. */
import { structureNote } from '../../core/problem/notes.ts';
import { fail, ProblemError } from '../../core/problem/problem.ts';
import type { Step } from '../../core/timeline/timeline.ts';
import { inCode, type Target } from '../../language/target.ts';
import { sighted } from '../check/doubt.ts';
import { patience } from '../host/settings.ts';
import { type Recording, recordingNow } from '../record/recording.ts';
import { waitOn } from '../session/still.ts';
import { isFrozen, moveTo, timeNow } from '../time/time.ts';
import { findAll } from './find.ts';
import { whyOutOfReach } from './handle.ts';
import { betterThan } from './bestTarget.ts';
import { apart, insteadOf } from './instead.ts';
import { isCutAway } from './twin.ts';

/** How often something may happen at one instant before time moves on all the same: a page may never be done. */
const mostStanding = 50;

/**
 * Tries again until `attempt` throws no problem: as long as it does, time moves on from one thing that happens to the
 * next, until patience ends with the last try, or the look has ended. Patience is `limit` milliseconds.
 */
export async function retry<T>(
  current: Step,
  recording: Recording,
  attempt: () => T | Promise<T>,
  limit = patience(),
): Promise<T> {
  const until = timeNow() + limit;
  current.tries = 0;
  let standing = 0;
  let isLast = false;
  for (;;) {
    current.tries++;
    try {
      return await attempt();
    } catch (error) {
      if (!(error instanceof ProblemError) || recording.isOver || isLast || timeNow() >= until) throw error;
    }
    const came = await waitOn(until, standing < mostStanding, recording.number);
    standing = came === 'stood' ? standing + 1 : 0;
    // Frozen, time leads nowhere: what is there now is all there will be. For a line that is tried it stands still.
    if (came === 'nothing') isLast = isFrozen() || current.tried === true;
    if (came === 'nothing' && !isLast) moveTo(until);
    if (recording.isOver) throw new Error('The look has ended.');
  }
}

/** Of several elements the one that people see: libraries keep copies of a text for readers, and templates of parts. */
function seenAmong(found: Element[]): Element[] {
  if (found.length < 2) return found;
  const reached = found.filter((element) => whyOutOfReach(element) === null);
  const seen = reached.length > 1 ? reached.filter((element) => !isCutAway(element)) : reached;
  return seen.length === 1 ? seen : found;
}

/** The one element that a target describes, or a problem that says what is there instead. */
export function only(target: Target): Element {
  const found = seenAmong(findAll(target));
  const [first] = found;
  if (first && found.length === 1) {
    sighted(target);
    const better = betterThan(target, first);
    if (better !== null) recordingNow()?.note(structureNote(inCode(target), better));
    return first;
  }
  const name = String(target);
  if (found.length === 0)
    return fail('target-missing', { target: name, patience: patience() }, { found: insteadOf(target) });
  return fail('target-ambiguous', { target: name, count: found.length }, { found: apart(target, found) });
}
