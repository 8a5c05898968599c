/** The look's own time, which scripts can move. Without them it stands, and moves only when something is waited for. */
import * as given from './given.ts';
import { taking } from './given.ts';
import { withMethods } from './known.ts';
import { portOf } from './port.ts';

/** A move of the clock: by milliseconds, to a date, or to the end of everything that waits. */
export type ClockMove = { by: number } | { to: number } | { finish: true } | { freeze: boolean };

const isDate: given.Rule = {
  fits: (value) => value !== null && !Number.isNaN(new Date(value as string).getTime()),
  wanted: "a date: clock.set('2026-03-14T09:30:00Z')",
};

/** How the look's own time is moved. */
const moves = {
  /** Moves time on by milliseconds; what is due until then happens, in its order. */
  advance: taking(1, 'clock.advance', (milliseconds: number): Promise<void> => {
    given.need('clock.advance(…)', milliseconds, given.milliseconds('clock.advance(300)'));
    return portOf('clock.advance').clock({ by: milliseconds });
  }),
  /** Moves time on to a date; what is due until then happens, in its order. */
  set: taking(1, 'clock.set', (date: Date | string | number): Promise<void> => {
    given.need('clock.set(…)', date, isDate);
    return portOf('clock.set').clock({ to: new Date(date).getTime() });
  }),
  /** Moves time on until nothing waits any more but what has no end. */
  finish: taking(0, 'clock.finish', (): Promise<void> => portOf('clock.finish').clock({ finish: true })),
  /** From now on time moves only when the script moves it: no check or capture waits. */
  freeze: taking(0, 'clock.freeze', (): Promise<void> => portOf('clock.freeze').clock({ freeze: true })),
  /** Lets time move on again for whatever waits. */
  release: taking(0, 'clock.release', (): Promise<void> => portOf('clock.release').clock({ freeze: false })),
};

export const clock = withMethods(moves, 'The clock', ['advance', 'set', 'finish', 'freeze', 'release']);
