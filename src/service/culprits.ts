/** Finds the edits behind what has changed, or fails, by running looks without them. Nothing on the disk is touched. */
import { createHash } from 'node:crypto';
import { setTimeout as delay } from 'node:timers/promises';
import { join } from 'node:path';
import { baselineMaterial, captureMaterial } from '../baselines/material.ts';
import { candidatesOf } from '../core/cause/candidates.ts';
import { editsOf } from '../core/cause/edits.ts';
import type { FoundEdits } from '../core/cause/found.ts';
import { type Hunk, withoutHunks } from '../core/cause/hunks.ts';
import { pairScenes } from '../core/cause/pair.ts';
import { relevant } from '../core/cause/relevant.ts';
import { type Attempt, searchEdits, type Sought } from '../core/cause/search.ts';
import type { Scene } from '../core/moment/flat.ts';
import { fail } from '../core/problem/problem.ts';
import type { ResultSummary } from '../core/run/run.ts';
import type { Settings } from '../core/settings/config.ts';
import { stageHost } from '../core/wire/stage.ts';
import { type Attempted, attemptLook, bundleInstead, readConfig } from '../work/index.ts';
import { readFileSync } from 'node:fs';
import { lastPassed } from './failures.ts';
import type { RunTools } from './runTools.ts';
import type { Since } from './sources.ts';

export type Culprits = {
  /**
   * The edits behind the causes of a capture; without one, behind the failure of a look.
   * @throws ProblemError `not-found`
   */
  find(result: number, capture: string | null): Promise<FoundEdits>;
};

/** The number of the window that looks are run again in: after those of runs and of live looks. */
const lane = 2000;

/** Goes into the key of what is kept: another one when the search has been changed. */
const version = 1;

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

/** The one thing that is looked for where a look fails. */
const failure = 'the look fails';

const nothing = (note: string): FoundEdits => ({ edits: [], hunks: 0, note });

const unknownThen =
  'What the source was then is not known: it is kept with each run, and in git. Once this is approved again, later ' +
  'changes are traced to their edits.';

export function culpritsOf(tools: RunTools, isRunning: () => boolean): Culprits {
  const { sources } = tools;
  const { root, store, crew, config, explainer } = tools;

  /** Runs a look without some hunks. */
  const without = async (
    settings: Settings,
    result: ResultSummary,
    undone: readonly Hunk[],
  ): Promise<Attempted | null> => {
    const instead: Record<string, string> = {};
    for (const file of new Set(undone.map((hunk) => hunk.file))) {
      const path = join(root, file);
      instead[path] = withoutHunks(
        readFileSync(path, 'utf8'),
        undone.filter((hunk) => hunk.file === file),
      );
    }
    const environment = settings.environments.find(({ name }) => name === result.environment);
    if (!environment) return null;
    const bundle = await bundleInstead(root, settings, [result.file], instead);
    const release = tools.serveBeside(bundle);
    try {
      const origin = `http://${stageHost}`;
      return await attemptLook({ bundle, settings, environment, info: result, crew, lane, origin });
    } finally {
      release();
    }
  };

  const search = async (result: ResultSummary, capture: string | null, since: Since): Promise<FoundEdits> => {
    const closures = store.graph.read()?.closures ?? {};
    const hunks = sources.edited(since, [...new Set([result.file, ...(closures[result.file] ?? [])])]);
    if (hunks === null) return nothing(unknownThen);
    if (hunks.length === 0)
      return nothing('No source file behind this look has changed since. Look for a package, a browser, or data.');
    const about = result.captures.find(({ name }) => name === capture);
    const asked = digest([
      version,
      about?.hash,
      about?.canonical,
      about?.baseline,
      result.component,
      result.look,
      result.environment,
      result.problem?.message,
      hunks,
    ]);
    const known = store.explanations.edits(asked);
    if (known) return known;
    const settings = await readConfig(config);
    const home = settings.baselines === null ? null : join(root, settings.baselines);
    const { id, component, look, environment } = result;
    const before = capture === null ? null : baselineMaterial(store, home, { component, look, environment, capture });
    if (capture !== null && !before) return nothing('The moment of the baseline was not kept.');
    const sought = await soughtIn(result, capture);
    const stored = store.results.captures(id).find(({ name }) => name === capture);
    const changed = captureMaterial(store, stored?.manifest ?? null);
    const first = before && changed ? keysBetween(before, changed) : new Set<string>();
    const attempt: Attempt = async (undone) => {
      // A run has the browser to itself.
      while (isRunning()) await delay(200);
      const found = await without(settings, result, undone);
      if (!found) return null;
      if (capture === null) return new Set(found.hasPassed ? [] : [failure]);
      const now = found.scenes.get(capture);
      return now && before ? leftOf(sought, first, keysBetween(before, now)) : null;
    };
    const found = await searchEdits(sought, hunks, attempt);
    const edits = found.map((one) => ({
      ...one,
      proved: one.proved.map(sources.withCommit),
      candidates: one.candidates.map(sources.withCommit),
    }));
    const all = { edits, hunks: hunks.length, note: null };
    store.explanations.putEdits(asked, all);
    return all;
  };

  /** The causes that an edit is looked for. */
  const soughtIn = async (result: ResultSummary, capture: string | null): Promise<Sought[]> => {
    if (capture === null)
      return [
        {
          key: failure,
          before: null,
          now: [result.problem?.message, ...(result.problem?.found ?? [])].join(' '),
          place: null,
        },
      ];
    const { causes } = await explainer.list([result]);
    return causes
      .filter(({ kind, captures }) => kind !== 'failed' && captures.some((one) => one.capture === capture))
      .map(({ key, before, now, title, place }) => ({ key, before, now: now ?? title, place }));
  };

  /** When a look was last as it should be. */
  const sinceOf = (result: ResultSummary, capture: string | null): Since | null => {
    const { component, look, environment } = result;
    if (capture !== null) return store.decisions.baseline({ component, look, environment, capture });
    const passed = lastPassed(store, result);
    return passed
      ? { sources: store.runs.sources(passed.run), commit: store.runs.get(passed.run)?.commit ?? null }
      : null;
  };

  let last: Promise<unknown> = Promise.resolve();
  return {
    find(id, capture) {
      const result = store.results.get(id);
      if (!result || (capture !== null && !result.captures.some(({ name }) => name === capture)))
        return Promise.resolve().then(() =>
          fail('not-found', { what: `result ${id}${capture ? ` with a capture “${capture}”` : ''}` }),
        );
      const since = sinceOf(result, capture);
      if (!since)
        return Promise.resolve(
          nothing(capture === null ? 'This look has not passed before.' : 'This capture has no baseline.'),
        );
      // One search after the other: each has the window to itself.
      const mine = last.then(() => search(result, capture, since));
      last = mine.catch(() => {});
      return mine;
    },
  };
}
