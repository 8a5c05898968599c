/** Carries out runs, one after the other: bundles, takes in baselines, runs, keeps results, tells everybody. */
import { commitOf } from '../baselines/git.ts';
import { goneAmong } from '../baselines/gone.ts';
import { type BaselineSet, takeInFolder } from '../baselines/reconcile.ts';
import { lookKey } from '../core/look/look.ts';
import { diskProblem } from '../core/problem/disk.ts';
import { fail, problem, type Problem, toProblem } from '../core/problem/problem.ts';
import type { FinishedLook } from '../core/run/finished.ts';
import type { RunRequest, RunSummary } from '../core/run/run.ts';
import type { Settings } from '../core/settings/config.ts';
import { conditionsOf, usualConditions } from '../core/steady/conditions.ts';
import { stageHost } from '../core/wire/stage.ts';
import { counted } from '../core/text/counted.ts';
import type { Store } from '../store/index.ts';
import {
  type Bundle,
  bundleLooks,
  type Crew,
  findLookFiles,
  makeBusy,
  readConfig,
  runLooks,
  type RunSetup,
} from '../work/index.ts';
import type { Live } from './live.ts';
import { Steadiness } from './steadiness.ts';

/** Runs looks on a machine that is as busy as the conditions say. */
async function underConditions(setup: RunSetup): Promise<void> {
  const rest = setup.conditions.isBusy ? makeBusy() : () => {};
  try {
    await runLooks(setup);
  } finally {
    rest();
  }
}

type Options = {
  root: string;
  config: string;
  store: Store;
  crew: Crew;
  live: Live;
  /** Takes a bundle in; gives back an equal one that was there before. */
  onBundle(bundle: Bundle, settings: Settings): Bundle;
  log(error: unknown): void;
};

/** Runs that may wait at a time. */
export const mostQueued = 20;

/** What a run came to as a whole. */
type Ending = { problems: Problem[]; notes: string[] };

/** `1.2 MB`. */
const size = (bytes: number): string =>
  bytes < 1e6 ? `${Math.ceil(bytes / 1000)} kB` : `${(bytes / 1e6).toFixed(1)} MB`;

export class Conductor {
  readonly #options: Options;
  #queue: Promise<void> = Promise.resolve();
  readonly #going = new Map<number, AbortController>();
  #current: number | null = null;

  constructor(options: Options) {
    this.#options = options;
    // Whatever was going on when the last service was ended is told as such.
    for (const id of options.store.runs.unfinished()) options.store.runs.end(id, 'ended', [problem('run-ended')]);
  }

  /** The run that goes on now. */
  get current(): RunSummary | null {
    return this.#current === null ? null : this.#options.store.runs.get(this.#current);
  }

