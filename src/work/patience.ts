/** How long a run waits for what a page does: as long as it moves on, or had no chance to. */
import { setTimeout as delay } from 'node:timers/promises';
import type { BrowserLoad } from '../engine/engine.ts';

/** Resolves or rejects as a promise does; rejects with `late` when that takes longer. */
export async function within<T>(milliseconds: number, promise: Promise<T>, late: () => Error): Promise<T> {
  const over = new AbortController();
  try {
    return await Promise.race([
      promise,
      delay(milliseconds, undefined, { signal: over.signal }).then(() => Promise.reject(late())),
    ]);
  } finally {
    over.abort();
  }
}

/** What goes on and on may take so many times its limit. */
export const mostLimits = 10;

/** The part of its limit that a page may compute without a step. */
const mostComputing = 0.5;

/** A browser that has waited for the processor for this part of the time was kept from its work by others. */
const starving = 0.3;

/** What any process of a browser has most of, between two times. */
function most(of: 'used' | 'waited', before: BrowserLoad, now: BrowserLoad, isPage: boolean): number {
  const grown = [...now].map(([pid, time]) => (isPage && !time.isPage ? 0 : time[of] - (before.get(pid)?.[of] ?? 0)));
  return Math.max(0, ...grown);
}

/**
 * True when something that has not moved on for `limit` milliseconds had its chance: a page has computed for half of
 * them since it `moved`, or the browser had the processor whenever it wanted it since it was looked at `last`.
 */
export const hadItsChance = (limit: number, moved: BrowserLoad, last: BrowserLoad, now: BrowserLoad): boolean =>
  most('used', moved, now, true) >= limit * mostComputing || most('waited', last, now, false) < limit * starving;

type Moving = {
  /** In milliseconds. */
  limit: number;
  /** A number that grows with every step. */
  progress(): number;
  /** True while somebody holds it up: no limit counts then. */
  isHeld?(): boolean;
  load(): Promise<BrowserLoad>;
  late(): Error;
};

/** A limit's part after which a page is watched: what ends before that costs nothing. */
const unwatched = 0.1;

/** The value of a promise, or null when that takes longer. */
async function soon<T>(promise: Promise<T>, milliseconds: number): Promise<{ value: T } | null> {
  const over = new AbortController();
  const none = delay(milliseconds, null, { signal: over.signal });
  return Promise.race([promise.then((value) => ({ value })), none]).finally(() => over.abort());
}

/**
 * Waits as long as there is progress, or would be on a machine with less to do. What makes progress for ever is ended,
 * too.
 */
export async function whileMoving<T>(promise: Promise<T>, moving: Moving): Promise<T> {
  const { limit, progress, load, late, isHeld = () => false } = moving;
  let steps = progress();
  const early = await soon(promise, limit * unwatched);
  if (early) return early.value;
  let last = await load();
  let moved = last;
  for (let rounds = 1; ; rounds = isHeld() ? 1 : rounds + 1) {
    const came = await soon(promise, rounds === 1 ? limit * (1 - unwatched) : limit);
    if (came) return came.value;
    const now = await load();
    const isMoving = progress() !== steps;
    if (!isHeld() && (rounds === mostLimits || (!isMoving && hadItsChance(limit, moved, last, now)))) throw late();
    if (isMoving || isHeld()) moved = now;
    steps = progress();
    last = now;
  }
}
