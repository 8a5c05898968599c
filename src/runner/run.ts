/** Plans a run and hands its looks to lanes; survives whatever a look does to its page, its window or the browser. */
import type { Settings } from '../core/config.ts';
import type { Environment } from '../core/environment.ts';
import { componentOf, type Declared, isSelected, type LookInfo } from '../core/look.ts';
import { type Problem, problem } from '../core/problem.ts';
import type { RunRequest } from '../core/run.ts';
import { breakOff, emptyTrace } from '../core/trace.ts';
import { type Bundle, sourceMapper } from '../bundle/index.ts';
import { browserIsGone, type Crew } from './crew.ts';
import { type FinishContext, type FinishedLook, finishLook } from './finish.ts';
import type { BaselineOf } from './judge.ts';
import { type Execution, Lane } from './lane.ts';

/** What a run tells while it goes on. */
export type RunNews = {
  /** A look file was opened and has declared its looks. */
  opened(file: string, environment: string, declared: Declared): void;
  /** A look file could be neither bundled nor opened; `whole` stands for its looks. */
  unusable(file: string, environment: string, whole: LookInfo): void;
  /** How many looks there are in all, as far as is known: more certain with every look file that is opened. */
  planned(looks: number): void;
  started(look: LookInfo, environment: string): void;
  finished(look: FinishedLook): void;
};

export type RunSetup = {
  bundle: Bundle;
  settings: Settings;
  request: RunRequest;
  crew: Crew;
  /** The origin that pages are loaded from, such as `http://looks.localhost`. */
  origin: string;
  baselines: BaselineOf;
  /** What a look file declared when it could last be opened, and the script it had then. */
  declared(file: string): Declared | null;
  news: RunNews;
  signal: AbortSignal;
};

/** One look file in one environment. Several lanes may work on its looks. */
type Job = {
  file: string;
  environment: Environment;
  repetition: number;
  /** Looks that no lane has taken yet; null until the file is opened and has declared them. */
  rest: LookInfo[] | null;
  opened: Promise<void>;
  /** Says that the file is opened, and these of its looks are to be run. */
  open(looks: LookInfo[]): void;
};

function jobOf(file: string, environment: Environment, repetition: number): Job {
  let tell: () => void = () => {};
  const opened = new Promise<void>((resolve) => (tell = resolve));
  const job: Job = {
    file,
    environment,
    repetition,
    rest: null,
    opened,
    open(looks) {
      job.rest = looks;
      tell();
    },
  };
  return job;
}

/** From how many looks on it pays that another lane loads their document too. */
const worthHelping = 4;

/** Hands jobs to lanes: each file to one of them, and when none is left, the one with most looks left to whoever is free. */
function handOut(jobs: Job[], signal: AbortSignal): () => Promise<Job | null> {
  const begun: Job[] = [];
  return async () => {
    while (!signal.aborted) {
      const fresh = jobs.shift();
      if (fresh) {
        begun.push(fresh);
        return fresh;
      }
      const [most] = begun.filter(({ rest }) => rest !== null && rest.length >= worthHelping).sort((a, b) => b.rest!.length - a.rest!.length);
      if (most) return most;
      const opening = begun.filter(({ rest }) => rest === null);
      if (opening.length === 0) return null;
      await Promise.race(opening.map(({ opened }) => opened));
    }
    return null;
  };
}

/** The name under which a look file as a whole is told when none of its looks could be run. */
export const wholeFile = '(the file)';

const infoOf = (file: string, look: string, order = 0, hasScript = false, after: string | null = null): LookInfo => ({
  file,
  component: componentOf(file),
  look,
  order,
  hasScript,
  after,
});

const brokenBy = (wrong: Problem, stack: string | null): Execution => {
  const trace = emptyTrace();
  breakOff(trace, wrong, 0);
  return { report: { outcome: 'broken', problem: wrong, stack, notes: [] }, trace, shots: [] };
};

/** True for a failure that running the look alone may change; endless loops and lost pages are not tried again. */
const worthAnotherTry = ({ report }: Execution): boolean => report.outcome === 'failed' || report.problem?.code === 'render-threw';

/** How long each look file took when it was run last, in milliseconds. */
const lastTook = new Map<string, number>();

/** Look files in the order in which lanes are busy for equally long: what took longest comes first, what is not known before that. */
const longestFirst = ({ root, entries }: Bundle): Bundle['entries'] => {
  const weight = ({ file }: { file: string }): number => lastTook.get(`${root}\n${file}`) ?? Number.POSITIVE_INFINITY;
  return [...entries].sort((a, b) => (weight(a) === weight(b) ? b.source.length - a.source.length : weight(b) - weight(a)));
};

/** Runs the selected looks of a bundle. Resolves when every one has a result, or the signal has stopped the run. */
export async function runLooks(setup: RunSetup): Promise<void> {
  const { bundle, settings, request, crew, news, signal } = setup;
  const environments = settings.environments.filter(({ name }) => request.environments.length === 0 || request.environments.includes(name));
  const engine = await crew.engine();
  const context: FinishContext = { bundle, origin: setup.origin, mapper: sourceMapper(bundle), engine, baselines: setup.baselines, known: new Map() };
  // Results are finished (compared, mapped to sources) while the lanes go on with the next looks.
  const finishing: Promise<void>[] = [];
  const plan = planOf(bundle, setup, environments.length);
  const finish = (info: LookInfo, environment: Environment, repetition: number, execution: Execution, orderDependent = false): void => {
    finishing.push(finishLook(context, info, environment, repetition, execution, orderDependent).then(news.finished));
  };
  for (const { file, problem: wrong } of bundle.unusable) {
    for (const environment of environments) finishWhole(setup, plan, finish, jobOf(file, environment, 1), brokenBy(wrong, null));
  }
  const jobs: Job[] = [];
  for (let repetition = 1; repetition <= request.repeat; repetition++) {
    for (const environment of environments) for (const { file } of longestFirst(bundle)) jobs.push(jobOf(file, environment, repetition));
  }
  const next = handOut(jobs, signal);
  const took = new Map<string, number>();
  const work = async (index: number): Promise<void> => {
    const lane = new Lane(crew, index, setup.origin, settings);
    for (let job = await next(); job; job = await next()) {
      const began = performance.now();
      if (job.rest === null) await openFile(setup, plan, finish, lane, job);
      await runRest(setup, finish, lane, job);
      took.set(job.file, (took.get(job.file) ?? 0) + performance.now() - began);
    }
  };
  await Promise.all(Array.from({ length: settings.lanes }, (_, index) => work(index)));
  for (const [file, time] of took) lastTook.set(`${bundle.root}\n${file}`, time);
  await Promise.all(finishing);
  // A file that could be opened in one environment only has fewer results than it was thought to have.
  if (!signal.aborted) news.planned(finishing.length);
}

