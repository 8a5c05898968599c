/** The baselines as open files in the project: picture, description and moment of each capture. */
import { readdirSync, realpathSync, rmSync, statSync } from 'node:fs';
import { basename, join, sep } from 'node:path';
import { type CaptureKey, type FolderBaseline, keyText, type KnownBaseline } from '../core/baseline/baseline.ts';
import { diskProblem, onDisk } from '../core/problem/disk.ts';
import { fail, messageOf, problem, type Problem, ProblemError } from '../core/problem/problem.ts';
import { type BaselineContent, readBaseline } from './files.ts';
import { isLeftover, recover } from './journal.ts';
import { sharedFolder } from './paths.ts';

/** A file that cannot be used; `key` where it is known which capture it belongs to. */
export type UnreadableFile = { file: string; key: CaptureKey | null; problem: Problem };

export type FolderContents = { baselines: FolderBaseline[]; unreadable: UnreadableFile[] };

/**
 * Paths of the descriptions below a folder, through links, none of them twice; what killed writes have left is removed
 * on the way. `real` is where the folder is without links.
 */
function* descriptions(folder: string, real = realpathSync(folder), seen: Set<string> = new Set()): Generator<string> {
  if (seen.has(real)) return;
  seen.add(real);
  const isTop = seen.size === 1;
  const found: { path: string; real: string | null }[] = [];
  for (const entry of readdirSync(folder, { withFileTypes: true })) {
    const { name } = entry;
    const path = `${folder}${sep}${name}`;
    const isLink = entry.isSymbolicLink();
    const isFolder = isLink ? statSync(path, { throwIfNoEntry: false })?.isDirectory() : entry.isDirectory();
    if (isFolder) {
      if (!isTop || name !== sharedFolder) found.push({ path, real: isLink ? realpathSync(path) : real + sep + name });
    } else if (isLeftover(name)) rmSync(path, { force: true });
    else if (name.endsWith('.json') && !name.startsWith('.')) found.push({ path, real: null });
  }
  for (const one of found.sort((a, b) => (a.path < b.path ? -1 : 1)))
    if (one.real === null) yield one.path;
    else yield* descriptions(one.path, one.real, seen);
}

/** What is remembered of a folder that was read before. */
export type FolderCache = {
  /** By the path of the description, relative to the project. */
  known: Map<string, KnownBaseline>;
  /** Everything that was read last, and what came of it: the same value for as long as nothing changes. */
  last: { all: FolderBaseline[]; contents: FolderContents } | null;
};

export const emptyCache = (): FolderCache => ({ known: new Map(), last: null });

/** A file that was written so lately could be written again without its time changing, in milliseconds. */
const justNow = 100;

const endings = ['.json', '.png', '.moment'];

/** Sizes, times and places on the disk of a baseline's files; null when one was written only now. */
function stampOf(path: string): number[] | null {
  const stem = path.slice(0, -'.json'.length);
  const before = Date.now() - justNow;
  const stamp: number[] = [];
  for (const ending of endings) {
    const about = statSync(stem + ending, { throwIfNoEntry: false });
    if (about && about.mtimeMs > before) return null;
    stamp.push(about?.size ?? -1, about?.mtimeMs ?? -1, about?.ino ?? -1);
  }
  return stamp;
}

const isEqual = (a: readonly number[], b: readonly number[]): boolean => a.every((one, i) => one === b[i]);

/** What came of reading a folder. */
export type FolderRead = {
  contents: FolderContents;
  /** What the baselines hold that were read just now. */
  fresh: Map<FolderBaseline, BaselineContent>;
  /** What has changed in the cache: null for what is gone from it. */
  changed: Map<string, KnownBaseline | null>;
};

/**
 * Reads every baseline of a folder, but for those that are as they were when they went into the cache. What cannot be
 * used is told, and keeps nothing else from being read.
 */
export function readFolder(root: string, folder: string, cache = emptyCache()): FolderRead {
  const found: FolderContents = { baselines: [], unreadable: [] };
  const fresh: FolderRead['fresh'] = new Map();
  const changed: FolderRead['changed'] = new Map();
  const seen = new Set<string>();
  const home = join(root, folder);
  for (const path of descriptionsIn(home, folder)) {
    const file = path.slice(root.length + 1).replaceAll(sep, '/');
    let key: CaptureKey | null = null;
    try {
      const stamp = stampOf(path);
      const before = cache.known.get(file);
      if (before && stamp && isEqual(before.stamp, stamp)) {
        seen.add(file);
        found.baselines.push(before.baseline);
        continue;
      }
      const { baseline, content } = readBaseline(root, path, (known) => {
        key = known;
      });
      found.baselines.push(baseline);
      fresh.set(baseline, content);
      if (!stamp) continue;
      seen.add(file);
      changed.set(file, { stamp, baseline });
    } catch (error) {
      const wrong =
        error instanceof ProblemError
          ? error.problem
          : (diskProblem(error, path) ??
            problem('baseline-unreadable', { file: basename(path), error: messageOf(error) }));
      found.unreadable.push({ file, key, problem: wrong });
    }
  }
  for (const file of cache.known.keys()) if (!seen.has(file)) changed.set(file, null);
  return { contents: remember(cache, found, changed), fresh, changed };
}

/** The paths of all descriptions, once a write that was cut off has been made whole; none without a folder. */
export function descriptionsIn(home: string, folder: string): string[] {
  const about = onDisk(home, () => statSync(home, { throwIfNoEntry: false }));
  if (!about) return [];
  if (!about.isDirectory()) return fail('baselines-not-folder', { folder });
  onDisk(home, () => recover(home));
  return onDisk(home, () => [...descriptions(home)]);
}

/** Brings a cache up to date. A folder that is as it was before comes to the same value as before. */
function remember(cache: FolderCache, found: FolderContents, changed: FolderRead['changed']): FolderContents {
  for (const [file, known] of changed) {
    if (known) cache.known.set(file, known);
    else cache.known.delete(file);
  }
  const all = found.baselines;
  const { last } = cache;
  const isSame = found.unreadable.length === 0 && last?.all.length === all.length;
  if (isSame && all.every((one, i) => one === last.all[i])) return last.contents;
  const contents = withoutTwins(found);
  cache.last = found.unreadable.length === 0 ? { all, contents } : null;
  return contents;
}

/** Two descriptions of one capture: nobody can tell which of them was meant. */
function withoutTwins({ baselines, unreadable }: FolderContents): FolderContents {
  const byKey = new Map<string, FolderBaseline[]>();
  for (const baseline of baselines) {
    const text = keyText(baseline.key) + (baseline.family ?? '');
    byKey.set(text, [...(byKey.get(text) ?? []), baseline]);
  }
  const twins = [...byKey.values()].filter((same) => same.length > 1);
  return {
    baselines: [...byKey.values()].flatMap((same) => (same.length === 1 ? same : [])),
    unreadable: [
      ...unreadable,
      ...twins.map(([one, other]) => ({
        file: one!.file,
        key: one!.key,
        problem: problem('baseline-twice', { file: one!.file, other: other!.file }),
      })),
    ],
  };
}
