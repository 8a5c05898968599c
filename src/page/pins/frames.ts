/** Frames of the page's own origin live on the look's time, too. */
import { frameDoor } from '../../core/wire/stage.ts';
import { pinDate, pinStopwatch, type Realm } from './clock.ts';
import type { Pin } from './pin.ts';
import { pinWorkers } from '../workers/workers.ts';
import { pinFrames, pinTimeouts } from './timers.ts';

function adopt(frame: Realm): void {
  pinDate(frame);
  pinStopwatch(frame);
  pinTimeouts(frame);
  pinFrames(frame);
  pinWorkers(frame);
  // A frame may hold frames.
  openDoor(frame);
}

/** The engine has every new document knock here, before anything in it is run. */
const openDoor = (realm: Realm): void => void Object.defineProperty(realm, frameDoor, { value: adopt });

export const framesPin: Pin = {
  install() {
    openDoor(window);
  },
};
