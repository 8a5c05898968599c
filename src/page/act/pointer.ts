/** Where the pointer is, and what it is over. */
import { nextFrame } from '../time/frame.ts';
import { deepestAt } from './scroll.ts';

/** Position in CSS pixels of the viewport; null outside it. */
let at: readonly [number, number] | null = null;

export const pointerMoved = (position: readonly [number, number] | null): void => {
  at = position;
};

/** Browsers notice with a frame what has come under a pointer that rests; more than these it never takes. */
const mostFrames = 4;

/** Waits until the browser shows as pointed at what lies under the pointer, so that moments do not depend on frames. */
export async function hoverSettled(): Promise<void> {
  for (let frames = 0; at && frames < mostFrames; frames++) {
    const under = deepestAt(...at);
    if (!under || (under.matches(':hover') && !under.querySelector(':hover'))) return;
    await nextFrame();
  }
}
