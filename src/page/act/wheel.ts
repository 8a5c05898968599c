/** Scrolling as a person does, with the wheel over what is to be scrolled. */
import { fail } from '../../core/problem/problem.ts';
import type { Step } from '../../core/timeline/timeline.ts';
import type { Action, Amount, Side } from '../../language/command.ts';
import { native } from '../host/natives.ts';
import type { Recording } from '../record/recording.ts';
import { nextFrame } from '../time/frame.ts';
import { actionable } from './actionable.ts';
import { handleOf, whyOutOfReach } from './handle.ts';
import { send } from './input.ts';
import { only, retry } from './retry.ts';
import { flatParent } from './flat.ts';
import { bringIntoView } from './scroll.ts';
import { boxOf, isElement } from './element.ts';

type Scroll = Extract<Action, { do: 'scroll' }>;

/** A list that grows as it is scrolled is followed for so many turns of the wheel. */
const mostTurns = 200;

/** How often the wheel is turned in vain before that is said. */
const mostVain = 3;

const scrolls = (element: Element, axis: 'x' | 'y'): boolean => {
  const style = getComputedStyle(element);
  const room = axis === 'x' ? element.scrollWidth - element.clientWidth : element.scrollHeight - element.clientHeight;
  if (element === document.scrollingElement) return room > 0;
  return room > 0 && /auto|scroll/.test(axis === 'x' ? style.overflowX : style.overflowY);
};

/** What scrolls when the wheel is turned over an element: itself, or the nearest around it that can. */
function scrollerOf(element: Element, [x, y]: Amount): Element | null {
  for (let node: Node | null = element; node; node = flatParent(node))
    if (isElement(node) && ((x !== 0 && scrolls(node, 'x')) || (y !== 0 && scrolls(node, 'y')))) return node;
  return null;
}

const far = 1e7;
const directions: Record<Side, Amount> = { top: [0, -far], bottom: [0, far], left: [-far, 0], right: [far, 0] };

const clamp = (value: number, least: number, most: number): number => Math.min(most, Math.max(least, value));

/** How far a scroller still has to go to where it was to be brought, as far as there is room. */
function left(scroller: Element, goal: Amount): Amount {
  const { scrollLeft, scrollTop, scrollWidth, clientWidth, scrollHeight, clientHeight } = scroller;
  const rest = [
    clamp(goal[0], Math.min(0, clientWidth - scrollWidth), Math.max(0, scrollWidth - clientWidth)) - scrollLeft,
    clamp(goal[1], 0, Math.max(0, scrollHeight - clientHeight)) - scrollTop,
  ] as const;
  return Math.abs(rest[0]) < 1 && Math.abs(rest[1]) < 1 ? [0, 0] : rest;
}

/** Turns the wheel once at a point of the viewport; true when the page did something else with it than scroll. */
export async function turn(recording: Recording, [x, y]: [number, number], by: Amount): Promise<boolean> {
  let turned: Event | null = null;
  const note = (event: Event): void => {
    turned = event;
  };
  native.addEventListener.call(window, 'wheel', note, { capture: true, passive: true });
  try {
    const step: [number, number] = [clamp(by[0], -2000, 2000), clamp(by[1], -2000, 2000)];
    await send(recording.number, [{ kind: 'wheel', x, y, by: step, modifiers: 0 }]);
    await nextFrame();
    await nextFrame();
    return (turned as Event | null)?.defaultPrevented ?? false;
  } finally {
    native.removeEventListener.call(window, 'wheel', note, { capture: true });
  }
}

const offsets = (scroller: Element): string => `${scroller.scrollLeft} ${scroller.scrollTop}`;

async function wheelBy(recording: Recording, target: string, at: Element, point: [number, number], by: Amount) {
  const scroller = scrollerOf(at, by);
  if (!scroller) {
    // What zooms or pans when the wheel is turned need not be able to scroll.
    if (!(await turn(recording, point, by))) fail('nothing-scrolls', { target });
    return;
  }
  const goal: Amount = [scroller.scrollLeft + by[0], scroller.scrollTop + by[1]];
  let vain = 0;
  for (let turns = 0; turns < mostTurns; turns++) {
    const rest = left(scroller, goal);
    if ((rest[0] === 0 && rest[1] === 0) || recording.isOver) return;
    const before = offsets(scroller);
    const isTaken = await turn(recording, point, rest);
    if (isTaken) return;
    vain = offsets(scroller) === before ? vain + 1 : 0;
    if (vain >= mostVain) fail('scroll-stuck', { target });
  }
}

/** Scrolls a target into view, or what it lies in. */
export async function scrollTo(current: Step, recording: Recording, { target, way }: Scroll): Promise<void> {
  const by = way.by ?? (way.to && directions[way.to]);
  if (by) {
    const purpose = { action: 'wheel', needsEnabled: false };
    const { element, point } = await actionable(current, recording, target, purpose);
    return wheelBy(recording, String(target), element, point, by);
  }
  return retry(current, recording, () => {
    const element = only(target);
    recording.aim(current, String(target), element, boxOf(element));
    const handle = handleOf(element);
    const why = whyOutOfReach(handle);
    if (why) fail('target-hidden', { target: String(target), why });
    bringIntoView(handle);
  });
}
