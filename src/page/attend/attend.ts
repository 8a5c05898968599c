/** Attending a look: its script stops where somebody wants it to, and goes on when told to. */
import type { Problem } from '../../core/problem/problem.ts';
import type { Orders, Stop, StopWhy } from '../../core/sitting/sitting.ts';
import type { LookRequest } from '../../core/wire/wire.ts';
import type { Step } from '../../core/timeline/timeline.ts';
import { post } from '../host/host.ts';
import { native } from '../host/natives.ts';
import type { Recording } from '../record/recording.ts';

/** What somebody wants of the script; null while nobody attends. */
let orders: Orders | null = null;
/** How long each step waits, in milliseconds. */
let pace = 0;
/** Steps of the script so far. */
let count = 0;
let numbers: Record<number, number> = {};
/** How deep in parts the script was when it went on. */
let depth = 0;
let goOn: ((next: Orders) => void) | null = null;
let isTrying = false;
/** Stops come one after the other: a script may have begun several steps at once. */
let last: Promise<void> = Promise.resolve();
let stoppedBefore: Step | null = null;

/** What the script was given. */
let context: object = { props: {}, answers: {} };

/** A script begins with this. */
export const knowContext = (given: object): void => {
  context = given;
};

export const contextNow = (): object => context;

/** A look begins, attended or not. */
export function beginAttending({ attended, pace: wanted }: Pick<LookRequest, 'attended' | 'pace'>): void {
  orders = attended;
  pace = wanted;
  count = 0;
  numbers = {};
  depth = 0;
  goOn = null;
  isTrying = false;
  last = Promise.resolve();
  stoppedBefore = null;
}

/** True while somebody is there to go on. */
export const isAttended = (): boolean => orders !== null;

/** True while the script stands, and waits to be told to go on. */
export const isStopped = (): boolean => goOn !== null;

/** True while lines of somebody's are tried: their steps are none of the script's. */
export const isTryingNow = (): boolean => isTrying;

export const setTrying = (now: boolean): void => {
  isTrying = now;
};

/** The script goes on. */
export function go(next: Orders): void {
  const resolve = goOn;
  // A line that never ended is tried no longer.
  isTrying = false;
  goOn = null;
  resolve?.(next);
}

async function stop(why: StopWhy, step: Step | null, recording: Recording, problem: Problem | null): Promise<void> {
  const before = last;
  const stopped = (async () => {
    await before;
    if (recording.isOver) return;
    const number = step ? numbers[step.index]! : count;
    const moment = recording.moment();
    recording.send();
    const told: Stop = { why, number, step: step?.index ?? null, moment, problem };
    const next = new Promise<Orders>((resolve) => {
      goOn = resolve;
    });
    post({ kind: 'stopped', look: recording.number, stop: told });
    orders = await next;
    depth = recording.depth;
  })();
  last = stopped;
  await stopped;
}

/** True while nothing stops the script before it comes to where it is to go. */
const isOnItsWay = (number: number): boolean => orders?.straight === true && orders.to !== null && number < orders.to;

function whyStop({ go: how, to, breaks }: Orders, number: number, now: number): StopWhy | null {
  if (to === number) return 'reached';
  if (isOnItsWay(number)) return null;
  if (breaks.includes(number)) return 'breakpoint';
  return how === 'into' || (how === 'over' && now <= depth) ? 'next' : null;
}

const really = (milliseconds: number): Promise<void> =>
  new Promise((resolve) => native.setTimeout(resolve, milliseconds));

/** Called before each step does anything. Returns undefined when it may at once. */
export function passGate(step: Step, recording: Recording): Promise<void> | undefined {
  if (isTrying || (!orders && pace === 0)) return undefined;
  const number = count++;
  numbers[step.index] = number;
  const why = orders && whyStop(orders, number, recording.depth);
  if (!why) return pace > 0 && step.kind !== 'part' ? really(pace) : undefined;
  stoppedBefore = step;
  return stop(why, step, recording, null).then(() => recording.renew(step));
}

/** Stops at a `pause()`, unless the script has just stopped before it. */
export async function stopAtPause(step: Step, recording: Recording): Promise<void> {
  if (stoppedBefore === step || isTrying || isOnItsWay(numbers[step.index]!)) return;
  await stop('pause', step, recording, null);
}

/** Stops where a step has failed; true when the script is to go on behind it. */
export async function stopAtFailure(step: Step, recording: Recording, problem: Problem): Promise<boolean> {
  const number = numbers[step.index];
  if (!orders?.failure || isTrying || number === undefined || isOnItsWay(number)) return false;
  await stop('failure', step, recording, problem);
  return !recording.isOver;
}

/** Stops at the end of an attended look, as long as its page is there. */
export async function stopAtEnd(recording: Recording, problem: Problem | null): Promise<void> {
  if (!orders) return;
  isTrying = false;
  await stop('end', null, recording, problem);
}
