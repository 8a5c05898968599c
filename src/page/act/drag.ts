/** Dragging: with the mouse alone, or what HTML lets be dragged and dropped, or something from outside the page. */
import { fail, ProblemError } from '../../core/problem/problem.ts';
import type { Step } from '../../core/timeline/timeline.ts';
import { show } from '../../core/value/show.ts';
import type { Ask } from '../../core/wire/wire.ts';
import type { Action, Amount } from '../../language/command.ts';
import { isTarget, type Target } from '../../language/target.ts';
import { ask } from '../host/host.ts';
import { native } from '../host/natives.ts';
import type { Recording } from '../record/recording.ts';
import { actionable } from './actionable.ts';
import { explainAsk, loadOf } from './files.ts';
import { handleOf, whyOutOfReach } from './handle.ts';
import { bitsOf, heldBits, modifierKeys } from './held.ts';
import { afterInput, send } from './input.ts';
import { pointerMoved } from './pointer.ts';
import { only, retry } from './retry.ts';
import { passTime } from '../session/clock.ts';
import { handComes, handMoves } from '../session/hand.ts';
import { untilQuiet } from '../session/still.ts';
import { timeNow } from '../time/time.ts';
import { bringIntoView, pointOf } from './scroll.ts';
import { boxOf } from './element.ts';

/** Has something carried and dropped; `target` is what it is told about. */
async function carry(number: number, asked: Extract<Ask, { do: 'carry' }>, target: string): Promise<void> {
  await handComes();
  await ask(number, asked).catch((error: unknown) => explainAsk(error, target));
}

type Drag = Extract<Action, { do: 'drag' }>;
type Point = [number, number];

/** In so many moves the mouse gets from one place to another. */
const moves = 5;

/** So far the mouse moves, in pixels, before anything counts as dragged. */
const firstMove = 6;

const along = ([x, y]: Point, [toX, toY]: Point): Point[] =>
  Array.from({ length: moves }, (_, i) => {
    const part = (i + 1) / moves;
    return [x + (toX - x) * part, y + (toY - y) * part];
  });

/**
 * A point so far on the way to another one: what follows a hand only up and down, or only to the side, makes up its
 * mind by the first moves. To the right where there is no way yet.
 */
function towards([x, y]: Point, [toX, toY]: Point, far: number): Point {
  const length = Math.hypot(toX - x, toY - y);
  if (length === 0) return [x + far, y];
  const part = Math.min(1, far / length);
  return [x + (toX - x) * part, y + (toY - y) * part];
}

/** The middle of what is drawn of an element. */
function middleOf(element: Element): Point {
  const [left, top, width, height] = boxOf(handleOf(element));
  return [left + width / 2, top + height / 2];
}

/** What a target means before anything is dragged; null when that is not there, or cannot be told. */
function meantBefore(target: Target): Element | null {
  try {
    return only(target);
  } catch (error) {
    if (error instanceof ProblemError) return null;
    throw error;
  }
}

/** True for an element on which something can be dropped now. */
const isInReach = (element: Element): boolean => element.isConnected && whyOutOfReach(handleOf(element)) === null;

type Drop = { target: Target; before: Element | null; at: Amount | undefined };

/**
 * Where something is dropped: on what its target meant before, as lists move their items about while one is dragged;
 * or on what is there only then, and may lie under what is dragged.
 */
const dropPoint = (current: Step, recording: Recording, { target, before, at }: Drop): Promise<Point> =>
  retry(current, recording, async () => {
    const handle = handleOf(before && isInReach(before) ? before : only(target));
    const why = whyOutOfReach(handle);
    if (why) fail('target-hidden', { target: String(target), why });
    if (bringIntoView(handle)) await untilQuiet(() => recording.isOver);
    const [left, top] = boxOf(handle);
    return at ? [left + at[0], top + at[1]] : pointOf(handle);
  });

/** Follows whether the page lets something be dragged that HTML can: nothing moves with the mouse then. */
function watchDragging(): { began(): boolean; stop(): void } {
  let begun: DragEvent | null = null;
  const note = (event: Event): void => {
    begun = event as DragEvent;
  };
  native.addEventListener.call(window, 'dragstart', note, { capture: true });
  return {
    began: () => begun !== null && !begun.defaultPrevented,
    stop: () => native.removeEventListener.call(window, 'dragstart', note, { capture: true }),
  };
}

