/** How far a run is, from its first second on. */
import { counted } from '../text/counted.ts';
import type { RunSummary } from './run.ts';

export type Progress = {
  /** What it does now. */
  phase: 'looking' | 'bundling' | 'running' | 'explaining';
  /** Look files that there are, and those of them that have to be built; null before that is known. */
  files: number | null;
  bundling: number | null;
  /** Look files of which nobody knows yet how many looks they have, each in its environments. */
  unopened: number;
  /** Looks that are under way. */
  running: number;
  /** Captures that have changed, and those of them that are explained, while that goes on. */
  explaining: { done: number; all: number } | null;
  /** Milliseconds until its end, by how long its looks took before; null when none of them is known. */
  left: number | null;
};

export const noProgress: Progress = {
  phase: 'looking',
  files: null,
  bundling: null,
  unopened: 0,
  running: 0,
  explaining: null,
  left: null,
};

const second = 1000;
const minute = 60 * second;

/** `about 8 s left`; nothing for the last two seconds, which are over before they are read. */
export function leftText(left: number | null): string | null {
  if (left === null || left < 2 * second) return null;
  if (left < minute) return `about ${Math.round(left / second)} s left`;
  return `about ${Math.round(left / minute)} min left`;
}

/** How far a run is; `planned`, `done` and `reused` are looks, each in its environments. */
type Count = Pick<RunSummary, 'planned' | 'done' | 'reused'>;

/** What is said of a run while it goes on, in parts that can stand in a row or below one another. */
export function progressParts(
  { phase, files, bundling, unopened, running, explaining, left }: Progress,
  { planned, done, reused }: Count,
): string[] {
  if (phase === 'looking')
    return [files === null ? 'Looking for look files…' : `Checking what changed in ${counted(files, 'look file')}…`];
  if (phase === 'bundling' && done === reused) {
    const isAll = bundling === null || bundling === files;
    return [isAll ? `Bundling ${counted(files ?? 0, 'look file')}…` : `Bundling ${bundling} of ${files} look files…`];
  }
  if (phase === 'explaining' && explaining)
    return [`Explaining ${counted(explaining.all, 'change')}: ${explaining.done} done…`];
  const known = unopened > 0 ? `at least ${planned}` : `${planned}`;
  const parts = [
    `${Math.min(done, planned)} of ${known}`,
    running > 0 ? `${running} running` : null,
    leftText(left),
    reused > 0 ? `${reused} reused` : null,
  ];
  return parts.filter((part) => part !== null);
}

/** The same in a row. */
export const progressText = (progress: Progress, count: Count): string => progressParts(progress, count).join(' · ');

/** How long looks took before, in milliseconds, and how much real time each of these takes in a run. */
export type Experience = { took: ReadonlyMap<string, number>; pace: number | null };

/** So many milliseconds of what is expected have to be done before a run's own pace says more than that of the last. */
const enough = 1500;

/**
 * Tells how long the rest of a run takes: what its looks took before, in the pace of this run as soon as it has one.
 * `wanted` are the keys of the looks that it is thought to have, each as often as it is to be run.
 */
export function timeLeftOf({ took, pace }: Experience, wanted: readonly string[]) {
  const rest = new Map<string, number>();
  for (const key of wanted) rest.set(key, (rest.get(key) ?? 0) + 1);
  const known = wanted.flatMap((key) => took.get(key) ?? []);
  const usual = known.length > 0 ? known.reduce((sum, one) => sum + one, 0) / known.length : null;
  const expected = (key: string): number => took.get(key) ?? usual ?? 0;
  let ahead = wanted.reduce((sum, key) => sum + expected(key), 0);
  let done = 0;
  let expectedRest = wanted.length;
  let finished = 0;
  return {
    finished(key: string): void {
      finished++;
      done += expected(key);
      const times = rest.get(key) ?? 0;
      if (times === 0) return;
      rest.set(key, times - 1);
      expectedRest--;
      ahead -= expected(key);
    },
    /** `planned` looks in all, of which the first was begun `elapsed` milliseconds ago. */
    left(planned: number, elapsed: number): number | null {
      const now = done > enough || pace === null ? (done > 0 ? elapsed / done : null) : pace;
      if (usual === null || now === null) return null;
      const unknown = Math.max(0, planned - finished - expectedRest);
      return Math.max(0, (ahead + unknown * usual) * now);
    },
  };
}
