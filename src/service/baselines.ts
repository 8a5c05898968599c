/** Baselines: from the project's folder when it keeps one, else from the records. Approving writes both. */
import { execFileSync } from 'node:child_process';
import { userInfo } from 'node:os';
import type { Decided, DecisionRequest } from '../core/api.ts';
import { isSelected, lookKey } from '../core/look.ts';
import { fail, type Problem } from '../core/problem.ts';
import type { ResultSummary } from '../core/run.ts';
import type { BaselineOf } from '../runner/index.ts';
import { type CaptureKey, holdsBaseline, readFolder, type Store, writeBaseline } from '../store/index.ts';

const git = (root: string, ...args: string[]): string | null => {
  try {
    return execFileSync('git', ['-C', root, ...args], { encoding: 'utf8', stdio: ['ignore', 'pipe', 'ignore'] }).trim() || null;
  } catch {
    return null;
  }
};

/** The commit that a project is at, or null outside git. */
export const commitOf = (root: string): string | null => git(root, 'rev-parse', '--short', 'HEAD');

/** Who decides when nobody says: git's name for the person, or the account. */
export const personOf = (root: string): string => git(root, 'config', 'user.name') ?? userInfo().username;

const keyText = ({ component, look, environment, capture }: CaptureKey): string => JSON.stringify([component, look, environment, capture]);

/** What captures are compared with in one run, and what could not be read of it. */
export type BaselineSet = { of: BaselineOf; unreadable: Problem[] };

/** Takes in what the folder has that the records do not, and answers for a run. */
export function takeInFolder(store: Store, root: string, folder: string | null): BaselineSet {
  if (folder === null) return { of: fromRecords(store), unreadable: [] };
  const { baselines, unreadable } = readFolder(root, folder);
  const found = new Map<string, Exclude<ReturnType<BaselineOf>, null>>();
  let commit: string | null | undefined;
  for (const { about, png, hash, file } of baselines) {
    const { component, look, environment, capture, fingerprint, markup } = about;
    found.set(keyText(about), { png, hash, fingerprint, markup, file });
    const markupHash = store.blobs.put(Buffer.from(JSON.stringify(markup)), 'application/json');
    const known = store.decisions.baseline({ component, look, environment, capture });
    if (known?.hash === hash && known.markup === markupHash) continue;
    store.blobs.put(png, 'image/png');
    if (commit === undefined) commit = commitOf(root);
    store.decisions.add({
      who: about.approved?.by ?? 'unknown',
      kind: 'adopt',
      why: about.approved?.why ?? null,
      run: null,
      component,
      look,
      environment,
      capture,
      hash,
      markup: markupHash,
      fingerprint,
      commit,
    });
  }
  for (const { key, problem } of unreadable) if (key) found.set(keyText(key), { unreadable: problem.message });
  return {
    of: (component, look, environment, capture) => found.get(keyText({ component, look, environment, capture })) ?? null,
    unreadable: unreadable.map(({ problem }) => problem),
  };
}

function fromRecords(store: Store): BaselineOf {
  return (component, look, environment, capture) => {
    const decision = store.decisions.baseline({ component, look, environment, capture });
    const png = decision && store.blobs.get(decision.hash);
    const markup = decision && store.blobs.get(decision.markup);
    if (!decision || !png || !markup) return null;
    return {
      png: png.bytes,
      hash: decision.hash,
      fingerprint: decision.fingerprint,
      markup: JSON.parse(markup.bytes.toString('utf8')) as string[],
      file: null,
    };
  };
}

/** The newest results that a request means. */
function meant(store: Store, { captures, patterns, all }: DecisionRequest): { result: ResultSummary; only: Set<string> | null }[] {
  if (captures && captures.length > 0) {
    return captures.map(({ result, capture }) => ({
      result: store.results.get(result) ?? fail('not-found', { what: `result ${result}` }),
      only: new Set([capture]),
    }));
  }
  if (!all && (patterns ?? []).length === 0)
    return fail('nothing-to-decide', { what: 'It was not said which looks are meant.', remedy: 'Name some with a pattern, or say --all.' });
  const chosen = store.results.latest().filter((result) => isSelected(result, patterns ?? []));
  if (chosen.length === 0) {
    const none = store.results.latest().length === 0;
    return none
      ? fail('nothing-to-decide', { what: 'Nothing has been run yet.', remedy: 'Run the looks first: sguardo run' })
      : fail('nothing-selected', { patterns: (patterns ?? []).map((one) => `“${one}”`).join(', ') });
  }
  return chosen.map((result) => ({ result, only: null }));
}

/** Carries out a decision: appends it to the records and, for approvals, writes the folder. */
export function decide(store: Store, root: string, folder: string | null, request: DecisionRequest): Decided {
  if (request.kind === 'reject' && !request.why?.trim()) fail('reason-missing');
  const outcome: Decided = { decided: [], already: 0, unfinished: [] };
  const who = request.who ?? personOf(root);
  const commit = commitOf(root);
  for (const { result, only } of meant(store, request)) {
    // A look that failed never got to its end; what it shows on the way there is no baseline.
    if (
      request.kind === 'approve' &&
      (result.verdict === 'failed' || result.verdict === 'broken') &&
      !result.captures.some(({ state }) => state.kind === 'unreadable')
    ) {
      outcome.unfinished.push(lookKey(result.component, result.look));
      continue;
    }
    for (const capture of store.results.captures(result.id)) {
      if (only && !only.has(capture.name)) continue;
      const key: CaptureKey = { component: capture.component, look: capture.look, environment: capture.environment, capture: capture.name };
      const before = store.decisions.about(key, capture.hash, capture.markup);
      const current = store.decisions.baseline(key);
      // A file that somebody has lost or spoilt meanwhile is written again.
      const kept = folder === null || holdsBaseline(root, folder, key, capture.hash);
      const same = kept && current?.hash === capture.hash && current.markup === capture.markup;
      if (request.kind === 'approve' ? same && before?.kind !== 'reject' : before?.kind === 'reject') {
        outcome.already++;
        continue;
      }
      if (request.kind === 'reject' && capture.state === 'same') continue;
      if (request.kind === 'approve' && folder !== null) writeFiles(store, root, folder, capture, who, request.why ?? null);
      store.decisions.add({
        ...key,
        who,
        kind: request.kind,
        why: request.why ?? null,
        run: capture.run,
        hash: capture.hash,
        markup: capture.markup,
        fingerprint: capture.fingerprint,
        commit,
      });
      outcome.decided.push(key);
    }
  }
  outcome.unfinished = [...new Set(outcome.unfinished)];
  return outcome;
}

function writeFiles(
  store: Store,
  root: string,
  folder: string,
  capture: { component: string; look: string; environment: string; name: string; hash: string; markup: string; fingerprint: string; run: number },
  who: string,
  why: string | null,
): void {
  const png = store.blobs.get(capture.hash)!.bytes;
  const markup = JSON.parse(store.blobs.get(capture.markup)!.bytes.toString('utf8')) as string[];
  writeBaseline(
    root,
    folder,
    {
      format: 1,
      component: capture.component,
      look: capture.look,
      environment: capture.environment,
      capture: capture.name,
      width: png.readUInt32BE(16),
      height: png.readUInt32BE(20),
      sha256: capture.hash,
      fingerprint: capture.fingerprint,
      approved: { by: who, at: new Date().toISOString(), why, run: capture.run },
      markup,
    },
    png,
  );
}