type Plan = { know(file: string, looks: number): void };

/** Follows how many looks a run will have: what is expected of each file, until the file itself has told. */
function planOf({ entries }: Bundle, { declared, request, news }: RunSetup, environments: number): Plan {
  const expected = (file: string): number => declared(file)?.looks.filter((info) => isSelected(info, request.patterns)).length ?? 0;
  const looks = new Map(entries.map(({ file }) => [file, expected(file)]));
  const tell = (): void => news.planned([...looks.values()].reduce((sum, n) => sum + n, 0) * environments * request.repeat);
  tell();
  return {
    know(file, n) {
      if (looks.get(file) === n) return;
      looks.set(file, n);
      tell();
    },
  };
}

type Finish = (info: LookInfo, environment: Environment, repetition: number, execution: Execution, orderDependent?: boolean) => void;

/** Tells a look file that could not be used as one broken result, if it or one of the looks that it had was asked for. */
function finishWhole({ request, declared, news }: RunSetup, plan: Plan, finish: Finish, { file, environment, repetition }: Job, execution: Execution): void {
  const whole = infoOf(file, wholeFile);
  if (![whole, ...(declared(file)?.looks ?? [])].some((info) => isSelected(info, request.patterns))) return;
  news.unusable(file, environment.name, whole);
  plan.know(file, 1);
  finish(whole, environment, repetition, execution);
}

/** Loads the document of a look file to learn which of its looks are to be run. */
async function openFile(setup: RunSetup, plan: Plan, finish: Finish, lane: Lane, job: Job): Promise<void> {
  const { bundle, request, news } = setup;
  const { file, environment } = job;
  const { script } = bundle.entries.find((entry) => entry.file === file)!;
  // The same script declares the same looks: when none of them is meant it need not be opened to learn so.
  const before = setup.declared(file);
  if (before?.script === script && !before.looks.some((info) => isSelected(info, request.patterns))) return job.open([]);
  const opened = await attempt(() => lane.open(bundle, file, environment));
  if ('lost' in opened || 'problem' in opened.value) {
    const execution =
      'lost' in opened
        ? brokenBy(opened.lost, null)
        : brokenBy((opened.value as { problem: Problem }).problem, (opened.value as { stack: string | null }).stack);
    finishWhole(setup, plan, finish, job, execution);
    return job.open([]);
  }
  const all = opened.value.looks.map(({ look, hasScript, after }, order) => infoOf(file, look, order, hasScript, after));
  news.opened(file, environment.name, { script, looks: all });
  const looks = all.filter((info) => isSelected(info, request.patterns));
  plan.know(file, looks.length);
  job.open(looks);
}

/** Runs looks of an opened file as long as there are some that no lane has taken. */
async function runRest(
  { bundle, settings, baselines, news, signal }: RunSetup,
  finish: Finish,
  lane: Lane,
  { file, environment, repetition, rest }: Job,
): Promise<void> {
  for (let info = rest!.shift(); info && !signal.aborted; info = rest!.shift()) {
    const { look } = info;
    news.started(info, environment.name);
    const approved = (capture: string): Buffer | null => {
      const baseline = baselines(info.component, look, environment.name, capture);
      return baseline && 'png' in baseline ? baseline.png : null;
    };
    const run = async (fresh: boolean): Promise<Execution> => {
      const report = await lane.open(bundle, file, environment, fresh);
      return 'problem' in report ? brokenBy(report.problem, report.stack) : lane.run(look, environment, { approved });
    };
    const first = await attempt(() => run(settings.isolate === 'look'));
    let execution = 'lost' in first ? brokenBy(first.lost, null) : first.value;
    let orderDependent = false;
    if (lane.ran > 1 && worthAnotherTry(execution)) {
      const alone = await attempt(() => run(true));
      if ('value' in alone) {
        orderDependent = alone.value.report.outcome !== execution.report.outcome;
        if (orderDependent)
          execution.report.notes.push(
            `Run alone in a fresh document it ${alone.value.report.outcome === 'passed' ? 'passes' : `is ${alone.value.report.outcome}`}: it depends on what ran before it.`,
          );
        else execution = alone.value;
      }
    }
    finish(info, environment, repetition, execution, orderDependent);
  }
}

/** Does something that needs the browser, and once more with a new one when it went away. */
async function attempt<T>(work: () => Promise<T>): Promise<{ value: T } | { lost: Problem }> {
  for (let tries = 0; ; tries++) {
    try {
      return { value: await work() };
    } catch (error) {
      if (!browserIsGone(error)) return { lost: problem('internal', { error: error instanceof Error ? error.message : String(error) }) };
      if (tries > 0) return { lost: problem('browser-gone', { why: error.message }) };
    }
  }
}
