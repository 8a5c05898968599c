/**
 * One run: looks what has changed, takes over what has not, bundles and runs the rest, keeps results, tells everybody.
 */
import { filesBehind, filesKnown } from '../core/run/graph.ts';
import { createHash } from 'node:crypto';
import { changedSince } from '../baselines/git.ts';
import { goneAmong } from '../baselines/gone.ts';
import { type BaselineSet, takeInFolder } from '../baselines/reconcile.ts';
import { lookKey, type LookName } from '../core/look/look.ts';
import { fail, type Problem } from '../core/problem/problem.ts';
import { failSelecting, isChosen } from '../core/look/pattern.ts';
import type { RunRequest, RunSummary } from '../core/run/run.ts';
import type { Settings } from '../core/settings/config.ts';
import { counted } from '../core/text/counted.ts';
import type { Store } from '../store/index.ts';
import { type Bundle, type Crew, findLookFiles, readConfig, type Survey } from '../work/index.ts';
import { failsFrom, readKnown } from './accessibility.ts';
import { isAffected } from './affected.ts';
import type { ProgressTeller } from './progress.ts';
import { both, type Ground, type Reuse, reuseOf } from './reuse.ts';
import { runRest } from './rest.ts';
import type { RunTools } from './runTools.ts';

/** What a run came to as a whole. */
export type Ending = {
  problems: Problem[];
  notes: string[];
  /** So many runs are kept. */
  keep: number;
};

/** The settings of a run, with the environments that it was asked for. @throws ProblemError `environment-unknown` */
async function settingsFor(config: string, request: RunRequest): Promise<Settings> {
  const settings = await readConfig(config);
  const names = settings.environments.map(({ name }) => name);
  const unknown = request.environments.find((name) => !names.includes(name));
  if (unknown !== undefined) fail('environment-unknown', { name: unknown, known: names.join(', ') });
  return settings;
}

function nothingSelected({ patterns, looks, tags, withoutTags }: RunRequest, all: readonly LookName[]): never {
  const tagged = [...tags.map((tag) => `the tag ${tag}`), ...withoutTags.map((tag) => `without the tag ${tag}`)];
  const wanted = [...patterns, ...tagged, ...looks.map(({ component, look }) => lookKey(component, look))];
  return failSelecting(patterns, all, wanted);
}

function goneNotes(store: Store, { files }: BaselineSet, environments: readonly string[]): string[] {
  const gone = goneAmong(store, files, environments);
  if (gone.length === 0) return [];
  const shown = gone.slice(0, 3).map(({ file }) => file);
  const more = gone.length > 3 ? ` and ${gone.length - 3} more` : '';
  const what = counted(gone.length, 'baseline belongs to a look that is', 'baselines belong to looks that are');
  return [`${what} gone: ${shown.join(', ')}${more}. See them all, and remove them, with: sguardo tidy`];
}

/** Captures that were approved elsewhere are not compared to the pixel, which has to be said. */
function elsewhereNotes(captures: number, { upgrade }: RunRequest): string[] {
  if (captures === 0 || upgrade) return [];
  const what = counted(captures, 'capture was', 'captures were');
  return [
    `${what} approved with another browser or other fonts, and compared by what is shown, not by every pixel. ` +
      'To take over what this browser draws: sguardo run --upgrade',
  ];
}

/** Looks that were meant, but that their files leave out. */
function skippedAmong({ catalogue }: Store, files: readonly string[], request: RunRequest): RunSummary['skipped'] {
  const isMeant = isChosen(request);
  return files.flatMap((file) =>
    (catalogue.declaredBy(catalogue.sourceOf(file) ?? '') ?? []).flatMap((info) =>
      info.skip !== undefined && isMeant(info) ? [{ component: info.component, look: info.look, why: info.skip }] : [],
    ),
  );
}

/** Tells which look files a run is about, by the files behind them: null where they are not known. */
function concernedBy(
  { root, store, bundler }: RunTools,
  { changed }: RunRequest,
  { shared }: Survey,
): (file: string, closure: readonly string[] | null) => boolean {
  if (changed === null) return () => true;
  const files = changedSince(root, changed) ?? fail('commit-unknown', { commit: changed });
  const { publicFolder } = bundler;
  const { declared } = store.catalogue;
  return (file, closure) =>
    isAffected(file, new Set(files), { closureOf: () => closure, shared, publicFolder, declared });
}

/** A bundle of some of its look files. */
function only(bundle: Bundle, isWanted: (file: string) => boolean): Bundle {
  const entries = bundle.entries.filter(({ file }) => isWanted(file));
  if (entries.length === bundle.entries.length) return bundle;
  // Documents are named by their place among the entries.
  const id = createHash('sha256').update(`${bundle.id} ${entries.map(({ file }) => file).join()}`);
  return { ...bundle, id: id.digest('hex').slice(0, 16), entries };
}

