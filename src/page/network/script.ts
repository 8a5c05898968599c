/** What comes over something that stays open: parts of it one after the other, in the look's own time. */
import type { Route, Opened } from './routes.ts';
import { wait } from '../time/time.ts';

/**
 * Says each part to `tell`, with the pauses that numbers stand for, and then `done`. What is sent later comes at once.
 */
export function play(
  route: Route,
  parts: readonly unknown[],
  tell: (part: unknown) => void,
  done: (code?: number) => void,
  staysOpen: boolean,
): Opened {
  let isOver = false;
  const opened: Opened = {
    send: (what) => void (isOver || tell(what)),
    end(code) {
      if (isOver) return;
      isOver = true;
      route.opened.delete(opened);
      done(code);
    },
  };
  route.opened.add(opened);
  const next = (at: number): void => {
    if (isOver) return;
    if (at >= parts.length) {
      if (!staysOpen) opened.end();
      return;
    }
    const part = parts[at];
    if (typeof part === 'number') {
      wait(part, null, () => next(at + 1));
      return;
    }
    tell(part);
    next(at + 1);
  };
  next(0);
  return opened;
}
