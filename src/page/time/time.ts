/**
 * The time of a look. It stands still while the page works, and is moved on to what waits, at once, when nothing is
 * left to do: how long a machine takes for anything makes no difference.
 */
import {
  byTurn,
  frameAfter,
  idleDue,
  isEndless,
  isInLoop,
  nextUntil,
  setInTurn,
  stillInTurn,
  timerDue,
  type Waiting,
} from '../../core/time/schedule.ts';
import { native } from '../host/natives.ts';
import { isLate, isReal } from '../host/settings.ts';
import { nextFrame } from './frame.ts';
import { lastMotion, motionMayMove, motionsAhead, type Passed, passMotion } from './motion.ts';

/** Something that waits, what it does, and whether it was set for the very instant. */
type Entry = Waiting & { run(): void; isAtOnce: boolean };

/** Milliseconds since 1970 at which the look began. */
let start = 0;
/** Milliseconds since the look began. */
let now = 0;
let entries = new Map<number, Entry>();
/** Ids go on from look to look: what an ended look still clears is none of the next one's. */
let nextId = 1;
/** What runs now, if it is something that has waited. */
let running: Entry | null = null;
let reads = 0;
/** How many have happened in turn that waited for no time. */
let inTurn = 0;
/** Time moves on only when the script itself moves it. */
let frozen = false;
/** Animations have begun or ended while time passed for something else, and tell so with a frame that is to come. */
let isFrameOwed = false;

/** Freezes time, or lets it move on again. */
export const freeze = (isFrozen: boolean): void => {
  frozen = isFrozen;
};

export const isFrozen = (): boolean => frozen;

/** Reading the clock this often without letting anything else happen is waiting for it: it moves on by one. */
const readsPerMillisecond = 20_000;

/** Milliseconds since the look began, as the page sees them. */
export function elapsed(): number {
  if (++reads % readsPerMillisecond === 0) now += 1;
  return now;
}

/** Milliseconds since 1970, as the page sees them. */
export const dateNow = (): number => Math.floor(start + elapsed());

/** When the look began, in milliseconds since 1970. */
export const beganAt = (): number => start;

/** The time of the look, for the look's own record: reading it moves nothing on. */
export const timeNow = (): number => Math.round(now * 10) / 10;

/** What has waited since before any look, each with how long it had to wait then. */
let belonging: Entry[] = [];

/** What waits now belongs to every look of the document, as it would to one in a fresh document. */
export const keepWaiting = (): void => {
  belonging = [...entries.values()].map((one) => ({ ...one, due: one.due - now }));
};

/** True when something waits that does not belong to every look. */
export const waitsMore = (): boolean => [...entries.keys()].some((id) => !belonging.some((one) => one.id === id));

/** A look begins: its time is 0, and nothing waits but what belongs to every look. */
export function beginTime(at: number): void {
  start = at;
  now = 0;
  reads = 0;
  inTurn = 0;
  frozen = false;
  isFrameOwed = false;
  running = null;
  entries = new Map(belonging.map((one) => [one.id, { ...one }]));
}

/** Only its own kind makes a loop: a timer that the last frame of an animation sets is the first of its own. */
const generationOf = (kind: Waiting['kind'], period: number | null): number =>
  running && running.kind === kind && (running.period === null) === (period === null) ? running.generation + 1 : 1;

function add(one: Omit<Entry, 'id' | 'isAtOnce'>): number {
  const id = nextId++;
  entries.set(id, setInTurn({ ...one, id, isAtOnce: one.due === now }, now, inTurn));
  return id;
}

/**
 * Lets something happen after a delay; with `period`, again and again. `generation` is how often it has set itself, for
 * whoever knows it better.
 */
export function wait(
  delay: unknown,
  period: number | null,
  run: () => void,
  generation = generationOf('timer', period),
): number {
  return add({ kind: 'timer', due: timerDue(now, delay, generation), period, generation, run });
}

