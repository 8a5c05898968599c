/** Challenges looks: runs each as it is, then once for every thing that is made wrong, and says what noticed it. */
import type { Bundle } from '../bundle/index.ts';
import type { Approved, BaselineOf } from '../core/baseline/baseline.ts';
import type { Challenge, ChallengedLook, Noticed } from '../core/challenge/challenge.ts';
import { type Chosen, chooseMutations } from '../core/challenge/choose.ts';
import type { Mutation } from '../core/challenge/mutation.ts';
import type { LookInfo } from '../core/look/look.ts';
import { fail } from '../core/problem/problem.ts';
import type { FinishedLook } from '../core/run/finished.ts';
import type { Settings } from '../core/settings/config.ts';
import type { Environment } from '../core/settings/environment.ts';
import { LostError } from '../engine/engine.ts';
import { contextBeside } from './attempt.ts';
import type { Crew } from './crew.ts';
import { type FinishContext, finishLook } from './finish.ts';
import { Lane } from './lane.ts';

export type ChallengeSetup = {
  bundle: Bundle;
  settings: Settings;
  environment: Environment;
  looks: readonly LookInfo[];
  /** So many mutations a look at most. */
  most: number;
  crew: Crew;
  /** The number of the first of its windows among those of the crew. */
  firstLane: number;
  origin: string;
  signal: AbortSignal;
  /** Hears of a look that is done. */
  done(look: ChallengedLook): void;
};

/** What looks took that were run as they are, and all of it, in milliseconds. */
type Took = { plain: number; all: number };

/** A capture of a look as it is, as what the same look is compared with when something is wrong. */
const baselinesOf =
  ({ captures }: FinishedLook): BaselineOf =>
  (_component, _look, _environment, name) => {
    const capture = captures.find(({ summary }) => summary.name === name);
    if (!capture) return null;
    const { png, markup, fingerprint, summary } = capture;
    const { hash, allowances, canonical } = summary;
    return { png, hash, markup, fingerprint, allowances, moment: canonical, file: null };
  };

const approvedOf = ({ captures, timeline: { assets } }: FinishedLook): Record<string, Approved> =>
  Object.fromEntries(
    captures.map(({ summary: { name, hash, canonical }, fingerprint }) => [
      name,
      { picture: hash, fingerprint, shows: canonical === null ? null : { moment: canonical, assets } },
    ]),
  );

/** What a look noticed that was run with something wrong. */
function noticedBy(looked: FinishedLook): Noticed {
  if (looked.verdict === 'passed' || looked.verdict === 'new') return null;
  if (looked.verdict === 'changed') {
    const changed = looked.captures.find(({ summary }) => summary.state.kind === 'changed');
    return { by: 'capture', title: changed?.summary.name ?? 'end' };
  }
  const step = looked.failedStep === null ? null : looked.timeline.steps[looked.failedStep];
  return { by: 'step', title: step?.title ?? looked.problem?.message ?? 'it broke' };
}

/** Runs looks in one window of its own. */
function runnerOf(setup: ChallengeSetup, number: number, context: FinishContext) {
  const { bundle, settings, environment, crew, origin } = setup;
  const lane = new Lane(crew, setup.firstLane + number, origin, settings);
  let isApart = false;
  return {
    /** From now on every run has a document of its own, or shares one with those before it. */
    setApart(isWanted: boolean): void {
      isApart = isWanted;
    },
    /** Null for a look that is not there. */
    async run(info: LookInfo, plain: FinishedLook | null, mutation: Mutation | null): Promise<FinishedLook | null> {
      if (isApart) lane.leave();
      const report = await lane.open(bundle, info.file, environment);
      if (!('looks' in report) || !report.looks.some((one) => one.look === info.look)) return null;
      const options = plain ? { approved: approvedOf(plain), mutation } : { isPhotographed: true };
      const execution = await lane.run(info.look, environment, options);
      const compared = plain ? { ...context, baselines: baselinesOf(plain) } : context;
      const job = { id: 0, file: info.file, environment, repetition: 1 };
      return finishLook(compared, info, job, execution);
    },
    leave: (): void => lane.leave(),
  };
}

type Runner = ReturnType<typeof runnerOf>;

/** A look as it is, and why it cannot be challenged; null where it can. */
type Standing = { plain: FinishedLook | null; note: string | null };

/**
 * Runs a look as it is, twice: what comes out differently by itself would seem to notice everything. A module may keep
 * something from one run to the next, so it is run once more in documents of its own, and stays there.
 */
async function standingOf(runner: Runner, info: LookInfo): Promise<Standing> {
  let last: Standing = { plain: null, note: 'It could not be run.' };
  for (const isApart of [false, true]) {
    runner.setApart(isApart);
    const plain = await runner.run(info, null, null);
    if (!plain) return last;
    if (plain.verdict !== 'new')
      last = { plain, note: `It does not pass as it is: ${plain.problem?.message ?? plain.verdict}` };
    else if ((await runner.run(info, plain, null))?.verdict === 'passed') return { plain, note: null };
    else last = { plain, note: 'It comes out differently from run to run.' };
  }
  return last;
}

async function challengeLook(
  setup: ChallengeSetup,
  runner: Runner,
  info: LookInfo,
  took: Took,
): Promise<ChallengedLook> {
  const { environment, settings, most, signal } = setup;
  const { component, look, file } = info;
  const began = performance.now();
  const { plain, note } = await standingOf(runner, info);
  // Of each two runs one is to see whether they are the same.
  took.plain += (performance.now() - began) / 2;
  const chosen: Chosen[] = note || !plain ? [] : chooseMutations(plain.timeline, settings.markAttribute, most);
  const challenges: Challenge[] = [];
  for (const { mutation, title, check } of chosen) {
    if (signal.aborted) break;
    const looked = await runner.run(info, plain, mutation);
    const noticed = looked ? noticedBy(looked) : null;
    challenges.push({ kind: mutation.kind, title, check, noticed });
  }
  took.all += performance.now() - began;
  return { component, look, file, environment: environment.name, challenges, note };
}

/** Does something once more when the browser has gone meanwhile. @throws ProblemError `browser-gone` the second time */
async function inBrowser<T>(work: () => Promise<T>): Promise<T> {
  for (let tries = 0; ; tries++)
    try {
      return await work();
    } catch (error) {
      if (!(error instanceof LostError)) throw error;
      if (tries > 0) return fail('browser-gone', { why: error.message });
    }
}

/**
 * Challenges looks of a bundle, several at a time, and resolves with what they took. Nothing on the disk is touched.
 * @throws ProblemError `browser-gone`
 */
export async function challengeLooks(setup: ChallengeSetup): Promise<Took> {
  const { bundle, origin, crew, settings, looks, signal, done } = setup;
  const engine = await inBrowser(() => crew.engine());
  const took: Took = { plain: 0, all: 0 };
  const waiting = [...looks];
  const work = async (number: number): Promise<void> => {
    // What a run would notice counts: pictures, or what people hear as well.
    const context = { ...contextBeside(bundle, origin, engine), compares: settings.compares };
    const runner = runnerOf(setup, number, context);
    try {
      for (let info = waiting.shift(); info && !signal.aborted; info = waiting.shift())
        done(await inBrowser(() => challengeLook(setup, runner, info, took)));
    } finally {
      runner.leave();
    }
  };
  const lanes = Math.min(settings.lanes, looks.length);
  await Promise.all(Array.from({ length: lanes }, (_, number) => work(number)));
  return took;
}
