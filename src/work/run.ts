/** Carries out a run: plans it, lets workers do it in lanes, and finishes what they bring. */
import { type Bundle, locatorOf, sourceMapper } from '../bundle/index.ts';
import { coverageReader } from '../coverage/probes.ts';
import type { Approved, BaselineOf } from '../core/baseline/baseline.ts';
import { type Declared, type LookInfo, wholeFile } from '../core/look/look.ts';
import { locateAtLook } from '../core/look/source.ts';
import { isChosen, isLeftOut } from '../core/look/pattern.ts';
import { messageOf, type Problem, problem } from '../core/problem/problem.ts';
import type { FinishedLook } from '../core/run/finished.ts';
import type { RunRequest } from '../core/run/run.ts';
import type { Settings } from '../core/settings/config.ts';
import { shuffled } from '../core/steady/chance.ts';
import type { Conditions } from '../core/steady/conditions.ts';
import type { FileReport } from '../core/wire/wire.ts';
import type { AccessibilityContext } from './accessibility.ts';
import { contractOf } from './contract.ts';
import type { Crew } from './crew.ts';
import { brokenBy, type Execution } from './execution.ts';
import { type FinishContext, finishLook, type Redraw } from './finish.ts';
import { infoOf, type Job, type LookTask, type Ran, type WantedLook } from './job.ts';
import { Lane } from './lane.ts';
import { placeOf, type Plan, planned, planRun, rememberTimes } from './plan.ts';
import { type Queue, queueOf } from './queue.ts';
import { type Port, type Seen, work } from './worker.ts';

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
  /** What has been approved of a look, by capture. */
  approved(component: string, look: string, environment: string): Record<string, Approved>;
};

export type RunSetup = {
  bundle: Bundle;
  settings: Settings;
  request: RunRequest;
  crew: Crew;
  /** The origin that pages are loaded from, such as `http://looks.localhost`. */
  origin: string;
  baselines: RunBaselines;
  redraw: Redraw;
  /** True for a look that was found to depend on what runs before it: it runs alone. */
  dependsOnOthers(look: LookInfo): boolean;
  /** What a look file declared when it could last be opened. */
  declared(file: string): Declared | null;
  /** What findings of accessibility are accepted or known, and what fails a look. */
  accessibility: AccessibilityContext;
  /** Hash of all that a look file was built from; null when that is not known. */
  sourceOf(file: string): string | null;
  /** True for a look whose captures are all photographed, also those whose moment is as approved. */
  isPhotographed(look: LookInfo, environment: string): boolean;
  /** True for a look whose result is taken over from an earlier run. */
  isReused(look: LookInfo, environment: string): boolean;
  news: RunNews;
  signal: AbortSignal;
  conditions: Conditions;
};

/**
 * Finishes executions while the lanes go on with the next looks; counts them, and keeps the first fault of the
 * outside.
 */
function finisher(context: FinishContext, news: RunNews, stop: () => void) {
  const telling: Promise<void>[] = [];
  /** How long the looks of each file took, in milliseconds. */
  const took = new Map<string, number>();
  let fault: { error: unknown } | null = null;
  let told = 0;
  const finish = async (info: LookInfo, job: Job, execution: Execution): Promise<FinishedLook> => {
    const last = execution.trace.steps.at(-1);
    took.set(job.file, (took.get(job.file) ?? 0) + (last ? last.at + (last.took ?? 0) : 0));
    try {
      return await finishLook(context, info, job, execution);
    } catch (error) {
      // Whatever a page has reported harms its own look and nothing else.
      return finishLook(context, info, job, brokenBy(problem('finish-failed', { error: messageOf(error) })));
    }
  };
  const tell = (look: FinishedLook): void => {
    told++;
    if (fault) return;
    try {
      news.finished(look);
    } catch (error) {
      fault ??= { error };
      stop();
    }
  };
  return {
    took,
    finish,
    tell,
    /** Does something that finishes looks while the lanes go on. */
    add: (work: Promise<void>): void => void telling.push(work),
    /** Resolves with how many results there were. */
    async all(): Promise<number> {
      await Promise.all(telling);
      if (fault) throw fault.error;
      return told;
    },
  };
}

/** Follows how many looks a run will have: what is expected of each file, until the file itself has told. */
function expectations({ news }: RunSetup, plan: Plan): { know(job: Job, looks: number): void } {
  const tell = (): void => news.planned(planned(plan));
  tell();
  return {
    know({ file, environment }, looks) {
      const place = placeOf(file, environment.name);
      if (plan.expected.get(place) === looks) return;
      plan.expected.set(place, looks);
      tell();
    },
  };
}

type Finishing = ReturnType<typeof finisher>;

/** Patterns that stay in the project, whatever a page says. */
const inside = (patterns: readonly string[]): string[] => patterns.filter((one) => !/^[/\\]|\.\.|^\w:/.test(one));

