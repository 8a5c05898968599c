/**
 * Hands tasks to workers: each file to one of them, and when none is left, the one with most looks left to whoever is
 * free.
 */
import type { LookInfo } from '../core/look/look.ts';
import type { Job } from './job.ts';

/** From how many looks on it pays that another worker loads their document too. */
const worthHelping = 4;

type Begun = { job: Job; rest: LookInfo[] | null; opened: Promise<void>; tell(): void };

export type Queue = {
  /**
   * A file to open, a look to run, or null when there is nothing left for a worker whose document is that of
   * `loaded`.
   */
  next(loaded: Job | null): Promise<{ kind: 'open'; job: Job } | { kind: 'look'; job: Job; info: LookInfo } | null>;
  /** A file was opened, and these of its looks are to be run. */
  opened(job: Job, looks: LookInfo[]): void;
};

const begin = (job: Job): Begun => {
  let tell = (): void => {};
  const opened = new Promise<void>((resolve) => {
    tell = resolve;
  });
  return { job, rest: null, opened, tell };
};

export function queueOf(jobs: readonly Job[], signal: AbortSignal): Queue {
  const fresh = [...jobs];
  const begun = new Map<number, Begun>();
  const busiest = (): Begun | undefined =>
    [...begun.values()]
      .filter(({ rest }) => rest !== null && rest.length >= worthHelping)
      .sort((a, b) => b.rest!.length - a.rest!.length)[0];
  return {
    async next(loaded) {
      while (!signal.aborted) {
        const own = loaded && begun.get(loaded.id);
        const from = own?.rest?.length ? own : fresh.length > 0 ? null : busiest();
        if (from) return { kind: 'look', job: from.job, info: from.rest!.shift()! };
        const job = fresh.shift();
        if (job) {
          begun.set(job.id, begin(job));
          return { kind: 'open', job };
        }
        const opening = [...begun.values()].filter(({ rest }) => rest === null);
        if (opening.length === 0) return null;
        await Promise.race(opening.map(({ opened }) => opened));
      }
      return null;
    },
    opened(job, looks) {
      const found = begun.get(job.id)!;
      found.rest = looks;
      found.tell();
    },
  };
}
