/** Timers and frames: those of a look end with it. */
import { native } from '../host/natives.ts';
import type { Pin } from './pin.ts';

/** Timers that have not fired yet, with the time at which they will. */
const timers = new Map<number, number>();
const intervals = new Set<number>();
const frames = new Set<number>();
const idles = new Set<number>();
/** Ends the tasks that were posted with a priority. */
let tasks = new AbortController();

function pinTimeouts(): void {
  window.setTimeout = ((handler: TimerHandler, delay?: number, ...args: unknown[]) => {
    const id = native.setTimeout(
      (...given: unknown[]) => {
        timers.delete(id);
        if (typeof handler === 'function') handler(...given);
        else new Function(handler)();
      },
      delay,
      ...args,
    );
    timers.set(id, native.now() + Math.max(0, delay ?? 0));
    return id;
  }) as typeof window.setTimeout;
  window.setInterval = ((handler: TimerHandler, delay?: number, ...args: unknown[]) => {
    const id = native.setInterval(handler, delay, ...args);
    intervals.add(id);
    return id;
  }) as typeof window.setInterval;
  // The platform lets either function clear what the other one set.
  const clear = (id: number | undefined): void => {
    timers.delete(id as number);
    intervals.delete(id as number);
    native.clearTimeout(id);
  };
  window.clearTimeout = clear as typeof window.clearTimeout;
  window.clearInterval = clear as typeof window.clearInterval;
}

function pinFrames(): void {
  window.requestAnimationFrame = (callback) => {
    const id = native.requestAnimationFrame((time) => {
      frames.delete(id);
      callback(time);
    });
    frames.add(id);
    return id;
  };
  window.cancelAnimationFrame = (id) => {
    frames.delete(id);
    native.cancelAnimationFrame(id);
  };
  const idle = window.requestIdleCallback.bind(window);
  window.requestIdleCallback = (callback, options) => {
    const id = idle((deadline) => {
      idles.delete(id);
      callback(deadline);
    }, options);
    idles.add(id);
    return id;
  };
}

/** The promise of a task of an ended look never settles: nobody is there any more who could handle its end. */
function pinTasks(): void {
  const post = Scheduler.prototype.postTask;
  Scheduler.prototype.postTask = function <T>(
    this: Scheduler,
    callback: () => T,
    options: SchedulerPostTaskOptions = {},
  ) {
    const own = tasks.signal;
    return new Promise<T>((resolve, reject) => {
      const run = (): T => (own.aborted ? (undefined as T) : callback());
      post.call(this, run as () => unknown, options).then(
        (value) => own.aborted || resolve(value as T),
        (error) => own.aborted || reject(error),
      );
    });
  } as typeof post;
}

/** Clears everything that has not fired. */
function clearAll(): void {
  for (const id of timers.keys()) native.clearTimeout(id);
  for (const id of intervals) native.clearInterval(id);
  for (const id of frames) native.cancelAnimationFrame(id);
  for (const id of idles) cancelIdleCallback(id);
  timers.clear();
  intervals.clear();
  frames.clear();
  idles.clear();
  tasks.abort();
  tasks = new AbortController();
}

/** About a frame: what is due within it belongs to what is being shown. */
const soon = 20;

/** The timers of the project that are about to fire. */
export function timersDueSoon(): number[] {
  const until = native.now() + soon;
  return [...timers].filter(([, due]) => due <= until).map(([id]) => id);
}

/** True until a timer has fired or was cleared. */
export const isWaiting = (timer: number): boolean => timers.has(timer);

/** Resolves when timers that were due at once have fired. */
export const dueTimers = (): Promise<void> => new Promise((resolve) => void native.setTimeout(resolve, 1));

export const timersPin: Pin = {
  install() {
    pinTimeouts();
    pinFrames();
    pinTasks();
  },
  // What is set while no look runs, by the end of an earlier one, is none of the next one's.
  begin: clearAll,
  end() {
    clearAll();
    return [];
  },
};
