/** Compares pictures in threads of their own: it takes up to half a second, for which no lane and no reply waits. */
import { availableParallelism } from 'node:os';
import { Piscina } from 'piscina';
import { programBeside } from '../bundle/index.ts';
import type { Finding } from '../core/accessibility/finding.ts';
import type { PictureChanges } from '../core/picture/changes.ts';
import type { Areas, Compared, Measured, Pair } from './compareThread.ts';

/** How long a thread waits for more to compare, in milliseconds: it holds some 50 MB. */
const idleTimeout = 20_000;

let pool: Piscina | null = null;

/** Started when the first pictures differ, which in most runs none do. */
function threads(): Piscina {
  const { file: filename, execArgv } = programBeside(import.meta.url, 'compareThread');
  const maxThreads = Math.max(1, Math.min(4, availableParallelism() - 1));
  return new Piscina({ filename, execArgv, minThreads: 0, maxThreads, idleTimeout });
}

/** Compares a baseline's PNG with one taken now. @throws Error when the second one is not a picture */
export function comparePngs(pair: Pair): Promise<Compared> {
  pool ??= threads();
  return pool.run(pair);
}

/** Measures the contrast of lines of text on a PNG. @throws Error when that is no picture */
export function measureContrast(wanted: Measured): Promise<Finding[]> {
  pool ??= threads();
  return pool.run(wanted, { name: 'contrast' });
}

/** Which clips hold the same pixels in two pictures. @throws Error when one is no picture */
export function alikeIn(areas: Areas): Promise<number[]> {
  pool ??= threads();
  return pool.run(areas, { name: 'alike' });
}

/** What happened between two pictures, by their pixels alone; null where they cannot be laid over each other. */
export function changesOf(before: Uint8Array, now: Uint8Array): Promise<PictureChanges | null> {
  pool ??= threads();
  return pool.run({ before, now }, { name: 'changes' });
}