  /** Runs that wait for it to end, the next one first. */
  get queued(): RunSummary[] {
    const { runs } = this.#options.store;
    return [...this.#going.keys()].filter((id) => id !== this.#current).flatMap((id) => runs.get(id) ?? []);
  }

  /** Begins a run, after those that were asked for before. @throws ProblemError `queue-full` */
  start(request: RunRequest): RunSummary {
    const { store, live, root } = this.#options;
    if (this.#going.size > mostQueued) fail('queue-full', { most: mostQueued });
    const id = store.runs.begin(request, commitOf(root));
    const abort = new AbortController();
    this.#going.set(id, abort);
    this.#queue = this.#queue.then(() => this.#carryOut(id, request, abort.signal));
    const summary = store.runs.get(id)!;
    live.tell({ kind: 'run-queued', run: summary });
    return summary;
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
    try {
      store.runs.start(id);
      live.tell({ kind: 'run-started', run: store.runs.get(id)! });
      const ending = await this.#run(id, request, signal);
      problems = ending.problems;
      store.runs.update(id, {
        notes: [...ending.notes, ...this.#prune((await readConfig(this.#options.config)).keep)],
      });
    } catch (error) {
      log(error);
      problems = [diskProblem(error, `${this.#options.root}/.sguardo`) ?? toProblem(error)];
    }
    this.#current = null;
    try {
      if (signal.aborted && problems.length === 0) problems = [problem('run-stopped')];
      this.#end(id, signal.aborted ? 'stopped' : 'finished', problems);
      live.tell({ kind: 'run-finished', run: store.runs.get(id)! });
    } catch (error) {
      log(error);
    }
  }

  #prune(keep: number): string[] {
    const { runs, bytes } = this.#options.store.prune(keep);
    return runs === 0 ? [] : [`Removed ${counted(runs, 'old run')}, which freed ${size(bytes)}.`];
  }

  /** The browser and its windows start while the look files are bundled. */
  #warm(lanes: number): Promise<string> {
    const { crew } = this.#options;
    const warming = crew.engine().then(async ({ name }) => {
      await Promise.all(Array.from({ length: lanes }, (_, lane) => crew.window(lane)));
      return name;
    });
    warming.catch(() => {});
    return warming;
  }

  async #run(id: number, request: RunRequest, signal: AbortSignal): Promise<Ending> {
    const { root, config, store, live } = this.#options;
    const settings = await readConfig(config);
    const names = settings.environments.map(({ name }) => name);
    const unknown = request.environments.find((name) => !names.includes(name));
    if (unknown !== undefined) fail('environment-unknown', { name: unknown, known: names.join(', ') });
    const warming = this.#warm(settings.lanes);
    const files = await findLookFiles(root, settings);
    const bundle = this.#options.onBundle(await bundleLooks(root, settings, files), settings);
    store.catalogue.keepOnly(files, names);
    const baselines = takeInFolder(store, root, settings.baselines);
    store.runs.update(id, { engine: await warming });
    let planned = 0;
    const rounds = request.steady ? request.repeat : 1;
    const keep = this.#keeper(id);
    const seen = new Steadiness();
    const setup = {
      bundle,
      settings,
      request,
      crew: this.#options.crew,
      origin: `http://${stageHost}`,
      baselines,
      declared: store.catalogue.declared,
      dependsOnOthers: store.results.dependent(),
      signal,
    };
    for (let round = 1; round <= rounds && !signal.aborted; round++) {
      const conditions = request.steady ? conditionsOf(round, settings.lanes) : usualConditions(settings.lanes);
      await underConditions({
        ...setup,
        conditions,
        news: {
          opened: store.catalogue.declare,
          unusable: store.catalogue.fail,
          planned(looks) {
            planned = looks * rounds;
            store.runs.update(id, { planned });
            live.tell({ kind: 'run-progress', run: store.runs.get(id)! });
          },
          started: ({ component, look }, environment) =>
            live.tell({ kind: 'look-started', run: id, component, look, environment }),
          finished(look) {
            if (request.steady) seen.compare(look, conditions);
            keep(look);
          },
        },
      });
    }
    if (planned === 0 && !signal.aborted) this.#nothingSelected(request);
    return { problems: baselines.unreadable, notes: this.#goneNotes(baselines, names) };
  }

  #nothingSelected({ patterns, looks }: RunRequest): never {
    const wanted = [...patterns, ...looks.map(({ component, look }) => lookKey(component, look))];
    return fail('nothing-selected', { patterns: wanted.map((one) => `“${one}”`).join(', ') || 'the configuration' });
  }

  #goneNotes({ files }: BaselineSet, environments: readonly string[]): string[] {
    const gone = goneAmong(this.#options.store, files, environments);
    if (gone.length === 0) return [];
    const shown = gone.slice(0, 3).map(({ file }) => file);
    const more = gone.length > 3 ? ` and ${gone.length - 3} more` : '';
    const what = counted(gone.length, 'baseline belongs to a look that is', 'baselines belong to looks that are');
    return [`${what} gone: ${shown.join(', ')}${more}. See them all, and remove them, with: sguardo tidy`];
  }

  /** Keeps results, and notices captures that differ from the first repetition's. */
  #keeper(id: number): (look: FinishedLook) => void {
    const { store, live } = this.#options;
    const first = new Map<string, string>();
    return (look) => {
      const unstable = new Set<string>();
      for (const { summary, markup } of look.captures) {
        const key = `${lookKey(look.info.component, look.info.look)}\n${look.environment}\n${summary.name}`;
        const now = `${summary.hash}\n${markup.join('\n')}`;
        const before = first.get(key);
        if (before === undefined) first.set(key, now);
        else if (before !== now) unstable.add(summary.name);
      }
      live.tell({ kind: 'look-finished', run: id, result: store.results.add(id, look, unstable) });
    };
  }
}
