/** Explains captures that have changed, each pair of pictures once, and keeps what came of it. */
import { filesBehind } from '../core/run/graph.ts';
import { createHash } from 'node:crypto';
import { baselineMaterial, captureMaterial, type Material } from '../baselines/material.ts';
import type { CaptureKey } from '../core/baseline/baseline.ts';
import type { CausePlace, Explanation } from '../core/cause/cause.ts';
import {
  type About,
  type CaptureWithoutBaseline,
  type CauseList,
  type ChangedCapture,
  clusters,
  type ExplainedCapture,
} from '../core/cause/cluster.ts';
import { drawAlone, type Drawer, explain, explainPictures } from '../core/cause/explain.ts';
import { placeOf, placeOfWinner, type Source } from '../core/cause/place.ts';
import type { Problem } from '../core/problem/problem.ts';
import type { CaptureSummary, ResultSummary } from '../core/run/run.ts';
import { hasFailed } from '../core/run/verdict.ts';
import type { Settings } from '../core/settings/config.ts';
import type { Decision, Store } from '../store/index.ts';
import type { Sources } from './sources.ts';
import { oneByOne } from './turns.ts';
import { type Crew, type DrawingWindow, drawingWindow } from '../work/index.ts';

export type Explainer = {
  /** Explains what has changed and was not explained before; `tell` hears how far that is. */
  explain(results: readonly ResultSummary[], options?: ExplainOptions): Promise<void>;
  /** The causes of what has changed in some results, and is not approved. Explains what was not explained before. */
  list(results: readonly ResultSummary[]): Promise<CauseList>;
  /** The hash of the picture of a capture's baseline with one cause alone; null where that cannot be drawn. */
  alone(result: ResultSummary, capture: string, key: string): Promise<string | null>;
  close(): Promise<void>;
};

export type ExplainOptions = { signal?: AbortSignal; tell?(done: number, all: number): void };

export type ExplainerTools = {
  root: string;
  store: Store;
  crew: Crew;
  sources: Sources;
  settings(): Promise<Settings>;
  /** Origin of the drawing page. */
  stage(): string;
  log(error: unknown): void;
};

/** Goes into the key of what is kept: another one when explaining has been changed. */
const version = 10;

/** So many windows draw at a time: one waits for frames most of the time. */
const windows = 3;

type Changed = ChangedCapture & { summary: CaptureSummary; baselineNow: Decision; pictures: string };

const digest = (value: unknown): string => createHash('sha256').update(JSON.stringify(value)).digest('hex');

const isOpen = ({ state, decision }: CaptureSummary): boolean =>
  state.kind === 'changed' && !(decision?.stands && decision.kind !== 'reject');

/** The place of a problem, `file:line:column` or nothing. */
function placeIn({ place }: Problem): CausePlace | null {
  const [, file, line] = /^(.*):(\d+):\d+$/.exec(place ?? '') ?? [];
  return file && line ? { file, line: Number(line) } : null;
}

/** The captures of results that have changed and are not approved. */
function changedIn({ decisions }: Store, results: readonly ResultSummary[]): Changed[] {
  return results.flatMap(({ id, run, file, component, look, environment, captures, verdict, problem }) =>
    captures.filter(isOpen).flatMap((summary): Changed[] => {
      const { name: capture, hash, difference, decision, canonical, allowances, baseline: drawn } = summary;
      const baselineNow = decisions.baseline({ component, look, environment, capture });
      if (!baselineNow) return [];
      const { hash: baseline, markup, fingerprint } = baselineNow;
      // What is found out of two pictures is so for every capture that shows them.
      const pictures = digest([
        version,
        environment,
        baseline,
        markup,
        fingerprint,
        hash,
        canonical,
        allowances,
        drawn,
      ]);
      const pair = digest([component, look, capture, pictures]);
      const about = { result: id, run, file, component, look, environment, capture, hash, baseline, difference };
      const failure = hasFailed({ verdict }) && problem ? { message: problem.message, place: placeIn(problem) } : null;
      return [{ pair, ...about, decision, failure, summary, baselineNow, pictures }];
    }),
  );
}