const released = ['pointerup', 'mouseup', 'click'];

/** Lets go of the mouse after a drop, of which the page hears no more than that: it was told of the drop. */
async function letGo(number: number, [x, y]: Point): Promise<void> {
  const hush = (event: Event): void => event.stopImmediatePropagation();
  for (const type of released) native.addEventListener.call(window, type, hush, { capture: true });
  try {
    await send(number, [{ kind: 'up', x, y, button: 'left', clicks: 1, modifiers: 0 }]);
  } finally {
    for (const type of released) native.removeEventListener.call(window, type, hush, { capture: true });
  }
}

async function dragByMouse(current: Step, recording: Recording, what: Target, action: Drag): Promise<void> {
  const { to, options } = action;
  const { number } = recording;
  const bits = bitsOf(options.holding);
  const purpose = { action: 'drag', needsEnabled: true, at: options.from };
  const { point: start } = await actionable(current, recording, what, purpose);
  const [x, y] = start;
  const button = 'left';
  const move = ([toX, toY]: Point) => ({ kind: 'move', x: toX, y: toY, button, modifiers: bits }) as const;
  const before = isTarget(to) ? meantBefore(to) : null;
  const aim: Point = isTarget(to) ? (before ? middleOf(before) : start) : [x + to.by[0], y + to.by[1]];
  const dragging = watchDragging();
  try {
    await send(number, [
      ...modifierKeys('keydown', bits & ~heldBits()),
      { kind: 'move', x, y, button: 'none', modifiers: bits },
      { kind: 'down', x, y, button, clicks: 1, modifiers: bits },
      move(towards(start, aim, firstMove / 2)),
    ]);
    // By itself: of moves that come together the page hears of one or of both, as its frames fall.
    if (!dragging.began()) await send(number, [move(towards(start, aim, firstMove))]);
    if (!dragging.began()) await handMoves();
    const end: Point = isTarget(to) ? await dropPoint(current, recording, { target: to, before, at: options.at }) : aim;
    const path = along(start, end);
    current.pointer = end;
    const isCarried = dragging.began();
    const modifiers = bits | heldBits();
    const carryTo = (point: Point, drops: boolean): Promise<void> =>
      carry(number, { do: 'carry', point, load: null, modifiers, drops }, String(what));
    // Slowly enough for whatever follows the mouse from frame to frame, and asks how fast it is.
    for (const point of path) {
      await (isCarried ? carryTo(point, false) : send(number, [move(point)]));
      await handMoves();
    }
    if (options.held) await passTime(timeNow() + options.held, () => recording.isOver);
    if (isCarried) {
      await carryTo(end, true);
      pointerMoved(end);
      await letGo(number, end);
    } else await send(number, [{ kind: 'up', x: end[0], y: end[1], button, clicks: 1, modifiers: bits }]);
  } finally {
    dragging.stop();
    await send(number, modifierKeys('keyup', bits & ~heldBits()));
  }
}

/** Drags a target, or something from outside. @throws ProblemError for what is neither, or has nowhere to go */
export async function dragTo(current: Step, recording: Recording, action: Drag): Promise<void> {
  const { what, to, options } = action;
  if (isTarget(what)) return dragByMouse(current, recording, what, action);
  if (!isTarget(to))
    return fail('bad-step', {
      what: `drag(…) was given ${show(to)} to drop something from outside on.`,
      remedy: "Give it a target: drag({ files: [file] }, the.region('Manifests'))",
    });
  const own = (['from', 'held'] as const).find((name) => options[name] !== undefined);
  if (own)
    fail('bad-step', {
      what: `drag(…) was given ${own} for something from outside the page.`,
      remedy: 'Leave it out: it is for what lies on the page.',
    });
  const load = await loadOf(what, 'drag');
  const purpose = { action: 'drop', needsEnabled: false, at: options.at };
  const { point } = await actionable(current, recording, to, purpose);
  const modifiers = bitsOf(options.holding) | heldBits();
  await carry(recording.number, { do: 'carry', point, load, modifiers, drops: true }, String(to));
  await afterInput();
}
