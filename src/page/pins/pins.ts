/** All pins, in the order in which they are put in place. */
import type { LookRequest } from '../../core/wire/wire.ts';
import { chancePin } from './chance.ts';
import { clock } from './clock.ts';
import { dialogs } from './dialogs.ts';
import { documentPin } from './document.ts';
import { doors } from './doors.ts';
import { framesPin } from './frames.ts';
import { listeners } from './listeners.ts';
import { observersPin } from './observers.ts';
import type { Pin, Report } from './pin.ts';
import { registries } from './registries.ts';
import { storage } from './storage.ts';
import { timersPin } from './timers.ts';
import { worksPin } from './works.ts';
import { world } from './world.ts';

const pins: readonly Pin[] = [
  clock,
  chancePin,
  dialogs,
  timersPin,
  framesPin,
  observersPin,
  listeners,
  registries,
  storage,
  doors,
  documentPin,
  world,
  worksPin,
];

/** Before anything of the project is evaluated. */
export function installPins(): void {
  for (const pin of pins) pin.install();
}

/** Before the first look file is evaluated; after it, when it has left marks. */
export function settlePins(): void {
  for (const pin of pins) pin.settle?.();
}

/** Before a look file is evaluated. */
export function evaluatePins(): void {
  for (const pin of pins) pin.evaluate?.();
}

/** True when something outlives the looks of the document that other look files would not have found there. */
export function isMarked(): boolean {
  try {
    // Nothing is asked of functions that the file may have replaced.
    for (let i = 0; i < pins.length; i++) if (pins[i]!.isMarked?.()) return true;
    return false;
  } catch {
    return true;
  }
}

/** Before a look. */
export function beginPins(request: LookRequest, report: Report): void {
  for (const pin of pins) pin.begin?.(request, report);
}

/** After a look: what could not be taken back, in words. */
export function endPins(): string[] {
  const left: string[] = [];
  for (let i = 0; i < pins.length; i++) {
    const found = pins[i]!.end?.() ?? [];
    for (let j = 0; j < found.length; j++) left[left.length] = found[j]!;
  }
  return left;
}