/** The windows open while the look files are bundled. */
function openWindows(crew: Crew, lanes: number): void {
  for (let lane = 0; lane < lanes; lane++) crew.window(lane).catch(() => {});
}

/** Finds out why captures have changed, as long as nobody stops the run. */
async function explainRun({ store, explainer }: RunTools, id: number, teller: ProgressTeller, signal: AbortSignal) {
  if (signal.aborted) return;
  const tell = (done: number, all: number): void => teller.set({ phase: 'explaining', explaining: { done, all } });
  // What was taken over has passed.
  await explainer.explain(store.results.ofRun(id, true), { signal, tell });
}

/** Carries out a run. @throws ProblemError when none of it can be */
export async function oneRun(
  tools: RunTools,
  id: number,
  request: RunRequest,
  teller: ProgressTeller,
  signal: AbortSignal,
): Promise<Ending> {
  const { root, config, store, crew, bundler } = tools;
  const learning = (request.headed ? tools.headedCrew : crew).identity(store.engines);
  learning.catch(() => {});
  const settings = await settingsFor(config, request);
  const names = settings.environments.map(({ name }) => name);
  const all = await findLookFiles(root, settings);
  if (all.length === 0) fail('looks-missing', { folder: root, pattern: settings.looks.join(', ') });
  store.catalogue.keepOnly(all, names);
  teller.set({ files: all.length });
  const knownFindings = readKnown(root);
  const accessibility = {
    accepted: settings.accessibility.accepted,
    known: knownFindings ?? [],
    failsOn: failsFrom(settings, knownFindings),
    memory: store.accessibility.memory,
  };
  const survey = await bundler.learn(settings, all);
  const concerned = concernedBy(tools, request, survey);
  const files = all.filter((file) => concerned(file, survey.closureOf(file)));
  const baselines = takeInFolder(store, root, settings, tools.cache);
  const engine = await learning;
  const hashesBeside = (names: readonly string[]) => bundler.hashesBeside(names);
  const { network } = settings;
  const known: Ground = { hashOf: survey.hashOf, hashesBeside, engine, network, baselines };
  const environments = settings.environments.filter(
    ({ name }) => request.environments.length === 0 || request.environments.includes(name),
  );
  const records = { ...store.catalogue, resting: store.results.resting };
  const isAtHand = (file: string): boolean => bundler.isAtHand(file, survey);
  const takeOver = (ground: Ground, among: readonly string[], before?: Reuse): Reuse => {
    const found = reuseOf(ground, records, among, environments, request, isAtHand);
    const reuse = before ? both(before, found) : found;
    store.results.stand(found.standing);
    store.runs.update(id, { reused: reuse.ids, planned: reuse.ids.length });
    if (found.ids.length > 0) teller.tell();
    return reuse;
  };
  store.runs.update(id, { engine: engine.name });
  let reuse = takeOver(known, files);
  let planned = reuse.ids.length;
  let contradicted = 0;
  let elsewhere = 0;
  if (reuse.files.length > 0) {
    teller.set({ phase: 'bundling', bundling: reuse.files.length });
    if (request.headed) openWindows(tools.headedCrew, 1);
    else openWindows(crew, settings.lanes);
    const built = await bundler.bundle(settings, reuse.files, survey);
    const { hashes } = built;
    // What depends on what is known of the others only now.
    const bundle = only(built.bundle, (file) => concerned(file, filesBehind(built.bundle.behind, file)));
    const ground = { ...known, hashOf: (file: string) => hashes.get(file) ?? null };
    // What had to be built to be known may be as it was at an earlier commit.
    reuse = takeOver(
      ground,
      [...hashes.keys()].filter((file) => survey.hashOf(file) === null),
      reuse,
    );
    const selected = { id, request, settings, ground, reuse, teller, accessibility };
    ({ planned, contradicted, elsewhere } = await runRest(tools, selected, tools.onBundle(bundle, settings), signal));
  }
  const graph = store.graph.read();
  if (planned > reuse.ids.length) tools.sources.keep(id, graph ? filesKnown(graph) : []);
  await explainRun(tools, id, teller, signal);
  const skipped = skippedAmong(store, files, request);
  store.runs.update(id, { skipped });
  const isForLooks = !request.due && !request.listing && request.changed === null;
  if (planned === 0 && skipped.length === 0 && !signal.aborted && isForLooks)
    nothingSelected(request, store.catalogue.looks());
  const belied =
    contradicted > 0 ? [`${counted(contradicted, 'look')} came out differently although nothing has changed.`] : [];
  const notes = [...belied, ...elsewhereNotes(elsewhere, request), ...goneNotes(store, baselines, names)];
  return { problems: baselines.unreadable, notes, keep: settings.keep };
}