/** True for a conflict that somebody has settled since its look was run. */
function isSettled({ decisions, runs }: Store, { run }: ResultSummary, key: CaptureKey): boolean {
  const decided = decisions.baseline(key);
  return decided !== null && decided.at > (runs.get(run)?.started ?? '') && decided.kind === 'approve';
}

/** Captures that are compared with nothing, and that nobody has approved. */
function withoutBaseline(store: Store, results: readonly ResultSummary[]): CaptureWithoutBaseline[] {
  return results.flatMap((found) => {
    const { id, run, file, component, look, environment, captures } = found;
    return captures.flatMap(({ name: capture, state, hash, canonical, decision }): CaptureWithoutBaseline[] => {
      const { kind: why } = state;
      // What a look that failed shows on its way cannot be approved.
      if (why === 'new' && hasFailed(found)) return [];
      if (why === 'same' || why === 'changed' || (decision?.stands && decision.kind !== 'reject')) return [];
      if (why === 'conflict' && isSettled(store, found, { component, look, environment, capture })) return [];
      const pair = digest([component, look, environment, capture, hash, canonical]);
      const about = { pair, result: id, run, file, component, look, environment, capture, hash, decision };
      const sides = state.kind === 'conflict' ? state.sides : null;
      const comments = store.remarks.comments({ component, look, environment, capture });
      return [{ ...about, why, sides, comments, seenBy: store.remarks.seenBy(pair) }];
    });
  });
}

const unknown = (note: string): Explanation => ({ causes: [], proof: 'unexplained', unexplained: [], note });

/** The parts of two fingerprints that are not the same: what drew them. */
function engines(before: Material, now: Material): { before: string; now: string } | null {
  const [one, other] = [before.fingerprint.split(' · '), now.fingerprint.split(' · ')];
  const apart = (mine: string[], others: string[]): string => mine.filter((part) => !others.includes(part)).join(', ');
  return before.fingerprint === now.fingerprint ? null : { before: apart(one, other), now: apart(other, one) };
}

/** Larger files are bundles and data, in which nobody looks for a line. */
const largestSource = 500_000;

/** What pixels alone tell of a capture; for one whose moment, or its baseline's, was not kept. */
async function byPictures({ store }: ExplainerTools, changed: Changed, drawer: Drawer, hasBaseline: boolean) {
  const [was, is] = [changed.baselineNow.hash, changed.summary.hash].map((hash) => {
    const png = store.blobs.get(hash)?.bytes;
    return png ? { hash, png } : null;
  });
  const note = hasBaseline
    ? 'The moment of this capture was not kept, so only pixels can tell. Run the look again.'
    : 'The moment of the baseline was not kept, so only pixels can tell. It is once this capture is approved again.';
  return was && is ? explainPictures(was, is, drawer, note) : unknown(note);
}

async function explainOne(tools: ExplainerTools, changed: Changed, drawer: Drawer, folder: string | null) {
  const { store } = tools;
  const { component, look, environment, capture, summary, result } = changed;
  const before = baselineMaterial(store, tools.root, folder, { component, look, environment, capture });
  const stored = store.results.captures(result).find(({ name }) => name === capture);
  const now = captureMaterial(store, stored?.manifest ?? null);
  if (!before || !now) return byPictures(tools, changed, drawer, before !== null);
  const { state, baseline } = summary;
  const difference = state.kind === 'changed' ? state.picture : null;
  if (state.kind === 'changed' && state.isRedrawn && baseline) {
    // It was compared with what this browser makes of the approved moment.
    const png = store.blobs.get(baseline)?.bytes;
    if (png) return explain({ before: { ...before, hash: baseline, png }, now, difference, engines: null }, drawer);
  }
  return explain({ before, now, difference, engines: engines(before, now) }, drawer);
}

