/** Carries out runs, one after the other: bundles, takes in baselines, runs, keeps results, tells everybody. */
import { lookKey } from '../core/look.ts';
import { fail, problem, type Problem, toProblem } from '../core/problem.ts';
import type { RunRequest, RunSummary } from '../core/run.ts';
import { stageHost } from '../core/stage.ts';
import { type Bundle, bundleLooks, type Crew, findLookFiles, readConfig, runLooks } from '../runner/index.ts';
import type { Store } from '../store/index.ts';
import { commitOf, takeInFolder } from './baselines.ts';
import type { Live } from './live.ts';

type Options = {
  root: string;
  config: string;
  store: Store;
  crew: Crew;
  live: Live;
  /** Takes a bundle in; gives back an equal one that was there before. */
  onBundle(bundle: Bundle): Bundle;
};

export class Conductor {
  readonly #options: Options;
  #queue: Promise<void> = Promise.resolve();
  readonly #going = new Map<number, AbortController>();
  #current: number | null = null;

  constructor(options: Options) {
    this.#options = options;
    // Whatever was going on when the last service was ended is told as such.
    for (const id of options.store.runs.unfinished()) options.store.runs.end(id, 'ended', problem('run-ended'));
  }

  get current(): RunSummary | null {
    return this.#current === null ? null : this.#options.store.runs.get(this.#current);
  }

  /** Begins a run, after those that were asked for before. */
  start(request: RunRequest): RunSummary {
    const { store, live, root } = this.#options;
    const id = store.runs.begin(request, commitOf(root));
    const abort = new AbortController();
    this.#going.set(id, abort);
    this.#queue = this.#queue.then(() => this.#carryOut(id, request, abort.signal));
    const summary = store.runs.get(id)!;
    live.tell({ kind: 'run-started', run: summary });
    return summary;
  }

  /** Stops a run after the looks that are under way. */
  stop(id: number): RunSummary {
    this.#going.get(id)?.abort();
    return this.#options.store.runs.get(id) ?? fail('not-found', { what: `run ${id}` });
  }

  /** Stops all runs and waits for them to end. */
  async close(): Promise<void> {
    for (const abort of this.#going.values()) abort.abort();
    await this.#queue;
  }

  async #carryOut(id: number, request: RunRequest, signal: AbortSignal): Promise<void> {
    const { store, live } = this.#options;
    this.#current = id;
    let wrong: Problem | null = null;
    try {
      if (!signal.aborted) wrong = await this.#run(id, request, signal);
    } catch (error) {
      wrong = toProblem(error);
    }
    this.#current = null;
    this.#going.delete(id);
    store.runs.end(id, signal.aborted ? 'stopped' : 'finished', signal.aborted ? (wrong ?? problem('run-stopped')) : wrong);
    live.tell({ kind: 'run-finished', run: store.runs.get(id)! });
  }

  async #run(id: number, request: RunRequest, signal: AbortSignal): Promise<Problem | null> {
    const { root, config, store, crew, live } = this.#options;
    const settings = await readConfig(config);
    const unknown = request.environments.find((name) => !settings.environments.some((one) => one.name === name));
    if (unknown) fail('environment-unknown', { name: unknown, known: settings.environments.map(({ name }) => name).join(', ') });
    // The browser starts while the look files are bundled.
    const warming = crew.engine().then((engine) => Promise.all(Array.from({ length: settings.lanes }, (_, lane) => crew.window(lane))).then(() => engine));
    warming.catch(() => {});
    const files = await findLookFiles(root, settings);
    const bundle = this.#options.onBundle(await bundleLooks(root, settings, files));
    store.catalogue.keepOnly(
      files,
      settings.environments.map(({ name }) => name),
    );
    const baselines = takeInFolder(store, root, settings.baselines);
    store.runs.update(id, { engine: (await warming).name });
    let planned = 0;
    const first = new Map<string, string>();
    await runLooks({
      bundle,
      settings,
      request,
      crew,
      origin: `http://${stageHost}`,
      baselines: baselines.of,
      declared: store.catalogue.declared,
      signal,
      news: {
        opened: store.catalogue.declare,
        unusable: store.catalogue.fail,
        planned(looks) {
          planned = looks;
          store.runs.update(id, { planned });
          live.tell({ kind: 'run-progress', run: store.runs.get(id)! });
        },
        started: (look, environment) => live.tell({ kind: 'look-started', run: id, component: look.component, look: look.look, environment }),
        finished(look) {
          const unstable = new Set<string>();
          for (const { summary, markup } of look.captures) {
            const key = `${lookKey(look.info.component, look.info.look)}\n${look.environment}\n${summary.name}`;
            const now = `${summary.hash}\n${markup.join('\n')}`;
            const before = first.get(key);
            if (before === undefined) first.set(key, now);
            else if (before !== now) unstable.add(summary.name);
          }
          live.tell({ kind: 'look-finished', run: id, result: store.results.add(id, look, unstable) });
        },
      },
    });
    if (planned === 0 && !signal.aborted) fail('nothing-selected', { patterns: request.patterns.map((one) => `“${one}”`).join(', ') || 'the configuration' });
    return baselines.unreadable[0] ?? null;
  }
}
