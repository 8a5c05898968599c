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

/** True when the document is as the last frame has shown it. */
export const isFramed = (): boolean => framed === mutationCount();
