/** Brings the folder of baselines and the records together at the start of a run: the folder wins. */
import { createHash } from 'node:crypto';
import { join } from 'node:path';
import {
  type Approved,
  type ApprovedMoment,
  type Baseline,
  type BaselineOf,
  type CaptureKey,
  type Conflicting,
  type FolderBaseline,
  keyText,
  type Unreadable,
} from '../core/baseline/baseline.ts';
import { type Problem, ProblemError } from '../core/problem/problem.ts';
import type { Settings } from '../core/settings/config.ts';
import type { Decision, Store } from '../store/index.ts';
import { type BaselineContent, readBaseline } from './files.ts';
import { type FolderCache, type FolderContents, type FolderRead, readFolder, type UnreadableFile } from './folder.ts';
import { commitOf } from './git.ts';
import type { Manifest } from './manifest.ts';
import { conflictsIn, keepSides, type MergeConflict } from './merge.ts';

/** What captures are compared with in one run. */
export type BaselineSet = {
  of: BaselineOf;
  /** What has been approved of a look, by capture. */
  approved(component: string, look: string, environment: string): Record<string, Approved>;
  /** A hash that is another one when anything that a look's captures are compared with has changed. */
  identity(component: string, look: string, environment: string): string;
  /** What could not be read. */
  unreadable: Problem[];
  /** Every baseline that there is, with the picture's file in the project. */
  files: { key: CaptureKey; file: string }[];
};

const digest = (text: string): string => createHash('sha256').update(text).digest('base64url');

/** What an earlier service has read of the folder: files that are as they were then are not read again. */
export const folderCacheOf = ({ baselineFiles }: Store): FolderCache => ({
  known: new Map(baselineFiles.all().map(({ file, ...known }) => [file, known])),
  last: null,
});

/** Takes a baseline of the folder into the records, unless they have it as the newest already. */
function adopt(
  { blobs, decisions }: Store,
  root: string,
  baseline: FolderBaseline,
  fresh: BaselineContent | undefined,
  commit: () => string | null,
): void {
  const { key, hash, markup, fingerprint, approved, file } = baseline;
  const description = file.replace(/png$/, 'json');
  const known = decisions.baseline(key);
  // The same picture of another browser is another baseline: an upgrade that was taken back, or not yet merged.
  const isNewest =
    known !== null && known.hash === hash && known.markup === markup && known.fingerprint === fingerprint;
  if (isNewest && blobs.has(hash) && blobs.has(markup)) return;
  const content = fresh ?? readBaseline(root, join(root, description)).content;
  blobs.keep(hash, content.png, 'image/png');
  blobs.put(Buffer.from(JSON.stringify(content.markup)), 'application/json');
  if (isNewest) return;
  decisions.add({
    ...key,
    who: approved?.by ?? 'unknown',
    kind: 'adopt',
    why: approved?.why ?? null,
    run: null,
    hash,
    markup,
    manifest: null,
    fingerprint,
    commit: commit(),
    branch: null,
    sources: null,
    batch: null,
    undoes: null,
    former: null,
    fixer: null,
    file: description,
  });
}

/** Brings the records up to date. Returns what could not be taken in, since it has changed meanwhile. */
function record(
  store: Store,
  root: string,
  { fresh, changed }: FolderRead,
  baselines: readonly FolderBaseline[],
): UnreadableFile[] {
  const wrong: UnreadableFile[] = [];
  let known: { commit: string | null } | null = null;
  const commit = (): string | null => {
    known ??= { commit: commitOf(root) };
    return known.commit;
  };
  store.together(() => {
    for (const [file, about] of changed) {
      if (about) store.baselineFiles.put({ file, ...about });
      else store.baselineFiles.remove(file);
    }
    for (const baseline of baselines) {
      try {
        adopt(store, root, baseline, fresh.get(baseline), commit);
      } catch (error) {
        if (!(error instanceof ProblemError)) throw error;
        wrong.push({ file: baseline.file, key: baseline.key, problem: error.problem });
      }
    }
  });
  return wrong;
}

/** Takes in what the folder has that the records do not, and answers for a run. */
export function takeInFolder(
  store: Store,
  root: string,
  { baselines: folder, family }: Pick<Settings, 'baselines' | 'family'>,
  cache: FolderCache,
): BaselineSet {
  if (folder === null) return fromRecords(store);
  const read = readFolder(root, folder, cache);
  const conflicts = conflictsIn(root, folder);
  const before = takenIn.get(read.contents);
  if (before && conflicts.length === 0 && before.family === family && before.decisions === store.decisions.last())
    return before.set;
  const isOpen = (file: string): boolean => conflicts.some(({ stem }) => file.startsWith(`${stem}.`));
  const baselines = nearest(read.contents.baselines, family).filter(({ file }) => !isOpen(file));
  const wrong = record(store, root, read, baselines);
  const unreadable = read.contents.unreadable.filter(({ file }) => !isOpen(file));
  const own = new Set(baselines.filter((one) => one.family === family).map(({ key }) => keyText(key)));
  // What is in conflict for other machines only does not matter where there is one for this one.
  const open = conflicts.filter((one) => one.family === family || !own.has(keyText(one.key)));
  const set = fromFolder(store, { baselines, unreadable: [...unreadable, ...wrong] }, open);
  if (wrong.length === 0 && conflicts.length === 0)
    takenIn.set(read.contents, { family, decisions: store.decisions.last(), set });
  return set;
}

