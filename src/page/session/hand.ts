/** What time a hand takes: nobody acts at the instant at which something has just come about. */
import { isFrameAsked, letFrameGoBy, letMillisecondGoBy, mayMove, moveOnToRest, timeNow } from '../time/time.ts';
import { idle } from './idle.ts';
import { caughtUp } from './still.ts';

/**
 * A hand sets about something: a millisecond goes by, with all that comes of it. What the browser has put off comes
 * before, as `selectionchange` does: whether it had come by itself would depend on the machine.
 */
export async function handComes(): Promise<void> {
  await idle();
  if (await letMillisecondGoBy()) await caughtUp();
}

/** A hand moves on: a frame goes by, and what the browser has put off comes before. */
export async function handMoves(): Promise<void> {
  await idle();
  await letFrameGoBy();
}

/** So soon after anything nobody acts, in milliseconds of the look's time. */
const fastestHand = 20;

/**
 * Lets come what is due so soon that nobody could act before it: libraries put a few milliseconds behind what they
 * open, and hear nothing until then.
 */
export async function soonestComes(): Promise<void> {
  await idle();
  const until = timeNow() + fastestHand;
  for (let turns = 0; turns < 30 && (await moveOnToRest(until)); turns++) await caughtUp();
}

/**
 * Lets the frames come that libraries ask for, one after the other, before what they have shown is ready: that was long
 * before anybody acts.
 */
export async function framesCome(): Promise<void> {
  for (let frames = 0; frames < 2 && (frames === 0 ? mayMove() : isFrameAsked()); frames++) {
    await letFrameGoBy();
    await caughtUp();
  }
}
