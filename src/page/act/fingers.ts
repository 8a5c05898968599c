/** Fingers on a touch screen: taps, swipes, and two of them at once. */
import { noTouchScreenNote } from '../../core/problem/notes.ts';
import type { Step } from '../../core/timeline/timeline.ts';
import type { InputRequest } from '../../core/wire/wire.ts';
import type { Action, TouchOptions } from '../../language/command.ts';
import { native } from '../host/natives.ts';
import type { Recording } from '../record/recording.ts';
import { passTime } from '../session/clock.ts';
import { nextFrame } from '../time/frame.ts';
import { handMoves } from '../session/hand.ts';
import { isFrozen, timeNow } from '../time/time.ts';
import { actionable } from './actionable.ts';
import { send } from './input.ts';
import { boxOf } from './element.ts';

type Point = [number, number];
type Phase = 'start' | 'move' | 'end';

const moves = 5;

/** A finger that has stayed this long, in milliseconds, makes no click when it leaves. */
const longPress = 500;

/** How long the browser takes at most to make a click of a tap, in real milliseconds. */
const tapPatience = 1000;

const fingers = (phase: Phase, points: Point[], after = 16): InputRequest => ({
  kind: 'touch',
  phase,
  points,
  after,
  modifiers: 0,
});

/** Follows what the browser makes of a tap: a click, unless the page prevents that. */
function watchTap(isLong: boolean) {
  let isPrevented = false;
  let clicked: () => void = () => {};
  const click = new Promise<void>((resolve) => {
    clicked = resolve;
  });
  const touched: Event[] = [];
  const onTouch = (event: Event): void => void touched.push(event);
  const onMouse = (event: Event): void => {
    if (isLong) event.stopImmediatePropagation();
    if (event.type === 'click') clicked();
  };
  const listen = (add: boolean): void => {
    const method = add ? native.addEventListener : native.removeEventListener;
    for (const type of ['touchstart', 'touchend']) method.call(window, type, onTouch, { capture: true });
    for (const type of ['mousedown', 'mouseup', 'click']) method.call(window, type, onMouse, { capture: true });
  };
  listen(true);
  return {
    async ended(): Promise<void> {
      isPrevented ||= touched.some((event) => event.defaultPrevented);
      const late = new Promise<void>((resolve) => native.setTimeout(resolve, tapPatience));
      if (!isPrevented) await Promise.race([click, late]);
      await nextFrame();
      listen(false);
    },
  };
}

async function tap(recording: Recording, point: Point, held: number): Promise<void> {
  const { number } = recording;
  const watched = watchTap(held >= longPress);
  await send(number, [fingers('start', [point])]);
  if (held > 0) await passTime(timeNow() + held, () => recording.isOver);
  await send(number, [fingers('end', [])]);
  await watched.ended();
}

/** How long a finger rests before it leaves, in milliseconds, so that it throws nothing. */
const rest = 200;

async function swipe(recording: Recording, paths: Point[][]): Promise<void> {
  const { number } = recording;
  const at = (i: number): Point[] => paths.map((path) => path[i]!);
  const last = paths[0]!.length - 1;
  await send(number, [fingers('start', at(0))]);
  for (let i = 1; i <= last; i++) {
    await send(number, [fingers('move', at(i))]);
    await nextFrame();
    await handMoves();
  }
  if (!isFrozen()) await passTime(timeNow() + rest, () => recording.isOver);
  await send(number, [fingers('move', at(last), rest), fingers('end', [], rest)]);
  await nextFrame();
}

const between = ([x, y]: Point, [toX, toY]: Point): Point[] =>
  Array.from({ length: moves + 1 }, (_, i) => [x + ((toX - x) * i) / moves, y + ((toY - y) * i) / moves]);

const doubtScreen = (recording: Recording): void => {
  if (navigator.maxTouchPoints === 0) recording.suspect(noTouchScreenNote);
};

/** Taps, holds or swipes. */
export async function touchAt(
  current: Step,
  recording: Recording,
  { target, options }: Extract<Action, { do: 'touch' }>,
): Promise<void> {
  const { times = 1, held = 0, by, at }: TouchOptions = options;
  doubtScreen(recording);
  const { point } = await actionable(current, recording, target, { action: 'touch', needsEnabled: true, at });
  if (!by) {
    for (let i = 0; i < times; i++) await tap(recording, point, held);
    return;
  }
  const end: Point = [point[0] + by[0], point[1] + by[1]];
  for (let i = 0; i < times; i++) await swipe(recording, [between(point, end)]);
}

/** Moves two fingers apart or together, as far as the target leaves them room. */
export async function pinchAt(
  current: Step,
  recording: Recording,
  { target, scale }: Extract<Action, { do: 'pinch' }>,
): Promise<void> {
  const { element, point } = await actionable(current, recording, target, { action: 'touch', needsEnabled: true });
  doubtScreen(recording);
  const [x, y] = point;
  const [, , width] = boxOf(element);
  const far = Math.max(8, (width / 2) * 0.8);
  const [from, to] = scale > 1 ? [far / scale, far] : [far, far * scale];
  const paths = [-1, 1].map((side) => between([x + side * from, y], [x + side * to, y]));
  await swipe(recording, paths);
}
