/** The frames that the browser really draws. */
import { native } from '../host/natives.ts';
import { mutationCount } from '../record/roots.ts';

/** A frame that has not come after so long never will, in milliseconds: a busy machine takes its time. */
const latestFrame = 3000;

let framed = -1;

/** Resolves at the next animation frame. */
export const nextFrame = (): Promise<void> =>
  new Promise((resolve) => {
    const timer = native.setTimeout(resolve, latestFrame);
    native.requestAnimationFrame(() => {
      native.clearTimeout(timer);
      framed = mutationCount();
      resolve();
    });
  });

/** Somebody has begun to observe the layout, and will hear of it with the next frame only. */
export const awaitFrame = (): void => {
  framed = -1;
};

/** True when the document is as the last frame has shown it. */
export const isFramed = (): boolean => framed === mutationCount();