/** What opening look files brings: the looks to run, or one broken result for the file as a whole. */
function openings(setup: RunSetup, plan: Plan, finishing: Finishing) {
  const { bundle, request, news, declared, conditions, isReused } = setup;
  const select = isChosen(request);
  const { know } = expectations(setup, plan);
  // The address of a script carries a hash of it.
  const sourceOf = (file: string): string =>
    setup.sourceOf(file) ?? bundle.entries.find((entry) => entry.file === file)?.script ?? '';
  const textOf = (file: string): string | null => bundle.entries.find((entry) => entry.file === file)?.source ?? null;
  const isWanted = (look: LookInfo, { environment: { name } }: Job): boolean =>
    !request.listing && select(look) && !isReused(look, name) && !isLeftOut(look, name);
  const known = setup.settings.environments.map(({ name }) => name);
  return {
    /** The same source declares the same looks: when none of them is meant it need not be opened to learn so. */
    isUnwanted(job: Job): boolean {
      const before = declared(job.file);
      return before?.source === sourceOf(job.file) && !before.looks.some((look) => isWanted(look, job));
    },
    /** Reports a file that could not be used, if it or one of the looks that it had was asked for. */
    whole(job: Job, execution: Execution): void {
      const whole = infoOf(job.file, wholeFile);
      if (![whole, ...(declared(job.file)?.looks ?? [])].some(select)) return;
      news.unusable(job.file, job.environment.name, whole);
      know(job, 1);
      finishing.add(finishing.finish(whole, job, execution).then(finishing.tell));
    },
    /** What is wrong with one look of a file is found where that look is written. */
    located(job: Job, { look, ...wrong }: Problem): Problem {
      return look === undefined ? wrong : locateAtLook(wrong, { file: job.file, look }, textOf(job.file));
    },
    /** Why an opened file is not used all the same, and where that is written; null when it is. */
    refusal(job: Job, { looks: found }: Opened): Problem | null {
      const only = found.find((look) => look.only);
      const at = (wrong: Problem, look: string): Problem =>
        locateAtLook(wrong, { file: job.file, look }, textOf(job.file));
      if (request.refuseOnly && only) return at(problem('only-left', { look: only.look }), only.look);
      const strange = found.flatMap(({ look, environments = [] }) =>
        (environments ?? []).filter((name) => !known.includes(name)).map((name) => ({ look, name })),
      )[0];
      if (!strange) return null;
      const about = { name: strange.name, known: known.join(', ') };
      return at(problem('environment-unknown', about), strange.look);
    },
    /** The looks of an opened file that are to be run. */
    looksOf(job: Job, { looks: found }: Opened): WantedLook[] {
      const hasOnly = found.some(({ only }) => only);
      const all = found.map((declaredLook, order) => ({
        info: infoOfDeclared(job.file, declaredLook, order, hasOnly),
        isolate: declaredLook.isolate,
      }));
      news.opened(job.file, job.environment.name, { source: sourceOf(job.file), looks: all.map(({ info }) => info) });
      const wanted = all.filter(({ info }) => isWanted(info, job));
      const looks = conditions.seed === null ? wanted : shuffled(wanted, conditions.seed);
      know(job, looks.length);
      return looks;
    },
  };
}

type Opened = Extract<FileReport, { looks: object }>;

/** A look as its file declares it; where one is the only one, the others are left out. */
function infoOfDeclared(file: string, declared: Opened['looks'][number], order: number, hasOnly: boolean): LookInfo {
  const { look, hasScript, after, reuse, only, tags, environments, compares, given, reference, budget } = declared;
  const dependsOn = inside(declared.dependsOn);
  const skip = declared.skip ?? (hasOnly && !only ? 'another look of its file is marked “only”' : null);
  return {
    ...infoOf(file, look, order, hasScript, after),
    ...(dependsOn.length > 0 && { dependsOn }),
    ...(!reuse && { reuse }),
    ...(tags.length > 0 && { tags }),
    ...(skip !== null && { skip }),
    ...(only && { only: true }),
    ...(environments && { environments }),
    ...(compares && { compares }),
    ...(given.length > 0 && { given }),
    ...(reference !== null && { reference }),
    ...(budget !== null && { budget }),
  };
}

/** True for a look that gets a fresh document: what is to be approved or repeated must owe nothing to others. */
function isAlone(
  { settings, request, dependsOnOthers }: RunSetup,
  { info, isolate }: WantedLook,
  approved: object,
): boolean {
  // Rounds are shuffled: a module that counts would tell what ran before, and no more.
  if (request.steady) return true;
  if (isolate !== null) return isolate;
  if (settings.isolate !== null) return settings.isolate === 'look';
  return Object.keys(approved).length === 0 || dependsOnOthers(info);
}

/** True for a result that could have come of what ran before the look, or of a busy machine. */
function isDoubtful({ verdict, problem: wrong }: FinishedLook, before: readonly Ran[], shares: boolean): boolean {
  if (wrong?.code === 'look-endless') return true;
  return before.length > 0 && verdict !== 'passed' && !(verdict === 'new' && shares);
}