/** What came of folders that were taken in, and the last decision then. */
const takenIn = new WeakMap<FolderContents, { family: string | null; decisions: number; set: BaselineSet }>();

const whenApproved = ({ approved }: FolderBaseline): string => approved?.at ?? '';

/**
 * One baseline for each capture: that of this family of machines, else the project's usual one, else of all others the
 * one that was approved last.
 */
function nearest(baselines: readonly FolderBaseline[], family: string | null): FolderBaseline[] {
  const rank = (one: FolderBaseline): number => (one.family === family ? 2 : one.family === null ? 1 : 0);
  const found = new Map<string, FolderBaseline>();
  for (const one of baselines) {
    const text = keyText(one.key);
    const other = found.get(text);
    const isNearer =
      !other || rank(one) > rank(other) || (rank(one) === rank(other) && whenApproved(one) > whenApproved(other));
    if (isNearer) found.set(text, one);
  }
  return [...found.values()];
}

const lookText = (component: string, look: string, environment: string): string =>
  JSON.stringify([component, look, environment]);

/** Baselines of a project that keeps them as files, which the records have taken in. */
function fromFolder(
  store: Store,
  { baselines, unreadable }: FolderContents,
  conflicts: readonly MergeConflict[],
): BaselineSet {
  const found = new Map<string, FolderBaseline | Unreadable | Conflicting>();
  const pictures = new Map<string, Record<string, Approved>>();
  const identities = new Map<string, string[]>();
  const hashes = new Map<string, string>();
  for (const baseline of baselines) {
    const { key, hash, markup, fingerprint, shows } = baseline;
    found.set(keyText(key), baseline);
    const look = lookText(key.component, key.look, key.environment);
    pictures.set(look, { ...pictures.get(look), [key.capture]: { picture: hash, fingerprint, shows } });
    const parts = [key.capture, hash, fingerprint, shows?.moment ?? markup];
    identities.set(look, [...(identities.get(look) ?? []), JSON.stringify(parts)]);
  }
  for (const { key, problem } of unreadable)
    if (key) {
      found.set(keyText(key), { unreadable: problem });
      identities.set(lookText(key.component, key.look, key.environment), [JSON.stringify(problem)]);
    }
  for (const one of conflicts) {
    const conflict = keepSides(store, one);
    const { component, look, environment } = one.key;
    found.set(keyText(one.key), { conflict });
    identities.set(lookText(component, look, environment), [JSON.stringify(conflict)]);
  }
  return {
    of(component, look, environment, capture) {
      const one = found.get(keyText({ component, look, environment, capture }));
      return one && 'hash' in one ? baselineIn(store, one, one.file) : (one ?? null);
    },
    approved: (component, look, environment) => pictures.get(lookText(component, look, environment)) ?? {},
    identity(component, look, environment) {
      const text = lookText(component, look, environment);
      const known = hashes.get(text) ?? digest((identities.get(text) ?? []).toSorted().join('\n'));
      hashes.set(text, known);
      return known;
    },
    unreadable: unreadable.map(({ problem }) => problem),
    files: baselines.map(({ key, file }) => ({ key, file })),
  };
}

/** The manifest of an approved capture; null for one of an older Sguardo. */
function manifestOf({ blobs }: Store, { manifest }: Decision): (ApprovedMoment & Pick<Manifest, 'allowances'>) | null {
  const kept = manifest && blobs.get(manifest);
  return kept ? JSON.parse(kept.bytes.toString('utf8')) : null;
}

/** Baselines of a project that keeps none as files. */
function fromRecords(store: Store): BaselineSet {
  return {
    unreadable: [],
    files: [],
    approved: (component, look, environment) =>
      Object.fromEntries(
        store.decisions.standing(component, look, environment).map((decision) => {
          const { capture, hash, fingerprint } = decision;
          return [capture, { picture: hash, fingerprint, shows: manifestOf(store, decision) }];
        }),
      ),
    identity: (component, look, environment) => digest(store.decisions.identityOf(component, look, environment)),
    of(component, look, environment, capture) {
      const decision = store.decisions.baseline({ component, look, environment, capture });
      if (!decision) return null;
      const shows = manifestOf(store, decision);
      return baselineIn(store, { ...decision, shows, allowances: shows?.allowances }, null);
    },
  };
}

type Kept = Pick<FolderBaseline, 'hash' | 'markup' | 'fingerprint' | 'shows'> &
  Partial<Pick<FolderBaseline, 'allowances'>>;

/** What a capture is compared with, out of the records. */
function baselineIn(
  { blobs }: Store,
  { hash, markup, fingerprint, shows, allowances = [] }: Kept,
  file: string | null,
): Baseline | null {
  const png = blobs.get(hash);
  const lines = blobs.get(markup);
  if (!png || !lines) return null;
  return {
    png: png.bytes,
    hash,
    fingerprint,
    allowances,
    moment: shows?.moment ?? null,
    markup: JSON.parse(lines.bytes.toString('utf8')) as string[],
    file,
  };
}
