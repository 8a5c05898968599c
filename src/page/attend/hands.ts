/** A page in a person's hands while its script stands: what they do has its outcome, and time can be let run. */
import { native } from '../host/natives.ts';
import { recordingNow } from '../record/recording.ts';
import { cameOfIt } from '../session/still.ts';
import { moveOneFrame } from '../time/time.ts';
import { isStopped } from './attend.ts';

let runs = false;

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

/** Lets happen what an input brings about without any time. */
export async function settleNow(): Promise<void> {
  const recording = recordingNow();
  if (recording) await cameOfIt(() => recording.isOver);
  for (const hear of hearing) hear();
}

/** Lets the look's time run with that of the wall, as long as its script stands; or makes it stand still again. */
export function letTimeRun(isRunning: boolean): void {
  const wasRunning = runs;
  runs = isRunning;
  if (isRunning && !wasRunning) void run();
}

async function run(): Promise<void> {
  while (runs && isStopped()) {
    const began = native.now();
    await moveOneFrame();
    await pause(Math.max(0, frame - (native.now() - began)));
  }
  runs = false;
}
