/** Carries out a run: plans it, lets workers do it in lanes, and finishes what they bring. */
import { type Bundle, sourceMapper } from '../bundle/index.ts';
import type { BaselineOf } from '../core/baseline/baseline.ts';
import type { Declared, LookInfo } from '../core/look/look.ts';
import { isSelected } from '../core/look/pattern.ts';
import { messageOf, problem } from '../core/problem/problem.ts';
import type { FinishedLook } from '../core/run/finished.ts';
import type { RunRequest } from '../core/run/run.ts';
import type { Settings } from '../core/settings/config.ts';
import type { Crew } from './crew.ts';
import { brokenBy, type Execution } from './execution.ts';
import { type FinishContext, finishLook } from './finish.ts';
import { infoOf, type Job, wholeFile } from './job.ts';
import { Lane } from './lane.ts';
import { planned, planRun, rememberTimes } from './plan.ts';
import { queueOf } from './queue.ts';
import { type Port, work } from './worker.ts';

/** What a run tells while it goes on. */
export type RunNews = {
  /** A look file was opened and has declared its looks. */
  opened(file: string, environment: string, declared: Declared): void;
  /** A look file could be neither bundled nor opened; `whole` stands for its looks. */
  unusable(file: string, environment: string, whole: LookInfo): void;
  /** How many looks there are in all, as far as is known: more certain with every look file that is opened. */
  planned(looks: number): void;
  started(look: LookInfo, environment: string): void;
  /** A look has its result. What this throws (a full disk) ends the run, and is thrown on. */
  finished(look: FinishedLook): void;
};

/** What captures are compared with. */
export type RunBaselines = {
  of: BaselineOf;
  /** Hashes of the approved pictures of a look, by capture. */
  approved(component: string, look: string, environment: string): Record<string, string>;
};

export type RunSetup = {
  bundle: Bundle;
  settings: Settings;
  request: RunRequest;
  crew: Crew;
  /** The origin that pages are loaded from, such as `http://looks.localhost`. */
  origin: string;
  baselines: RunBaselines;
  /** What a look file declared when it could last be opened, and the script it had then. */
  declared(file: string): Declared | null;
  news: RunNews;
  signal: AbortSignal;
};

/** Finishes executions while the lanes go on with the next looks; counts them, and keeps the first fault of the outside. */
function finisher(context: FinishContext, news: RunNews, stop: () => void) {
  const finishing: Promise<void>[] = [];
  let fault: { error: unknown } | null = null;
  const finish = async (info: LookInfo, job: Job, execution: Execution): Promise<void> => {
    let look: FinishedLook;
    try {
      look = await finishLook(context, info, job, execution);
    } catch (error) {
      // Whatever a page has reported harms its own look and nothing else.
      look = await finishLook(context, info, job, brokenBy(problem('finish-failed', { error: messageOf(error) })));
    }
    if (fault) return;
    try {
      news.finished(look);
    } catch (error) {
      fault ??= { error };
      stop();
    }
  };
  return {
    add: (info: LookInfo, job: Job, execution: Execution) => void finishing.push(finish(info, job, execution)),
    /** Resolves with how many there were. */
    async all(): Promise<number> {
      await Promise.all(finishing);
      if (fault) throw fault.error;
      return finishing.length;
    },
  };
}

/** Runs the selected looks of a bundle. Resolves when every one has a result, or the signal has stopped the run. */
export async function runLooks(setup: RunSetup): Promise<void> {
  const { bundle, settings, request, crew, news, declared } = setup;
  const stopping = new AbortController();
  const signal = AbortSignal.any([setup.signal, stopping.signal]);
  const plan = planRun(bundle, settings, request, declared);
  const tell = (): void => news.planned(planned(plan, request.repeat));
  const know = (file: string, looks: number): void => {
    if (plan.expected.get(file) === looks) return;
    plan.expected.set(file, looks);
    tell();
  };
  tell();
  const engine = await crew.engine();
  const { origin, baselines } = setup;
  const context = { bundle, origin, mapper: sourceMapper(bundle), engine, baselines: baselines.of, known: new Map() };
  const finishing = finisher(context, news, () => stopping.abort());
  const select = isSelected(request.patterns, request.looks);

  /** Tells a look file that could not be used as one broken result, if it or one of the looks that it had was asked for. */
  const finishWhole = (job: Job, execution: Execution): void => {
    const whole = infoOf(job.file, wholeFile);
    if (![whole, ...(declared(job.file)?.looks ?? [])].some(select)) return;
    news.unusable(job.file, job.environment.name, whole);
    know(job.file, 1);
    finishing.add(whole, job, execution);
  };
  for (const { file, problem: wrong } of bundle.unusable)
    for (const environment of plan.environments)
      finishWhole({ id: -1, file, environment, repetition: 1 }, brokenBy(wrong));

  const queue = queueOf(plan.jobs, signal);
  const took = new Map<string, number>();
  /** The same script declares the same looks: when none of them is meant it need not be opened to learn so. */
  const isUnwanted = (file: string): boolean => {
    const before = declared(file);
    const script = bundle.entries.find((entry) => entry.file === file)?.script;
    return before?.script === script && !before!.looks.some(select);
  };
  const port: Port = {
    async next(loaded) {
      for (;;) {
        const next = await queue.next(loaded);
        if (next?.kind === 'open' && isUnwanted(next.job.file)) {
          queue.opened(next.job, []);
          continue;
        }
        if (next?.kind !== 'look') return next;
        news.started(next.info, next.job.environment.name);
        const { component, look } = next.info;
        return { ...next, approved: baselines.approved(component, look, next.job.environment.name) };
      }
    },
    opened(job, report) {
      if ('problem' in report) {
        finishWhole(job, brokenBy(report.problem, report.stack));
        return queue.opened(job, []);
      }
      const all = report.looks.map(({ look, hasScript, after }, order) =>
        infoOf(job.file, look, order, hasScript, after),
      );
      const { script } = bundle.entries.find((entry) => entry.file === job.file)!;
      news.opened(job.file, job.environment.name, { script, looks: all });
      const looks = all.filter(select);
      know(job.file, looks.length);
      queue.opened(job, looks);
    },
    done({ info, job }, execution) {
      const last = execution.trace.steps.at(-1);
      took.set(job.file, (took.get(job.file) ?? 0) + (last ? last.at + (last.took ?? 0) : 0));
      finishing.add(info, job, execution);
    },
  };
  const lanes = Array.from({ length: settings.lanes }, (_, index) => new Lane(crew, index, setup.origin, settings));
  const works = lanes.map((lane) =>
    work(port, bundle, lane, settings.isolate === 'look').catch((error: unknown) => {
      // The others end after the looks that they are at; then this is told.
      stopping.abort();
      throw error;
    }),
  );
  const ends = await Promise.allSettled(works);
  rememberTimes(bundle.root, took);
  const results = await finishing.all();
  for (const end of ends) if (end.status === 'rejected') throw end.reason;
  // A file that could be opened in one environment only has fewer results than it was thought to have.
  if (!signal.aborted) news.planned(results);
}