/** Explains what was not explained before, in several windows. */
async function explainAll(
  tools: ExplainerTools,
  drawing: readonly DrawingWindow[],
  results: readonly ResultSummary[],
  { signal, tell = () => {} }: ExplainOptions,
): Promise<void> {
  const { store, settings, log } = tools;
  const todo = new Map(
    changedIn(store, results)
      .filter(({ pictures, failure }) => failure === null && store.explanations.get(pictures) === null)
      .map((changed) => [changed.pictures, changed]),
  );
  if (todo.size === 0) return;
  const { environments, baselines } = await settings();
  const left = [...todo.values()].sort((one, other) => (one.environment < other.environment ? -1 : 1));
  let done = 0;
  tell(done, todo.size);
  const work = async (window: DrawingWindow): Promise<void> => {
    for (let next = left.shift(); next && !signal?.aborted; next = left.shift()) {
      const environment = environments.find(({ name }) => name === next!.environment);
      try {
        if (environment)
          store.explanations.put(
            next.pictures,
            await explainOne(tools, next, window.in(environment, next.summary.allowances), baselines),
          );
      } catch (error) {
        // One that cannot be explained keeps no other from it; it is tried again when somebody asks.
        log(error);
      }
      tell(++done, todo.size);
    }
  };
  await Promise.all(drawing.slice(0, todo.size).map(work));
}

/** Finds causes, and declarations, in the sources behind look files, as these are now. */
function placeFinder({ store, sources }: ExplainerTools): Pick<About, 'placeOf' | 'placeOfWinner'> {
  const graph = store.graph.read();
  const known = new Map<string, Source[]>();
  const behind = (file: string): Source[] => {
    const found =
      known.get(file) ??
      [...new Set([file, ...(filesBehind(graph, file) ?? [])])].flatMap((one) => {
        const text = sources.textOf(one);
        return text === null || text.length > largestSource ? [] : [{ file: one, text }];
      });
    known.set(file, found);
    return found;
  };
  return {
    placeOf: (cause, { file }) => placeOf(cause, behind(file)),
    placeOfWinner: (winner, { file }) => placeOfWinner(winner, behind(file)),
  };
}

export function explainerOf(tools: ExplainerTools): Explainer {
  const { store, crew, stage } = tools;
  const drawing = Array.from({ length: windows }, () => drawingWindow(crew, stage));
  // Each has the windows to itself.
  const inTurn = oneByOne();
  const explainNow: Explainer['explain'] = (results, options = {}) =>
    inTurn(() => explainAll(tools, drawing, results, options));
  return {
    explain: explainNow,
    async list(results) {
      await explainNow(results);
      const captures = changedIn(store, results).map(({ summary: _, baselineNow: __, pictures, ...changed }) => ({
        ...changed,
        explanation: changed.failure
          ? null
          : (store.explanations.get(pictures) ?? unknown('It could not be drawn. See .sguardo/service.log.')),
      })) satisfies ExplainedCapture[];
      const told = clusters(captures, {
        ...placeFinder(tools),
        idOf: (key) => digest(key).slice(0, 12),
        commentsOf: (cause) => store.remarks.comments({ cause }),
        commentsOn: store.remarks.comments,
        seenBy: store.remarks.seenBy,
        decisionOf(key, pair) {
          const found = store.explanations.decision(key, pair);
          if (!found) return null;
          const { kind, who, at, why, fixer } = found;
          return { kind, who, at, why, fixer };
        },
      });
      return { ...told, withoutBaseline: withoutBaseline(store, results) };
    },
    alone: (result, capture, key) =>
      inTurn(async () => {
        const { environments, baselines } = await tools.settings();
        const environment = environments.find(({ name }) => name === result.environment);
        const { component, look } = result;
        const about = { component, look, environment: result.environment, capture };
        const before = baselineMaterial(store, tools.root, baselines, about);
        const stored = store.results.captures(result.id).find(({ name }) => name === capture);
        const now = captureMaterial(store, stored?.manifest ?? null);
        if (!environment || !before || !now) return null;
        const drawn = await drawAlone(before, now, key, drawing[0]!.in(environment));
        return drawn && store.blobs.put(drawn.png, 'image/png');
      }),
    async close() {
      await Promise.all(drawing.map((window) => window.close()));
    },
  };
}
