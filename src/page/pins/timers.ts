/** Timers, frames and tasks wait for the time of the look, and end with it. */
import { elapsed, forget, keepWaiting, wait, waitFor, waitsMore } from '../time/time.ts';
import type { Realm } from './clock.ts';
import type { Pin } from './pin.ts';

/** Ends the tasks that were posted with a priority. */
let tasks = new AbortController();

const called = (handler: TimerHandler, args: unknown[]): (() => void) =>
  typeof handler === 'function' ? () => handler(...args) : () => new Function(handler)();

export function pinTimeouts(realm: Realm): void {
  realm.setTimeout = ((handler: TimerHandler, delay?: number, ...args: unknown[]) =>
    wait(delay, null, called(handler, args))) as typeof window.setTimeout;
  realm.setInterval = ((handler: TimerHandler, delay?: number, ...args: unknown[]) =>
    wait(delay, Math.max(1, Math.trunc(Number(delay)) || 0), called(handler, args))) as typeof window.setInterval;
  // The platform lets either function clear what the other one set.
  realm.clearTimeout = ((id?: number) => forget(Number(id))) as typeof window.clearTimeout;
  realm.clearInterval = realm.clearTimeout;
}

/** How long something may do what it likes when nothing else is left to do, in milliseconds. */
const idleTime = 50;

export function pinFrames(realm: Realm): void {
  realm.requestAnimationFrame = (callback) => waitFor('frame', () => callback(elapsed()));
  realm.cancelAnimationFrame = forget;
  realm.requestIdleCallback = (callback) =>
    waitFor('idle', () => callback({ didTimeout: false, timeRemaining: () => idleTime }));
  realm.cancelIdleCallback = forget;
}

/** The promise of a task of an ended look never settles: nobody is there any more who could handle its end. */
function pinTasks(): void {
  const post = Scheduler.prototype.postTask;
  Scheduler.prototype.postTask = function <T>(
    this: Scheduler,
    callback: () => T,
    { delay, ...options }: SchedulerPostTaskOptions = {},
  ) {
    const own = tasks.signal;
    return new Promise<T>((resolve, reject) => {
      const run = (): T => (own.aborted ? (undefined as T) : callback());
      const start = (): void =>
        void post.call(this, run as () => unknown, options).then(
          (value) => own.aborted || resolve(value as T),
          (error) => own.aborted || reject(error),
        );
      if (delay) wait(delay, null, start);
      else start();
    });
  } as typeof post;
}

function pinTimeoutSignals(): void {
  AbortSignal.timeout = (delay) => {
    const controller = new AbortController();
    wait(delay, null, () => controller.abort(new DOMException('signal timed out', 'TimeoutError')));
    return controller.signal;
  };
}

function endTasks(): void {
  tasks.abort();
  tasks = new AbortController();
}

export const timersPin: Pin = {
  install() {
    pinTimeouts(window);
    pinFrames(window);
    pinTasks();
    pinTimeoutSignals();
  },
  // What is set while no look runs, by the end of an earlier one, is none of the next one's.
  begin: endTasks,
  settle: keepWaiting,
  isMarked: waitsMore,
  end() {
    endTasks();
    return [];
  },
};
