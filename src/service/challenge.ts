/** Challenges looks of the project: which of their checks would notice if something went wrong? */
import { setTimeout as delay } from 'node:timers/promises';
import type { ChallengedLook, ChallengeReport, ChallengeRequest, Challenging } from '../core/challenge/challenge.ts';
import type { LookInfo } from '../core/look/look.ts';
import { failSelecting, isChosen, isFor } from '../core/look/pattern.ts';
import { fail, toProblem } from '../core/problem/problem.ts';
import { usualRequest } from '../core/run/run.ts';
import { stageHost } from '../core/wire/stage.ts';
import { challengeLooks, readConfig } from '../work/index.ts';
import type { RunTools } from './runTools.ts';
import { oneByOne } from './turns.ts';

export type Challenger = {
  /** Begins to challenge looks, after those that were asked for before. @throws ProblemError `nothing-selected` */
  begin(request: ChallengeRequest): Challenging;
  /** How far that is. Whoever does not ask any more does not want it any more. @throws ProblemError `not-found` */
  get(id: number): Challenging;
  /** Stops it after the looks that are under way; what was found by then is told. */
  stop(id: number): Challenging;
  close(): void;
};

/** The number of the first window that looks are challenged in: after those of runs, live looks and searches. */
const firstLane = 3000;

/** So many are remembered. */
const mostKept = 5;

/** Nobody has asked for so long, in milliseconds: it is stopped. */
const forgottenAfter = 30_000;

/** The looks that a request is about, as they were declared last. @throws ProblemError `nothing-selected` */
function looksFor({ store }: RunTools, { patterns }: ChallengeRequest): LookInfo[] {
  const isMeant = isChosen({ ...usualRequest, patterns });
  const all = store.catalogue.looks();
  const looks = all.filter((look) => look.skip === undefined && isMeant(look));
  return looks.length > 0 ? looks : failSelecting(patterns, all);
}

type Going = { state: Challenging; asked: number; abort: AbortController };

/** `isRunning` says whether a run goes on, which has the browser to itself. */
export function challengerOf(tools: RunTools, isRunning: () => boolean): Challenger {
  const inTurn = oneByOne();
  const known = new Map<number, Going>();
  let last = 0;

  async function carryOut(meant: readonly LookInfo[], most: number, going: Going): Promise<ChallengeReport> {
    const { config, bundler, crew, serveBeside } = tools;
    const { state, abort } = going;
    const settings = await readConfig(config);
    const environment = settings.environments[0]!;
    const here = meant.filter((look) => isFor(look, environment.name));
    const scripted = here.filter(({ hasScript, after }) => hasScript || after !== null);
    while (isRunning() && !abort.signal.aborted) await delay(200);
    const survey = await bundler.survey(settings);
    const files = [...new Set(scripted.map(({ file }) => file))];
    const { bundle } = await bundler.bundle(settings, files, survey);
    const looks = scripted.filter(({ file }) => bundle.entries.some((entry) => entry.file === file));
    state.all = looks.length;
    const release = serveBeside(bundle);
    const challenged: ChallengedLook[] = [];
    const done = (look: ChallengedLook): void => {
      challenged.push(look);
      state.done = challenged.length;
      if (Date.now() - going.asked > forgottenAfter) abort.abort();
    };
    try {
      const setup = { bundle, settings, environment, looks, most, crew, firstLane, signal: abort.signal, done };
      const took = await challengeLooks({ ...setup, origin: `http://${stageHost}` });
      return { looks: challenged, withoutScript: here.length - scripted.length, took };
    } finally {
      release();
    }
  }

  const found = (id: number): Going => known.get(id) ?? fail('not-found', { what: `challenge ${id}` });
  return {
    begin(request) {
      const meant = looksFor(tools, request);
      const state: Challenging = { id: ++last, done: 0, all: 0, report: null, problem: null };
      const going: Going = { state, asked: Date.now(), abort: new AbortController() };
      known.set(state.id, going);
      for (const id of known.keys()) if (id <= last - mostKept) known.delete(id);
      inTurn(() => carryOut(meant, request.most, going)).then(
        (report) => {
          state.report = report;
        },
        (error: unknown) => {
          state.problem = toProblem(error);
        },
      );
      return state;
    },
    get(id) {
      const going = found(id);
      going.asked = Date.now();
      return going.state;
    },
    stop(id) {
      const going = found(id);
      going.abort.abort();
      return going.state;
    },
    close() {
      for (const { abort } of known.values()) abort.abort();
    },
  };
}