/** Lets something happen before the next frame, or when nothing else is left to do. */
export function waitFor(kind: 'frame' | 'idle', run: () => void, generation = generationOf(kind, null)): number {
  const due = kind === 'frame' ? frameAfter(now) : idleDue(now, generation);
  return add({ kind, due, period: null, generation, run });
}

export const forget = (id: number): void => void entries.delete(id);

const channel = new MessageChannel();
const tasks: (() => void)[] = [];
channel.port1.onmessage = () => tasks.shift()?.();

/** Runs something as a task of its own: an error in it is one that nobody caught, as in a timer. */
const inTask = (run: () => void): Promise<void> =>
  new Promise((resolve) => {
    tasks[tasks.length] = () => {
      try {
        run();
      } finally {
        running = null;
        resolve();
      }
    };
    channel.port2.postMessage(null);
  });

/** Callbacks before one frame run together. An animation has none. */
const togetherWith = ({ kind: own, due: at }: Entry): Entry[] =>
  own === 'motion' ? [] : [...entries.values()].filter(({ kind, due }) => kind === 'frame' && due === at);

function happen(entry: Entry): void {
  // A step and a reply may both let happen what is due: it was cleared, or an interval has gone on, meanwhile.
  if (!entries.has(entry.id) || entry.due > now) return;
  if (entry.period === null) entries.delete(entry.id);
  else entry.due += Math.max(1, entry.period);
  running = entry;
  if (entry.isAtOnce) inTurn++;
  entry.run();
}

/** Time passes until then, for everything that moves, but for what begins or ends right then. */
function passUpTo(until: number): Passed {
  const passed = until > now ? passMotion(until - now) : { tells: false, complete: null };
  inTurn = stillInTurn(inTurn, until - now);
  now = Math.max(now, until);
  return passed;
}

/** Time passes until then, for everything that moves, too. */
function pass(until: number): void {
  const { tells, complete } = passUpTo(until);
  complete?.();
  if (tells || complete) isFrameOwed = true;
}

/** How much more real time everything gets when a look is run late, in milliseconds. */
const lateness = 4;

const really = (milliseconds: number): Promise<void> =>
  new Promise((resolve) => native.setTimeout(resolve, milliseconds));

/** The frame in which animations tell that they have begun or ended. */
async function toldInFrame(): Promise<void> {
  isFrameOwed = false;
  await nextFrame();
}

async function move(entry: Entry): Promise<void> {
  const { due } = entry;
  if (isReal() && due > now) await really(due - now);
  if (isLate()) await really(lateness);
  const { tells, complete } = passUpTo(due);
  reads = 0;
  if (entry.kind === 'motion' || entry.kind === 'frame') {
    complete?.();
    if (tells || complete || entry.kind === 'motion') await toldInFrame();
    for (const one of togetherWith(entry)) await inTask(() => happen(one));
    return;
  }
  // An animation that has ended before a timer tells so before: what the timer takes away would only be cancelled.
  if (tells) await toldInFrame();
  await inTask(() => happen(entry));
  if (!complete) return;
  // A timer of the same length, set together with an animation, comes first, and so does all that is due with it.
  const others = [...entries.values()].filter(({ due }) => due <= now).sort(byTurn);
  for (const one of others) await inTask(() => happen(one));
  complete();
  await toldInFrame();
}

const frameAt = (due: number): Entry => ({
  id: Number.MAX_SAFE_INTEGER,
  kind: 'motion',
  due,
  period: null,
  generation: 0,
  isAtOnce: false,
  run() {},
});

/** The frames at which animations begin or end: a timer of the same length, set together with one, comes first. */
const motions = (): Entry[] => [
  ...(isFrameOwed ? [frameAt(now)] : []),
  ...motionsAhead().map((ahead) => frameAt(frameAfter(now + ahead))),
];

/** Everything that is still to come. */
const waiting = (): Entry[] => [...entries.values(), ...motions()];

