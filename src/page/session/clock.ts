/** Time of a look: moved by its script, and moved on while the script waits for it. */
import { fail } from '../../core/problem/problem.ts';
import type { ClockMove } from '../../language/clock.ts';
import { clockInWords } from '../../language/words.ts';
import { traffic } from '../network/requests.ts';
import { step } from '../record/step.ts';
import { nextFrame } from '../time/frame.ts';
import {
  beganAt,
  freeze,
  isFrozen,
  moveOn,
  moveOnToRest,
  moveTo,
  passMillisecond,
  runDue,
  timeNow,
} from '../time/time.ts';
import { idle } from './idle.ts';
import { caughtUp, untilQuiet } from './still.ts';

/** How far `clock.finish()` goes at most, in milliseconds. */
const farthest = 60_000;

/** Until when time is to be moved. @throws ProblemError `bad-step` for what is no time, or one that has passed */
function untilWhen(move: Exclude<ClockMove, { freeze: boolean }>): number {
  if ('finish' in move) return timeNow() + farthest;
  const until = 'by' in move ? timeNow() + move.by : move.to - beganAt();
  if (Number.isFinite(until) && until >= timeNow()) return until;
  return fail('bad-step', {
    what: 'by' in move ? `The clock cannot be moved by ${move.by} ms.` : 'The clock cannot be set to that date.',
    remedy: 'Time only moves on: use milliseconds, as in clock.advance(300), or a later date.',
  });
}

/** Moves time on to a time, past everything that waits until then, and lets each of it happen. */
export async function passTime(until: number, isOver: () => boolean, on = moveOn): Promise<void> {
  await untilQuiet(isOver);
  while (!isOver() && (await on(until))) if (!(await caughtUp()) || traffic().pending) await untilQuiet(isOver);
}

async function moveClock(move: Exclude<ClockMove, { freeze: boolean }>, isOver: () => boolean): Promise<void> {
  const until = untilWhen(move);
  const wasFrozen = isFrozen();
  freeze(false);
  await passTime(until, isOver, 'finish' in move ? moveOnToRest : moveOn);
  if (!('finish' in move)) moveTo(until);
  await untilQuiet(isOver);
  freeze(wasFrozen);
}

/** Moves the clock as one step of the look that runs: whatever waits happens in its order. */
export const clockMoved = (move: ClockMove): Promise<void> =>
  step('action', clockInWords(move), async (_, recording) => {
    if (!('freeze' in move)) return moveClock(move, () => recording.isOver);
    // What is there now was there before whatever is done from here on, and so is what the browser has put off.
    if (move.freeze) {
      await idle();
      passMillisecond();
    }
    freeze(move.freeze);
  });

/** How often a page is found with nothing to do before somebody is taken to wait for the clock. */
const quietRounds = 3;

/** Whoever has time of its own to wait for, as steps do. */
export type Busy = { isBusy(): boolean; free(): Promise<void> };

export const nobody: Busy = { isBusy: () => false, free: () => Promise.resolve() };

/**
 * Moves time on while somebody waits for it without saying so, as in `await new Promise((go) => setTimeout(go, 300))`:
 * when nothing else is left to do, and nobody is busy. Ends when `waiting` has settled or the look is over.
 */
export async function keepTime(
  waiting: Promise<unknown>,
  { isBusy, free }: Busy,
  isOver: () => boolean,
): Promise<void> {
  let ended = false;
  const end = (): void => {
    ended = true;
  };
  waiting.then(end, end);
  for (let rounds = 0; !ended && !isOver(); ) {
    await idle();
    if (isBusy() || traffic().pending) {
      rounds = 0;
      await (isBusy() ? free() : nextFrame());
      continue;
    }
    await runDue();
    if (ended || ++rounds < quietRounds) continue;
    rounds = 0;
    await nextFrame();
    if (!ended && !isBusy()) await moveOn(Number.POSITIVE_INFINITY);
  }
}
