/** A page in a person's hands while its script stands: what they do has its outcome, and time can be let run. */
import { native } from '../host/natives.ts';
import { recordingNow } from '../record/recording.ts';
import { cameOfIt } from '../session/still.ts';
import { isRestless, moveOneFrame, timeNow } from '../time/time.ts';
import { isStopped } from './attend.ts';

/** Somebody lets time run. */
let runs = false;
/** The look's time until which it runs by itself, for something that was done to be seen. */
let until = 0;
let running: Promise<void> | null = null;

/** What is written down may take so much of the look's time to be seen, in milliseconds: a dialog that fades in. */
const shortly = 1000;

/** Whoever wants to know that an input has had its outcome. */
const hearing = new Set<() => void>();

/** Hears of it until the returned function is called. */
export function whenSettled(hear: () => void): () => void {
  hearing.add(hear);
  return () => void hearing.delete(hear);
}

const frame = 1000 / 60;

const pause = (milliseconds: number): Promise<void> =>
  new Promise((resolve) => native.setTimeout(resolve, milliseconds));

/**
 * Lets happen what an input brings about without any time. Where that is written down, whoever has done it has to see
 * what came of it before they go on: time runs for a while, and it is heard of once more.
 */
export async function settleNow(): Promise<void> {
  const recording = recordingNow();
  if (recording) await cameOfIt(() => recording.isOver);
  for (const hear of hearing) hear();
  if (runs || hearing.size === 0) return;
  until = timeNow() + shortly;
  void run().then(() => {
    for (const hear of hearing) hear();
  });
}

/** Lets the look's time run with that of the wall, as long as its script stands; or makes it stand still again. */
export function letTimeRun(isRunning: boolean): void {
  runs = isRunning;
  until = timeNow();
  if (isRunning) void run();
}

function run(): Promise<void> {
  running ??= frameByFrame().finally(() => {
    running = null;
  });
  return running;
}

async function frameByFrame(): Promise<void> {
  while ((runs || isRestless(until)) && isStopped()) {
    const began = native.now();
    await moveOneFrame();
    await pause(Math.max(0, frame - (native.now() - began)));
  }
  runs = false;
}