/** Moves time on to what comes next until a time, and lets it happen. False when nothing does. */
export async function moveOn(until: number): Promise<boolean> {
  const next = nextUntil(waiting(), frozen ? Math.min(until, now) : until);
  if (next) await move(next);
  return next !== null;
}

/** What comes next until a time, but for what has no end. */
const nextToRest = (until: number): Entry | null =>
  nextUntil(
    waiting().filter((one) => !isEndless(one, now)),
    frozen ? Math.min(until, now) : until,
  );

/** As `moveOn`, but leaves out what has no end. */
export async function moveOnToRest(until: number): Promise<boolean> {
  const next = nextToRest(until);
  if (next) await moveOn(next.due);
  return next !== null;
}

/** Moves time on, past everything that waits until then; for the end of a wait. */
export function moveTo(time: number): void {
  pass(time);
}

/**
 * What is still waiting and would go on for ever, in words; null when there is none. `showed` says whether anything has
 * changed lately: frames that show nothing do not count.
 */
export function endless(showed: boolean): string | null {
  if (motionsAhead().length > 0) return `an animation was still running (${lastMotion()})`;
  for (const one of entries.values()) {
    if (isEndless(one, now)) continue;
    if (one.kind === 'frame' && !showed) continue;
    if (one.kind === 'frame') return 'it asked for one frame after the other';
    if (one.period !== null) return `an interval of ${one.period} ms kept going`;
    if (isInLoop(one))
      return one.kind === 'idle' ? 'it asked for idle time again and again' : 'a timer set itself again and again';
  }
  return null;
}

/** True when something may be moving: a frame is asked for, or a timer goes on and on in short steps. */
export const mayMove = (): boolean =>
  motionMayMove() ||
  [...entries.values()].some(
    (one) => one.kind === 'frame' || (one.period !== null && !isEndless(one, now)) || one.generation > 2,
  );

/** True when something waits that will happen by itself until a time, but for what has no end. */
export const isRestless = (until: number): boolean => nextToRest(until) !== null;

/**
 * Lets animations that have begun or ended while time passed tell so, after all else that is due: whether their frame
 * comes before or after what is done next would otherwise depend on the machine. True when any did.
 */
export async function motionTold(): Promise<boolean> {
  let any = false;
  while (isFrameOwed && (await moveOn(now))) any = true;
  return any;
}

/** Moves time on until then, and lets everything happen that comes on the way. True when anything does. */
async function moveThrough(until: number): Promise<boolean> {
  let any = false;
  while (await moveOn(until)) any = true;
  moveTo(until);
  return (await motionTold()) || any;
}

/** Moves time on to the next frame. */
export async function moveOneFrame(): Promise<void> {
  await moveThrough(frameAfter(now));
}

/**
 * A hand takes a millisecond to whatever it does next, unless time has been made to stand. Vue takes an event of the
 * millisecond in which a listener was attached for the one that had it attached, and keeps it from that listener. True
 * when something happened meanwhile.
 */
export const letMillisecondGoBy = async (): Promise<boolean> => !frozen && (await moveThrough(now + 1));

/** The same, in the midst of what is done in one go: from key to key, and from pressing a button to letting it go. */
export const passMillisecond = (): void => {
  if (!frozen) pass(now + 1);
};

/** A hand takes a frame from one move to the next, unless time has been made to stand. */
export const letFrameGoBy = async (): Promise<void> => {
  if (!frozen) await moveOneFrame();
};

/** True when somebody waits for the next frame. */
export const isFrameAsked = (): boolean => [...entries.values()].some(({ kind }) => kind === 'frame');

/** Resolves after everything that is already due has run: the next task. */
export const nextTask = (): Promise<void> => inTask(() => {});

/** Lets happen what is due at this instant. True when anything was. */
export async function runDue(): Promise<boolean> {
  let any = false;
  for (; await moveOn(now); any = true) await nextTask();
  return any;
}
