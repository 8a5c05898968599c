/** Where the pointer is, and what it is over. */
import { ask } from '../host/host.ts';
import { heldBits } from './held.ts';
import { nextFrame } from '../time/frame.ts';
import { deepestAt } from './scroll.ts';

/** Position in CSS pixels of the viewport; null outside it. */
let at: readonly [number, number] | null = null;

export const pointerMoved = (position: readonly [number, number] | null): void => {
  at = position;
};

/** True when the browser shows as pointed at what lies under the pointer. */
function isShown([x, y]: readonly [number, number]): boolean {
  const under = deepestAt(x, y);
  return !under || (under.matches(':hover') && !under.querySelector(':hover'));
}

/** True when the browser shows as pointed at what lies under the pointer, if that is anywhere. */
export const isHoverShown = (): boolean => at === null || isShown(at);

/**
 * Waits until the browser shows as pointed at what lies under the pointer, so that moments do not depend on frames: it
 * notices with a frame what a layout has brought there, and what an animation has when the pointer moves.
 */
export async function hoverSettled(look: number): Promise<void> {
  if (isHoverShown()) return;
  await nextFrame();
  if (!at || isShown(at)) return;
  const [x, y] = at;
  await ask(look, { do: 'input', events: [{ kind: 'move', x, y, button: 'none', modifiers: heldBits() }] });
}
