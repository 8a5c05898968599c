/** Tells how far a run is, no more often than somebody can read. */
import type { LookName } from '../core/look/look.ts';
import { noProgress, type Progress, timeLeftOf } from '../core/run/progress.ts';
import type { Store } from '../store/index.ts';
import type { Live } from './live.ts';
import { placeOf } from '../work/index.ts';
import { nameOf } from './reuse.ts';

/** Milliseconds between two times that it is told. */
const between = 200;

export type ProgressTeller = {
  readonly now: Progress;
  set(change: Partial<Progress>): void;
  /** Tells it at once: something that others wait for is known. */
  tell(): void;
  /** Says nothing any more. */
  end(): void;
};

export function progressOf(store: Store, live: Live, run: number): ProgressTeller {
  let now = noProgress;
  let last = 0;
  let timer: NodeJS.Timeout | undefined;
  const tell = (): void => {
    clearTimeout(timer);
    timer = undefined;
    last = performance.now();
    live.tell({ kind: 'run-progress', run: store.runs.get(run)!, progress: now });
  };
  return {
    get now() {
      return now;
    },
    set(change) {
      now = { ...now, ...change };
      // A run that ends within the time between is told by its end.
      timer ??= setTimeout(tell, Math.max(between / 4, last + between - performance.now()));
    },
    tell,
    end: () => clearTimeout(timer),
  };
}

/** What a run is thought to have. */
export type Expected = {
  looks: (LookName & { file: string; environment: string })[];
  /** Places of look files of which nobody knows yet which looks they have. */
  unopened: string[];
  /** How often each look is run. */
  times: number;
};

/** Follows the looks of a run while they are run; `planned` are all of them, as far as is known. */
export function followLooks(
  teller: ProgressTeller,
  { results }: Store,
  { looks: wanted, unopened: notYet, times }: Expected,
) {
  const unopened = new Set(notYet);
  const files = [...new Set(wanted.map(({ file }) => file))];
  const took = new Map(
    files.flatMap((file) => results.took(file)).map((one) => [nameOf(one, one.environment), one.took] as const),
  );
  const names = wanted.map((look) => nameOf(look, look.environment));
  const rest = timeLeftOf({ took, pace: results.pace() }, Array.from({ length: times }, () => names).flat());
  let began: number | null = null;
  let running = 0;
  const say = (planned: number): void => {
    const left = rest.left(planned, began === null ? 0 : performance.now() - began);
    teller.set({ phase: 'running', running, left: unopened.size > 0 ? null : left, unopened: unopened.size });
  };
  return {
    opened: (file: string, environment: string) => void unopened.delete(placeOf(file, environment)),
    started(planned: number): void {
      began ??= performance.now();
      running++;
      say(planned);
    },
    finished(look: LookName, environment: string, planned: number): void {
      running = Math.max(0, running - 1);
      rest.finished(nameOf(look, environment));
      say(planned);
    },
  };
}
