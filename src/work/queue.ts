/**
 * Hands tasks to workers: each file to one of them, and when none is left, the one with most looks left to whoever is
 * free. What has to be confirmed comes as soon as a worker is done with its file.
 */
import type { Confirmation, Job, WantedLook } from './job.ts';

/** From how many looks on it pays that another worker loads their document too. */
const worthHelping = 4;

type Begun = { job: Job; rest: WantedLook[] | null };

type Next = { kind: 'open'; job: Job } | ({ kind: 'look'; job: Job } & WantedLook) | Confirmation;

export type Queue = {
  /**
   * A file to open, a look to run or to confirm, or null when there is nothing left for a worker whose document is
   * that of `loaded`.
   */
  next(loaded: Job | null): Promise<Next | null>;
  /** A file was opened, and these of its looks are to be run. */
  opened(job: Job, looks: WantedLook[]): void;
  /** While something is awaited, what has to be confirmed may still come of it. */
  await<T>(work: Promise<T>): Promise<T>;
  confirm(confirmation: Confirmation): void;
};

export function queueOf(jobs: readonly Job[], signal: AbortSignal): Queue {
  const fresh = [...jobs];
  const begun = new Map<number, Begun>();
  const later: Confirmation[] = [];
  let awaited = 0;
  let wake = (): void => {};
  let changed = new Promise<void>((resolve) => {
    wake = resolve;
  });
  const change = (): void => {
    wake();
    changed = new Promise((resolve) => {
      wake = resolve;
    });
  };
  signal.addEventListener('abort', change, { once: true });
  const busiest = (): Begun | undefined =>
    [...begun.values()]
      .filter(({ rest }) => rest !== null && rest.length >= worthHelping)
      .sort((a, b) => b.rest!.length - a.rest!.length)[0];
  const mayBring = (): boolean => awaited > 0 || [...begun.values()].some(({ rest }) => rest === null);
  return {
    async next(loaded) {
      while (!signal.aborted) {
        const own = loaded && begun.get(loaded.id);
        if (own?.rest?.length) return { kind: 'look', job: own.job, ...own.rest.shift()! };
        if (later.length > 0) return later.shift()!;
        const job = fresh.shift();
        if (job) {
          begun.set(job.id, { job, rest: null });
          return { kind: 'open', job };
        }
        const from = busiest();
        if (from) return { kind: 'look', job: from.job, ...from.rest!.shift()! };
        if (!mayBring()) return null;
        await changed;
      }
      return null;
    },
    opened(job, looks) {
      begun.get(job.id)!.rest = looks;
      change();
    },
    async await(work) {
      awaited++;
      try {
        return await work;
      } finally {
        awaited--;
        change();
      }
    },
    confirm(confirmation) {
      later.push(confirmation);
      change();
    },
  };
}
