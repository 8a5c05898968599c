/** What has happened to a look between the time when it passed last and its failure. */
import { filesBehind } from '../core/run/graph.ts';
import { changedSince, commitsBetween } from '../baselines/git.ts';
import { departureOf, type SincePassed, sceneReader } from '../core/cause/failing.ts';
import { fail } from '../core/problem/problem.ts';
import type { ResultSummary } from '../core/run/run.ts';
import { hasFailed } from '../core/run/verdict.ts';
import type { Store } from '../store/index.ts';

/** So far back a time is looked for when it passed. */
const furthest = 200;

/** The result in which a look was last as its script wants it, before this one; null where none is kept. */
export function lastPassed({ results }: Store, { id, component, look, environment }: ResultSummary) {
  return results.history(component, look, environment, furthest).find((one) => one.id < id && !hasFailed(one)) ?? null;
}

/** What has happened since a look passed last. @throws ProblemError `not-found` */
export function sincePassed(store: Store, root: string, id: number): SincePassed {
  const result = store.results.get(id) ?? fail('not-found', { what: `result ${id}` });
  const passed = lastPassed(store, result);
  if (!passed) return { passed: null, departure: null, commits: [], uncommitted: [] };
  const run = store.runs.get(passed.run);
  const [then, now] = [store.results.timeline(passed.id), store.results.timeline(id)];
  const sceneAt = sceneReader((hash) => store.blobs.get(hash)?.bytes.toString('utf8') ?? null);
  const files = [result.file, ...(filesBehind(store.graph.read(), result.file) ?? [])];
  const from = run?.commit ?? null;
  const uncommitted = new Set(changedSince(root, 'HEAD') ?? []);
  return {
    passed: { result: passed.id, run: passed.run, at: run?.started ?? '', commit: from },
    departure: then && now ? departureOf(then, now, sceneAt) : null,
    commits: from === null ? [] : commitsBetween(root, from, files),
    uncommitted: [...new Set(files)].filter((file) => uncommitted.has(file)),
  };
}