/** The port between a run and the workers of this process. */
function portOf(setup: RunSetup, queue: Queue, opening: ReturnType<typeof openings>, finishing: Finishing): Port {
  const { baselines, news, settings } = setup;
  const finish = ({ info, job }: LookTask, execution: Execution): Promise<FinishedLook> =>
    finishing.finish(info, job, execution);
  return {
    async next(loaded) {
      for (;;) {
        const next = await queue.next(loaded);
        if (next?.kind === 'open' && opening.isUnwanted(next.job)) {
          queue.opened(next.job, []);
          continue;
        }
        if (next?.kind !== 'look') return next;
        const { info, job } = next;
        news.started(info, job.environment.name);
        const approved = baselines.approved(info.component, info.look, job.environment.name);
        const isPhotographed = setup.isPhotographed(info, job.environment.name);
        return { kind: 'look', job, info, approved, isAlone: isAlone(setup, next, approved), isPhotographed };
      }
    },
    opened(job, report) {
      const refused = 'looks' in report ? opening.refusal(job, report) : null;
      if ('looks' in report && !refused) return queue.opened(job, opening.looksOf(job, report));
      const { problem: wrong, stack } = 'looks' in report ? { problem: refused!, stack: null } : report;
      const located = opening.located(job, wrong);
      opening.whole(job, brokenBy(located, located.place ? null : stack));
      queue.opened(job, []);
    },
    done(task, execution, before) {
      const finished = finish(task, execution).then((first) => {
        if (isDoubtful(first, before, settings.isolate === 'file'))
          queue.confirm({ kind: 'confirm', task, before, first });
        else finishing.tell(first);
      });
      finishing.add(queue.await(finished));
    },
    finish,
    confirmed: finishing.tell,
  };
}

/** Lets every lane work until nothing is left. When one fails, the others end after the looks that they are at. */
async function workInLanes(setup: RunSetup, plan: Plan, port: Port, stop: () => void): Promise<void> {
  const { bundle, settings, request, crew, origin, conditions } = setup;
  const contract = settings.openapi === null ? null : contractOf(bundle.root, settings.openapi);
  if (conditions.isCold) await crew.empty();
  const lanes = Array.from(
    // Lanes would slow one another down, and a browser takes down what one window does.
    { length: request.timing ? 1 : conditions.lanes },
    (_, index) => new Lane(crew, index, origin, settings, conditions.isLate, contract, request.coverage),
  );
  const audit = request.everyStep ? 'steps' : 'end';
  const timed = request.timing;
  const memory = request.fresh ? null : setup.accessibility.memory;
  const seen: Seen = { audit, memory, timed, ...(request.headed && { pace: request.pace, stays: true }) };
  const works = lanes.map((lane) =>
    work(port, bundle, lane, seen).catch((error: unknown) => {
      stop();
      throw error;
    }),
  );
  for (const end of await Promise.allSettled(works)) if (end.status === 'rejected') throw end.reason;
  const [first] = plan.environments;
  if (first && !request.headed) for (const lane of lanes) lane.rest(bundle, first);
}

/** Runs the selected looks of a bundle. Resolves when every one has a result, or the signal has stopped the run. */
export async function runLooks(setup: RunSetup): Promise<void> {
  const { bundle, settings, request, crew, news, origin, baselines, conditions } = setup;
  const stopping = new AbortController();
  const stop = (): void => stopping.abort();
  const signal = AbortSignal.any([setup.signal, stopping.signal]);
  const plan = planRun(bundle, settings, request, setup.declared, setup.isReused, conditions);
  const engine = await crew.engine();
  const mapper = sourceMapper(bundle);
  const context: FinishContext = {
    bundle,
    origin,
    mapper,
    engine,
    baselines: baselines.of,
    compares: settings.compares,
    isUpgrade: request.upgrade,
    redraw: setup.redraw,
    accessibility: setup.accessibility,
    readCoverage: request.coverage ? coverageReader(bundle) : null,
    locate: locatorOf(bundle),
    known: new Map(),
  };
  const finishing = finisher(context, news, stop);
  const opening = openings(setup, plan, finishing);
  for (const { file, problem: wrong } of bundle.unusable)
    for (const environment of plan.environments)
      opening.whole({ id: -1, file, environment, repetition: 1 }, brokenBy(wrong));
  const port = portOf(setup, queueOf(plan.jobs, signal), opening, finishing);
  const fault = await workInLanes(setup, plan, port, stop).then(
    () => null,
    (error: unknown) => ({ error }),
  );
  rememberTimes(bundle.root, finishing.took);
  const results = await finishing.all();
  if (fault) throw fault.error;
  // A file that could be opened in one environment only has fewer results than it was thought to have.
  if (!signal.aborted) news.planned(results);
}
