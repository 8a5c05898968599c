/** Where the pointer is, and what it is over. */
import type { InputRequest } from '../../core/wire/wire.ts';
import { ask } from '../host/host.ts';
import { heldBits } from './held.ts';
import { native } from '../host/natives.ts';
import { shadowOf } from '../record/roots.ts';
import { nextFrame } from '../time/frame.ts';
import { passMillisecond } from '../time/time.ts';
import { within } from './flat.ts';
import { deepestAt } from './scroll.ts';

/** Position in CSS pixels of the viewport; null outside it. */
let at: readonly [number, number] | null = null;

export const pointerMoved = (position: readonly [number, number] | null): void => {
  // It goes out of the page to where nothing is.
  at = position && position[0] >= 0 ? position : null;
};

/** So far from its corners the pointer comes into the page, in pixels. */
const edge = 2;

/** A corner of the viewport where only the page itself lies, or what `from` stands in; null when there is none. */
function bareCorner(from: Element | null): readonly [number, number] | null {
  const [right, bottom] = [document.documentElement.clientWidth - edge, window.innerHeight - edge];
  const isBare = ([x, y]: readonly [number, number]): boolean => {
    const under = deepestAt(x, y);
    if (under === null || under === document.body || under === document.documentElement) return true;
    return from !== null && from !== under && within(from, under);
  };
  return (
    (
      [
        [edge, edge],
        [right, edge],
        [edge, bottom],
        [right, bottom],
      ] as const
    ).find(isBare) ?? null
  );
}

/**
 * How the pointer sets out: a mouse has been moved on the page before it comes over anything, and libraries ask whether
 * it was the last thing that a person used.
 */
export function settingOut(): InputRequest[] {
  const from = at ?? bareCorner(null);
  return from ? [{ kind: 'move', x: from[0], y: from[1], button: 'none', modifiers: 0 }] : [];
}

/**
 * How the pointer goes away: over the page, where nothing else lies, and then out of it. Libraries follow it there
 * before they close what it came from.
 */
export function goingAway(): InputRequest[] {
  const corner = at && bareCorner(deepestAt(...at));
  const over = corner ? [corner, [corner[0] + 1, corner[1]] as const] : [];
  return [...over, [-1, -1] as const].map(([x, y]) => ({ kind: 'move', x, y, button: 'none', modifiers: 0 }));
}

/** What the page has heard last that the pointer came over, and how often it has heard of any such thing. */
let over: EventTarget | null = null;
let heard = 0;

/** How often the page has heard that the pointer came over something. */
export const timesPointed = (): number => heard;

/** Called once, before anything of the project runs. */
export function watchPointer(): void {
  const note = (event: Event): void => {
    if (!event.isTrusted) return;
    over = event.composedPath()[0] ?? null;
    heard++;
  };
  native.addEventListener.call(window, 'mouseover', note, { capture: true });
  const pass = ({ isTrusted }: Event): void => {
    if (isTrusted) passMillisecond();
  };
  for (const kind of ['keydown', 'pointerup']) native.addEventListener.call(window, kind, pass, { capture: true });
}

/** True when the page has heard that the pointer is over an element: the browser shows that sooner than it tells it. */
function isHeard(element: Element): boolean {
  if (over === element || element.ownerDocument !== document) return true;
  // Of what is in a closed root only its host is told.
  return over instanceof Element && over.shadowRoot === null && shadowOf(over) !== null && within(element, over);
}

/** True when the browser shows as pointed at what lies under the pointer, and has told the page so. */
function isShown([x, y]: readonly [number, number]): boolean {
  const under = deepestAt(x, y);
  return !under || (under.matches(':hover') && !under.querySelector(':hover') && isHeard(under));
}

/** True when the browser shows as pointed at what lies under the pointer, if that is anywhere. */
export const isHoverShown = (): boolean => at === null || isShown(at);

/**
 * Waits until the browser shows as pointed at what lies under the pointer, so that moments do not depend on frames: it
 * notices with a frame what a layout has brought there, and what an animation has when the pointer moves.
 */
export async function hoverShown(look: number): Promise<void> {
  if (isHoverShown()) return;
  await nextFrame();
  if (!at || isShown(at)) return;
  const [x, y] = at;
  await ask(look, { do: 'input', events: [{ kind: 'move', x, y, button: 'none', modifiers: heldBits() }] });
}
