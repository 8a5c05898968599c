/** The look's own time, which scripts can move. Without them it stands, and moves only when something is waited for. */
import { withMethods } from './known.ts';
import { portOf } from './port.ts';

/** A move of the clock: by milliseconds, to a date, or to the end of everything that waits. */
export type ClockMove = { by: number } | { to: number } | { finish: true } | { freeze: boolean };

const moves = {
  /** Moves time on by milliseconds; what is due until then happens, in its order. */
  advance: (milliseconds: number): Promise<void> => portOf('clock.advance').clock({ by: Number(milliseconds) }),
  /** Moves time on to a date; what is due until then happens, in its order. */
  set: (date: Date | string | number): Promise<void> => portOf('clock.set').clock({ to: new Date(date).getTime() }),
  /** Moves time on until nothing waits any more but what has no end. */
  finish: (): Promise<void> => portOf('clock.finish').clock({ finish: true }),
  /** From now on time moves only when the script moves it: no check or capture waits. */
  freeze: (): Promise<void> => portOf('clock.freeze').clock({ freeze: true }),
  /** Lets time move on again for whatever waits. */
  release: (): Promise<void> => portOf('clock.release').clock({ freeze: false }),
};

export const clock = withMethods(moves, 'The clock', ['advance', 'set', 'finish', 'freeze', 'release']);
