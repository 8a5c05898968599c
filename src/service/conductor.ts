/** Carries out runs, one after the other, and ends each with its problems and notes. */
import { whereaboutsOf } from '../baselines/git.ts';
import { diskProblem } from '../core/problem/disk.ts';
import { fail, problem, type Problem, toProblem } from '../core/problem/problem.ts';
import { noProgress, type Progress } from '../core/run/progress.ts';
import { type RunRequest, type RunSummary, usualRequest } from '../core/run/run.ts';
import { counted } from '../core/text/counted.ts';
import { sizeText } from '../core/text/size.ts';
import { oneRun } from './oneRun.ts';
import { progressOf, type ProgressTeller } from './progress.ts';
import type { RunTools } from './runTools.ts';

type Options = RunTools & { log(error: unknown): void };

/** Runs that may wait at a time. */
export const mostQueued = 20;

export class Conductor {
  readonly #options: Options;
  #queue: Promise<void> = Promise.resolve();
  readonly #going = new Map<number, AbortController>();
  #current: number | null = null;
  #teller: ProgressTeller | null = null;
  #isClosed = false;

  constructor(options: Options) {
    this.#options = options;
    // Whatever was going on when the last service was ended is told as such.
    for (const id of options.store.runs.unfinished()) options.store.runs.end(id, 'ended', [problem('run-ended')]);
  }

  /** The run that goes on now. */
  get current(): RunSummary | null {
    return this.#current === null ? null : this.#options.store.runs.get(this.#current);
  }

  /** How far it is. */
  get progress(): Progress {
    return this.#teller?.now ?? noProgress;
  }

  /** Runs that wait for it to end, the next one first. */
  get queued(): RunSummary[] {
    const { runs } = this.#options.store;
    return [...this.#going.keys()].filter((id) => id !== this.#current).flatMap((id) => runs.get(id) ?? []);
  }

  /** Begins a run, after those that were asked for before. @throws ProblemError `queue-full`, `service-ending` */
  start(request: RunRequest): RunSummary {
    const { store, live, root } = this.#options;
    if (this.#isClosed) fail('service-ending');
    if (this.#going.size > mostQueued) fail('queue-full', { most: mostQueued });
    const id = store.runs.begin(request, whereaboutsOf(root));
    const abort = new AbortController();
    this.#going.set(id, abort);
    this.#queue = this.#queue.then(() => this.#carryOut(id, request, abort.signal));
    const summary = store.runs.get(id)!;
    live.tell({ kind: 'run-queued', run: summary });
    return summary;
  }

  /**
   * Runs what is due, now that files have changed. A run of what was due before is stopped: whatever it has not done is
   * due still.
   */
  startDue(): void {
    const { runs } = this.#options.store;
    const isDue = (id: number): boolean => runs.get(id)?.request.due === true;
    for (const id of [...this.#going.keys()].filter(isDue)) this.stop(id);
    if (!this.#isClosed && this.#going.size <= mostQueued) this.start({ ...usualRequest, due: true });
  }

  /** Stops a run after the looks that are under way. One that waits ends at once. */
  stop(id: number): RunSummary {
    const { store, live } = this.#options;
    const found = store.runs.get(id) ?? fail('not-found', { what: `run ${id}` });
    this.#going.get(id)?.abort();
    if (found.status !== 'queued') return found;
    this.#end(id, 'stopped', [problem('run-stopped')]);
    live.tell({ kind: 'run-finished', run: store.runs.get(id)! });
    return store.runs.get(id)!;
  }

  /** Stops all runs and waits for them to end. */
  async close(): Promise<void> {
    this.#isClosed = true;
    for (const abort of this.#going.values()) abort.abort();
    await this.#queue;
  }

  #end(id: number, status: 'finished' | 'stopped', problems: Problem[]): void {
    this.#going.delete(id);
    this.#options.store.runs.end(id, status, problems);
  }

  /** Never rejects: whatever goes wrong ends this run and no later one. */
  async #carryOut(id: number, request: RunRequest, signal: AbortSignal): Promise<void> {
    if (!this.#going.has(id)) return;
    const { store, live, log } = this.#options;
    this.#current = id;
    let problems: Problem[] = [];
    const teller = progressOf(store, live, id);
    this.#teller = teller;
    try {
      store.runs.start(id);
      live.tell({ kind: 'run-started', run: store.runs.get(id)! });
      const ending = await oneRun(this.#options, id, request, teller, signal);
      problems = ending.problems;
      store.runs.update(id, { notes: [...ending.notes, ...this.#prune(ending.keep)] });
    } catch (error) {
      log(error);
      problems = [diskProblem(error, `${this.#options.root}/.sguardo`) ?? toProblem(error)];
    }
    teller.end();
    this.#teller = null;
    this.#current = null;
    try {
      if (signal.aborted && problems.length === 0) problems = [problem('run-stopped')];
      this.#end(id, signal.aborted ? 'stopped' : 'finished', problems);
      const run = store.runs.get(id)!;
      live.tell({ kind: 'run-finished', run });
      // Most changes of files are due to nothing that anybody would look up.
      const isNothing = request.due || request.listing;
      if (isNothing && run.done === 0 && problems.every(({ code }) => code === 'run-stopped')) store.runs.forget(id);
    } catch (error) {
      log(error);
    }
  }

  #prune(keep: number): string[] {
    const { runs, bytes } = this.#options.store.prune(keep);
    return bytes === 0 ? [] : [`Removed ${counted(runs, 'old run')}, which freed ${sizeText(bytes)}.`];
  }
}
