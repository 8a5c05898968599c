/** Carries out decisions: appends them to the records and, for approvals, writes the folder; whole or not at all. */
import { join } from 'node:path';
import type { Decided, DecisionRequest } from '../core/api/api.ts';
import type { CaptureKey } from '../core/baseline/baseline.ts';
import { failSelecting, isSelected } from '../core/look/pattern.ts';
import { lookKey, lookTitle } from '../core/look/look.ts';
import { fail } from '../core/problem/problem.ts';
import type { ResultSummary } from '../core/run/run.ts';
import { hasFailed } from '../core/run/verdict.ts';
import { counted } from '../core/text/counted.ts';
import type { NewDecision, Store, StoredCapture } from '../store/index.ts';
import { type Desk, refuseUnreasoned, shelfOf } from './desk.ts';
import { keepFormer } from './former.ts';
import { markSettled, personOf, whereaboutsOf } from './git.ts';
import type { ManifestParts } from './manifest.ts';
import { conflictsIn } from './merge.ts';
import { baselinePath } from './paths.ts';
import { settle } from './settle.ts';
import { sharedFiles } from './shared.ts';
import { markTaken, takenHash } from './taken.ts';
import { type Approved, holdsBaseline, writeBaselines } from './write.ts';

type Meant = { result: ResultSummary; only: Set<string> | null };

function meantByPattern(store: Store, patterns: readonly string[]): Meant[] {
  const latest = store.results.latest();
  if (latest.length === 0)
    return fail('nothing-to-decide', { what: 'Nothing has been run yet.', remedy: 'Run the looks first: sguardo run' });
  const chosen = latest.filter(isSelected(patterns));
  if (chosen.length === 0) failSelecting(patterns, latest);
  return chosen.map((result) => ({ result, only: null }));
}

/** What was seen is decided about: not what a look shows that was run again meanwhile. @throws `picture-changed` */
export function refuseStale(store: Store, { id, component, look, environment }: ResultSummary, name: string): void {
  const newest = store.results.now(component, look, environment);
  if (newest === null || newest === id) return;
  const seen = store.results.captures(id).find((one) => one.name === name);
  const now = store.results.captures(newest).find((one) => one.name === name);
  if (!seen || !now || (seen.hash === now.hash && seen.markup === now.markup)) return;
  fail('picture-changed', { look: lookTitle(component, look), capture: name, result: newest });
}

/** The results that a request means: those of the captures named, or the newest ones. */
function meant(store: Store, { captures, patterns = [], all }: DecisionRequest): Meant[] {
  if (captures && captures.length > 0)
    return captures.map(({ result: id, capture }) => {
      const result = store.results.get(id) ?? fail('not-found', { what: `result ${id}` });
      refuseStale(store, result, capture);
      return { result, only: new Set([capture]) };
    });
  if (!all && patterns.length === 0)
    return fail('nothing-to-decide', {
      what: 'No looks were specified.',
      remedy: 'Name some with a pattern, or use --all for every look.',
    });
  return meantByPattern(store, patterns);
}

/** A look that failed never got to its end; what it shows on the way there is no baseline. */
const isUnfinished = ({ verdict, captures }: ResultSummary): boolean =>
  hasFailed({ verdict }) && !captures.some(({ state }) => state.kind === 'unreadable');

const keyOf = ({ component, look, environment, name }: StoredCapture): CaptureKey => ({
  component,
  look,
  environment,
  capture: name,
});

/** What is to be done about one capture. */
type Choice = 'decide' | 'already' | 'nothing';

function choose(desk: Desk, kind: DecisionRequest['kind'], capture: StoredCapture): Choice {
  const { store } = desk;
  const shelf = shelfOf(desk);
  const key = keyOf(capture);
  const before = store.decisions.about(key, capture);
  if (kind === 'reject') {
    if (before?.kind === 'reject' && store.decisions.stands(key, before)) return 'already';
    return capture.state === 'same' ? 'nothing' : 'decide';
  }
  if (capture.state === 'conflict') return 'decide';
  const current = store.decisions.baseline(key);
  // What is as approved elsewhere stays that: it is taken over by an upgrade only.
  if (capture.state === 'same' && current && current.fingerprint !== capture.fingerprint) return 'already';
  // A file that somebody has lost or spoilt meanwhile is written again.
  const isKept = shelf === null || holdsBaseline(shelf, key, capture.hash);
  const isSame =
    isKept &&
    current?.hash === capture.hash &&
    current.markup === capture.markup &&
    current.fingerprint === capture.fingerprint;
  return isSame && before?.kind !== 'reject' ? 'already' : 'decide';
}

const read = (store: Store, hash: string): Buffer =>
  store.blobs.get(hash)?.bytes ?? fail('internal', { error: `the blob ${hash} is missing` });

function partsOf(store: Store, { manifest, look }: StoredCapture): ManifestParts {
  if (manifest !== null) return JSON.parse(read(store, manifest).toString('utf8')) as ManifestParts;
  const what = `The captures of “${look}” were taken by an older Sguardo.`;
  return fail('nothing-to-decide', { what, remedy: 'Run the look again, then decide.' });
}

