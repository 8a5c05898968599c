/** Finds the edits behind what has changed, or fails, by running looks without them. Nothing on the disk is touched. */
import { filesBehind } from '../core/run/graph.ts';
import { createHash } from 'node:crypto';
import { setTimeout as delay } from 'node:timers/promises';
import { baselineMaterial, captureMaterial } from '../baselines/material.ts';
import { candidatesOf } from '../core/cause/candidates.ts';
import { editsOf } from '../core/cause/edits.ts';
import type { FoundEdits } from '../core/cause/found.ts';
import type { Hunk } from '../core/cause/hunks.ts';
import { pairScenes } from '../core/cause/pair.ts';
import { relevant } from '../core/cause/relevant.ts';
import { type Attempt, type Found, searchEdits, type Sought } from '../core/cause/search.ts';
import type { Scene } from '../core/moment/flat.ts';
import { fail } from '../core/problem/problem.ts';
import type { ResultSummary } from '../core/run/run.ts';
import type { Settings } from '../core/settings/config.ts';
import { stageHost } from '../core/wire/stage.ts';
import { type Attempted, attemptLook, readConfig } from '../work/index.ts';
import { type BundlesWithout, bundlesWithout } from './bundlesWithout.ts';
import { lastPassed } from './failures.ts';
import { oneByOne } from './turns.ts';
import type { RunTools } from './runTools.ts';
import type { Since } from './sources.ts';

export type Culprits = {
  /**
   * The edits behind the causes of a capture; without one, behind the failure of a look.
   * @throws ProblemError `not-found`
   */
  find(result: number, capture: string | null): Promise<FoundEdits>;
};

type Tools = RunTools & { bundleOf: BundlesWithout };

/** The number of the window that looks are run again in: after those of runs and of live looks. */
const lane = 2000;

/** Goes into the key of what is kept: another one when the search has been changed. */
const version = 4;

const digest = (value: unknown): string => createHash('sha256').update(JSON.stringify(value)).digest('hex');

/** The keys of what differs between two scenes, as causes have them. */
function keysBetween(before: Scene, now: Scene): Set<string> {
  const pair = pairScenes(before, now);
  const edits = editsOf(pair);
  return new Set(relevant(pair, edits, candidatesOf(pair, edits)).map(({ key }) => key));
}

const kindOf = (key: string): string => (JSON.parse(key) as [string])[0];

/**
 * The causes that are left without some edits. One is not gone when another of its kind has come in its place: it has
 * only become another value.
 */
function leftOf(sought: readonly Sought[], first: ReadonlySet<string>, left: Set<string>): Set<string> {
  const fresh = new Set([...left].filter((key) => !first.has(key)).map(kindOf));
  for (const { key } of sought) if (fresh.has(kindOf(key))) left.add(key);
  return left;
}

/** The one thing that is looked for where a look fails, and where a capture has changed without a known cause. */
const failure = 'the look fails';
const change = 'the capture has changed';

const nothing = (note: string): FoundEdits => ({ edits: [], hunks: 0, note });

const unknownThen =
  'What the source was then is not known: it is kept with each run, and in git. Once this is approved again, later ' +
  'changes are traced to their edits.';

const gone = 'It is not there any more: something behind this look has changed since it ran. Run it again.';

const nothingEdited = 'No source file behind this look has changed since. Look for a package, a browser, or data.';

/** Runs a look without some hunks; null when it cannot be built or found then. */
async function without(
  { bundleOf, crew, serveBeside }: Tools,
  settings: Settings,
  result: ResultSummary,
  undone: readonly Hunk[],
): Promise<Attempted | null> {
  const environment = settings.environments.find(({ name }) => name === result.environment);
  if (!environment) return null;
  const bundle = await bundleOf(settings, result.file, undone);
  const release = serveBeside(bundle);
  try {
    const origin = `http://${stageHost}`;
    return await attemptLook({ bundle, settings, environment, info: result, crew, lane, origin });
  } finally {
    release();
  }
}

/** The causes that an edit is looked for. */
async function soughtIn({ explainer }: RunTools, result: ResultSummary, capture: string | null): Promise<Sought[]> {
  if (capture === null) {
    const said = [result.problem?.message, ...(result.problem?.found ?? [])].join(' ');
    return [{ key: failure, before: null, now: said, place: null }];
  }
  const { causes } = await explainer.list([result]);
  const known = causes
    .filter(({ kind, captures }) => kind !== 'failed' && captures.some((one) => one.capture === capture))
    .map(({ key, before, now, title, place }) => ({ key, before, now: now ?? title, place }));
  return known.length > 0 ? known : [{ key: change, before: null, now: '', place: null }];
}

