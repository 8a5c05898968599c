/** The sittings of a project: looks that are run for somebody who stops them, a few at a time. */
import { fail, ProblemError } from '../core/problem/problem.ts';
import type { SheetTexts } from '../core/sitting/parted.ts';
import type { SittingRequest, SittingState } from '../core/sitting/sitting.ts';
import type { Timeline } from '../core/timeline/timeline.ts';
import { stageHost } from '../core/wire/stage.ts';
import type { Store } from '../store/index.ts';
import { findLookFiles, readConfig, Sitting } from '../work/index.ts';
import type { RunTools } from './runTools.ts';

/** So many can be live at a time: each has a window. */
const mostLive = 4;

/** So many are remembered when they are over. */
const mostOver = 20;

/** The numbers of their windows begin after those of runs. */
const firstLane = 1000;

/** One that nobody has asked for so long gives way to another, in milliseconds: its page in the console is closed. */
const forgotten = 60_000;

/** How long a sitting stays that nobody asks for, in milliseconds, and how often that is looked at. */
const idleLimit = 30 * 60_000;
const idleCheck = 60_000;

export type Sittings = {
  /** Begins one. @throws ProblemError `sittings-full`, `not-found`, `environment-unknown`, or why it cannot be built */
  begin(request: SittingRequest): Promise<SittingState>;
  /** @throws ProblemError `not-found` */
  get(id: number): Sitting;
  /** Closes windows on the screen, unless a sitting uses them. */
  closeWindows(): Promise<void>;
  /** Those that are not over, the oldest first. */
  live(): SittingState[];
  /** Ends all. */
  close(): Promise<void>;
};

type Held = { sitting: Sitting; lane: number; seen: number };

/** A look file built, as it is now. @throws ProblemError when it cannot be */
async function built({ root, config, bundler, onBundle }: RunTools, { file, environment }: SittingRequest) {
  const settings = await readConfig(config);
  const known = await findLookFiles(root, settings);
  if (!known.includes(file)) fail('not-found', { what: `look file ${file}` });
  const names = settings.environments.map(({ name }) => name);
  const wanted = settings.environments.find(({ name }) => name === (environment ?? names[0]));
  if (!wanted) return fail('environment-unknown', { name: environment ?? '', known: names.join(', ') });
  const { bundle } = await bundler.bundle(settings, [file], await bundler.survey(settings));
  const [unusable] = bundle.unusable;
  if (unusable) throw new ProblemError(unusable.problem);
  return { settings, environment: wanted, bundle: onBundle(bundle, settings) };
}

/** What the linked sheets of a timeline held, as far as that was kept. */
function sheetsOf({ blobs }: Store, { assets }: Timeline): SheetTexts {
  const sheets = Object.entries(assets).filter(([address]) => address.endsWith('.css'));
  return Object.fromEntries(
    sheets.flatMap(([address, hash]) => {
      const text = blobs.get(hash)?.bytes.toString('utf8');
      return text === undefined ? [] : [[address, text]];
    }),
  );
}

export function sittingsOf(tools: RunTools): Sittings {
  const all = new Map<number, Held>();
  let next = 1;
  const { live, store, headedCrew } = tools;
  const isLive = ({ sitting }: Held): boolean => !sitting.isOver;
  const liveOnes = (): Held[] => [...all.values()].filter(isLive);
  const timer = setInterval(() => {
    for (const held of liveOnes())
      if (!held.sitting.isHeaded && Date.now() - held.seen > idleLimit) void held.sitting.end();
  }, idleCheck);
  timer.unref();

  /** Those that are over and were begun first are forgotten. */
  function forgetOld(): void {
    const over = [...all].filter(([, held]) => !isLive(held));
    for (const [id] of over.slice(0, Math.max(0, over.length - mostOver))) all.delete(id);
  }

  /** Makes room for one more. @throws ProblemError `sittings-full` when all are in use */
  async function endForgotten(): Promise<void> {
    const unseen = liveOnes().filter(({ sitting, seen }) => !sitting.isHeaded && Date.now() - seen > forgotten);
    const [oldest] = unseen.sort((a, b) => a.seen - b.seen);
    if (!oldest) return fail('sittings-full', { most: mostLive });
    await oldest.sitting.end();
  }

  function changed(id: number): void {
    live.tell({ kind: 'sitting', id });
    // A browser without windows is of no use to anybody.
    if (all.get(id)?.sitting.isHeaded) void closeWindows();
  }

  async function closeWindows(): Promise<void> {
    if (!liveOnes().some(({ sitting }) => sitting.isHeaded)) await headedCrew.stop();
  }

  return {
    async begin(request) {
      if (liveOnes().length >= mostLive) await endForgotten();
      const { result, file, look, headed, pace, orders } = request;
      const { settings, environment, bundle } = await built(tools, request);
      const taken = new Set(liveOnes().map(({ lane }) => lane));
      const lane = Array.from({ length: mostLive }, (_, n) => firstLane + n).find((one) => !taken.has(one));
      if (lane === undefined) return fail('sittings-full', { most: mostLive });
      const id = next++;
      const crew = headed ? headedCrew : tools.crew;
      // What is missing is told to whoever asks, not to whoever comes back later.
      await crew.engine();
      const timeline = result === null ? undefined : store.results.timeline(result);
      const follows = timeline ? { timeline, sheets: sheetsOf(store, timeline) } : null;
      const origin = `http://${stageHost}`;
      const own = { id, bundle, settings, environment, file, look, headed, pace, crew, lane, origin, result, follows };
      const sitting = new Sitting({ ...own, changed: () => changed(id) }, orders);
      all.set(id, { sitting, lane, seen: Date.now() });
      forgetOld();
      return sitting.state;
    },
    get(id) {
      const held = all.get(id);
      if (!held) return fail('not-found', { what: `live look ${id}` });
      held.seen = Date.now();
      return held.sitting;
    },
    closeWindows,
    live: () => liveOnes().map(({ sitting }) => sitting.state),
    async close() {
      clearInterval(timer);
      await Promise.all(liveOnes().map(({ sitting }) => sitting.end()));
    },
  };
}