/** Who has not run anything since a merge has not seen what it left. @throws ProblemError `nothing-to-decide` */
function refuseUnseen({ root, folder }: Desk): void {
  if (folder === null || conflictsIn(root, folder).length === 0) return;
  const what = 'The looks whose baselines are in conflict have not been run since the merge.';
  fail('nothing-to-decide', { what, remedy: 'Run them, see what each side has, and decide then: sguardo run' });
}

/** What comes out differently from time to time is no baseline, unless somebody says that it is meant. */
function refuseUnsteady(store: Store, chosen: readonly StoredCapture[]): void {
  const found = chosen.filter(store.results.isUnsteady);
  if (found.length === 0) return;
  const names = found.slice(0, 5).map(({ component, look, name }) => `${lookTitle(component, look)} (${name})`);
  const more = found.length > names.length ? ` and ${found.length - names.length} more` : '';
  fail('capture-unsteady', {
    what: counted(found.length, 'capture is', 'captures are'),
    names: names.join(', ') + more,
  });
}

/**
 * Carries out a decision. While pictures are packed others may go on, but no other decision may begin.
 * @throws ProblemError with nothing decided
 */
export async function decide(
  desk: Desk,
  request: DecisionRequest,
  batch = desk.store.decisions.nextBatch(),
): Promise<Decided> {
  const { store } = desk;
  const { kind } = request;
  refuseUnreasoned(desk, request);
  const outcome: Decided = { decided: [], already: 0, unfinished: [], waiting: 0, batch: null };
  const chosen: StoredCapture[] = [];
  for (const { result, only } of meant(store, request)) {
    if (kind === 'approve' && isUnfinished(result)) {
      outcome.unfinished.push(lookKey(result.component, result.look));
      continue;
    }
    for (const capture of store.results.captures(result.id)) {
      if (only && !only.has(capture.name)) continue;
      if (request.take && capture.state !== 'conflict') continue;
      const choice = choose(desk, kind, capture);
      if (choice === 'already') outcome.already++;
      if (choice === 'decide') chosen.push(capture);
    }
  }
  if (kind === 'approve' && !request.unsteady && !request.take) refuseUnsteady(store, chosen);
  outcome.unfinished = [...new Set(outcome.unfinished)];
  outcome.decided = chosen.map(keyOf);
  if (chosen.length === 0) {
    if (request.take && outcome.already === 0) refuseUnseen(desk);
    return outcome;
  }
  if (request.take) settle(desk, request, outcome.decided, batch);
  else await record(desk, request, chosen, batch);
  return { ...outcome, batch };
}

/** How many pictures are packed at once; more would keep others waiting for files. */
const packedAtOnce = 2;

/** The files of screenshots, by their hashes: the same pixels in fewer bytes, and then marked with what they show. */
async function packAll({ store, pack, tell }: Desk, hashes: readonly string[]): Promise<Map<string, Uint8Array>> {
  const packed = new Map<string, Uint8Array>();
  const left = [...new Set(hashes)];
  const all = left.length;
  const packSome = async (): Promise<void> => {
    for (let hash = left.pop(); hash !== undefined; hash = left.pop()) {
      const png = read(store, hash);
      const smaller = takenHash(png) === null ? await pack(png) : png;
      packed.set(hash, smaller.length < png.length ? markTaken(smaller, hash) : png);
      tell(packed.size, all);
    }
  };
  await Promise.all(Array.from({ length: packedAtOnce }, packSome));
  return packed;
}

async function record(desk: Desk, request: DecisionRequest, chosen: StoredCapture[], batch: number): Promise<void> {
  const { store, root, family } = desk;
  const { kind, why = null, fixer = null } = request;
  const who = request.who ?? personOf(root);
  const where = whereaboutsOf(root);
  const at = new Date().toISOString();
  const shelf = kind === 'approve' ? shelfOf(desk) : null;
  const append = (): void =>
    store.together(() => {
      for (const capture of chosen) {
        const { run, hash, markup, manifest, fingerprint } = capture;
        const key = keyOf(capture);
        const former = shelf && JSON.stringify(keepFormer(store, shelf, key));
        const about = { run, hash, markup, manifest, fingerprint, ...where, sources: store.runs.sources(run) };
        const decision: NewDecision = {
          ...key,
          who,
          kind,
          why,
          fixer,
          ...about,
          batch,
          undoes: null,
          former,
          file: null,
        };
        store.decisions.add(decision);
      }
    });
  if (shelf === null) {
    append();
    return;
  }
  const hashes = chosen.map(({ hash }) => hash);
  const packed = await packAll(desk, hashes);
  const sharedOf = sharedFiles(store);
  const approved = chosen.map((capture): Approved => {
    const parts = partsOf(store, capture);
    return {
      key: keyOf(capture),
      family,
      parts,
      png: packed.get(capture.hash)!,
      moment: () => read(store, parts.moment).toString('utf8'),
      shared: sharedOf(parts),
      approved: { by: who, at, why, run: capture.run },
    };
  });
  writeBaselines(root, shelf.folder, approved, append);
  const stems = approved.map(({ key }) => join(shelf.folder, baselinePath(key, family)));
  markSettled(
    root,
    stems.flatMap((stem) => ['.json', '.png', '.moment'].map((ending) => stem + ending)),
  );
}