/** When a look was last as it should be; null where nobody knows of such a time. */
function sinceOf({ store }: RunTools, result: ResultSummary, capture: string | null): Since | null {
  const { component, look, environment } = result;
  if (capture !== null) return store.decisions.baseline({ component, look, environment, capture });
  const passed = lastPassed(store, result);
  return passed && { sources: store.runs.sources(passed.run), commit: store.runs.get(passed.run)?.commit ?? null };
}

/** True for what only the picture of a capture tells. */
const isOfPicture = ({ key }: Sought): boolean => key === change || kindOf(key) === 'picture';

/** How a look is tried without hunks; null where its baseline's moment was not kept. */
function attemptOf(
  tools: Tools,
  settings: Settings,
  result: ResultSummary,
  capture: string | null,
  sought: readonly Sought[],
): Attempt | null {
  if (capture === null)
    return async (undone) => {
      const tried = await without(tools, settings, result, undone);
      return tried && new Set(tried.hasPassed ? [] : [failure]);
    };
  const { root, store } = tools;
  const { id, component, look, environment } = result;
  const before = baselineMaterial(store, root, settings.baselines, { component, look, environment, capture });
  if (!before) return null;
  const stored = store.results.captures(id).find(({ name }) => name === capture);
  const changed = captureMaterial(store, stored?.manifest ?? null);
  const first = changed ? keysBetween(before, changed) : new Set<string>();
  const approved = result.captures.find(({ name }) => name === capture)?.baseline ?? null;
  const ofPicture = sought.filter(isOfPicture).map(({ key }) => key);
  const others = sought.filter((one) => !isOfPicture(one));
  return async (undone) => {
    const tried = await without(tools, settings, result, undone);
    const now = tried?.scenes.get(capture);
    if (!tried || !now) return null;
    const differing = keysBetween(before, now);
    const isAsApproved = tried.pictures.get(capture) === approved || (first.size > 0 && differing.size === 0);
    return new Set([...leftOf(others, first, differing), ...(isAsApproved ? [] : ofPicture)]);
  };
}

/** What is asked, as a hash: equal questions have equal answers. */
function askedOf(result: ResultSummary, capture: string | null, hunks: readonly Hunk[]): string {
  const { component, look, environment, problem, captures } = result;
  const about = captures.find(({ name }) => name === capture);
  const pictures = [about?.hash, about?.canonical, about?.baseline];
  return digest([version, component, look, environment, capture, pictures, problem?.message, hunks]);
}

async function search(
  tools: Tools,
  isRunning: () => boolean,
  result: ResultSummary,
  capture: string | null,
  since: Since,
): Promise<FoundEdits> {
  const { store, sources, config } = tools;
  const closure = filesBehind(store.graph.read(), result.file) ?? [];
  const hunks = sources.edited(since, [...new Set([result.file, ...closure])]);
  if (hunks === null) return nothing(unknownThen);
  if (hunks.length === 0) return nothing(nothingEdited);
  const asked = askedOf(result, capture, hunks);
  const known = store.explanations.edits(asked);
  if (known) return known;
  const sought = await soughtIn(tools, result, capture);
  const attempt = attemptOf(tools, await readConfig(config), result, capture, sought);
  if (!attempt) return nothing('The moment of the baseline was not kept.');
  const inTurn: Attempt = async (undone) => {
    // A run has the browser to itself.
    while (isRunning()) await delay(200);
    return attempt(undone);
  };
  const found = await searchEdits(sought, hunks, inTurn);
  const isClaimed = ({ proved }: Found): boolean => proved.length > 0;
  // What is gone with every edit in its place is no edit's doing.
  const left = found.some(isClaimed) ? await inTurn([]) : null;
  const isGone = (one: Found): boolean => left !== null && isClaimed(one) && !left.has(one.key);
  const edits = found.map((one) => ({
    ...one,
    proved: isGone(one) ? [] : one.proved.map(sources.withCommit),
    candidates: one.candidates.map(sources.withCommit),
    note: isGone(one) ? gone : one.note,
  }));
  const answer = { edits, hunks: hunks.length, note: null };
  // After another run it may be there again.
  if (!found.some(isGone)) store.explanations.putEdits(asked, answer);
  return answer;
}

/** `isRunning` says whether a run goes on: searches wait for its end. */
export function culpritsOf(tools: RunTools, isRunning: () => boolean): Culprits {
  // One search after the other: each has the window to itself.
  const inTurn = oneByOne();
  const searching: Tools = { ...tools, bundleOf: bundlesWithout(tools) };
  return {
    async find(id, capture) {
      const result = tools.store.results.get(id);
      const isThere = result && (capture === null || result.captures.some(({ name }) => name === capture));
      if (!isThere) return fail('not-found', { what: `result ${id}${capture ? ` with a capture “${capture}”` : ''}` });
      const since = sinceOf(tools, result, capture);
      if (!since)
        return nothing(capture === null ? 'This look has not passed before.' : 'This capture has no baseline.');
      return inTurn(() => search(searching, isRunning, result, capture, since));
    },
  };
}
