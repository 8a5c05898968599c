/** What waits for its time, as values: which comes next, and which would go on for ever. */

/** One thing that happens at a time. Times are milliseconds since the look began. */
export type Waiting = {
  id: number;
  /**
   * A timer, a callback before the next frame, one for when nothing else is left to do, or an animation that begins or
   * ends.
   */
  kind: 'timer' | 'frame' | 'idle' | 'motion';
  due: number;
  /** Milliseconds from one turn to the next, for what repeats by itself. */
  period: number | null;
  /** How many of its kind led to it, each set by the one before: a loop goes up and up. */
  generation: number;
};

/** A sixtieth of a second. */
const frameLength = 1000 / 60;

/** The first frame after a time. */
export const frameAfter = (now: number): number => (Math.floor(now / frameLength + 1e-6) + 1) * frameLength;

/** After how many generations a timer's delay is at least 4 ms (WHATWG HTML, “timer initialisation steps”). */
const nestedAfter = 5;

const leastNested = 4;

/** When a timer is due that is set now. */
export const timerDue = (now: number, delay: unknown, generation: number): number => {
  const wanted = Math.max(0, Math.trunc(Number(delay)) || 0);
  return now + (generation >= nestedAfter ? Math.max(leastNested, wanted) : wanted);
};

/** When something is due that waits for idle time: at once, but not again and again at once. */
export const idleDue = (now: number, generation: number): number => (generation >= nestedAfter ? frameAfter(now) : now);

/** When that is over which waits for no time and still comes ever again, in milliseconds: the length of a frame. */
const longestTurn = 17;

/** So many that wait for no time are no loop yet. */
const mostInTurn = 50;

/** How many have happened in turn that waited for no time, when so much of it has passed since. */
export const stillInTurn = (inTurn: number, passed: number): number => (passed > longestTurn ? 0 : inTurn);

/**
 * The same thing, set now, after so many have happened in turn that waited for no time. Whichever way one led to the
 * next (a promise, a message, an effect that is run again by what it brings about), they are a loop by now: time moves
 * on in it, as it would on any machine.
 */
export function setInTurn<T extends Waiting>(one: T, now: number, inTurn: number): T {
  if (one.due > now || inTurn < mostInTurn) return one;
  const due = one.kind === 'idle' ? frameAfter(now) : now + leastNested;
  return { ...one, due, generation: Math.max(one.generation, inTurn) };
}

/** Below zero for what comes before another: what is due together comes in the order it was set. */
export const byTurn = (one: Waiting, other: Waiting): number => one.due - other.due || one.id - other.id;

/** What comes next until a time, that time included, or null. */
export function nextUntil<T extends Waiting>(waiting: Iterable<T>, until: number): T | null {
  let next: T | null = null;
  for (const one of waiting) {
    if (one.due > until) continue;
    if (next === null || byTurn(one, next) < 0) next = one;
  }
  return next;
}

/** True for one of many, each set by the one before. */
export const isInLoop = ({ generation }: Waiting): boolean => generation >= longChain;

/** What comes more often than this shows something that moves; what comes more seldom asks or counts. */
const slow = 50;

/** After so many generations a chain of timers is taken for one that has no end. */
const longChain = 8;

/**
 * True for what repeats without end and shows nothing that moves, such as a clock that ticks or a question that is
 * asked again and again: nobody waits for it to be over.
 */
export const isEndless = ({ kind, period, generation, due }: Waiting, now: number): boolean =>
  period !== null ? period >= slow : kind === 'timer' && generation >= longChain && due - now >= slow;
