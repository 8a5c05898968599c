/** The baselines as open files in the project: picture, description and moment of each capture. */
import { createHash } from 'node:crypto';
import { type Dirent, readdirSync, readFileSync, realpathSync, rmSync, statSync } from 'node:fs';
import { basename, join, relative, sep } from 'node:path';
import { type CaptureKey, keyText } from '../core/baseline/baseline.ts';
import { type CanonicalMoment, elementsOf } from '../core/moment/canonical.ts';
import { markupLines } from '../core/moment/markup.ts';
import { diskProblem, onDisk } from '../core/problem/disk.ts';
import { fail, messageOf, problem, type Problem, ProblemError } from '../core/problem/problem.ts';
import { isLeftover, recover } from './journal.ts';
import { type Manifest, parseManifest } from './manifest.ts';
import { sharedFolder } from './paths.ts';
import { takenHash } from './taken.ts';

export type FolderBaseline = {
  key: CaptureKey;
  about: ReturnType<typeof parseManifest>;
  png: Buffer;
  /** SHA-256 of the picture as it was taken: the file may show it in fewer bytes. */
  hash: string;
  markup: string[];
  /** Canonical form of its moment; null for format 1, which does not keep it. */
  moment: CanonicalMoment | null;
  /** The picture, relative to the project. */
  file: string;
};

/** A file that cannot be used; `key` where it is known which capture it belongs to. */
export type UnreadableFile = { file: string; key: CaptureKey | null; problem: Problem };

export type FolderContents = { baselines: FolderBaseline[]; unreadable: UnreadableFile[] };

const sha256 = (bytes: Uint8Array | string): string => createHash('sha256').update(bytes).digest('hex');

/**
 * Descriptions below a folder, through links, none of them twice; what killed writes have left is removed on the way.
 */
function* descriptions(folder: string, seen: Set<string> = new Set()): Generator<string> {
  const real = realpathSync(folder);
  if (seen.has(real)) return;
  seen.add(real);
  const byName = (a: Dirent, b: Dirent): number => (a.name < b.name ? -1 : 1);
  for (const entry of readdirSync(folder, { withFileTypes: true }).sort(byName)) {
    const path = join(folder, entry.name);
    const isFolder = entry.isSymbolicLink()
      ? statSync(path, { throwIfNoEntry: false })?.isDirectory()
      : entry.isDirectory();
    if (isFolder && !(seen.size === 1 && entry.name === sharedFolder)) yield* descriptions(path, seen);
    else if (isFolder) continue;
    else if (isLeftover(entry.name)) rmSync(path, { force: true });
    else if (entry.name.endsWith('.json') && !entry.name.startsWith('.')) yield path;
  }
}

/** Why bytes are no whole PNG, or null: signature at the start, IEND chunk at the end. */
function wrongPng(png: Buffer): string | null {
  if (png.length < 57 || png.readUInt32BE(0) !== 0x89504e47)
    return png.subarray(0, 40).includes('git-lfs')
      ? 'it is a pointer to a large file; fetch the file itself'
      : 'it does not begin like a PNG';
  return png.subarray(-8, -4).toString('latin1') === 'IEND' ? null : 'it ends in the middle';
}

/** The moment beside a description of format 2. @throws ProblemError `baseline-unreadable`, `baseline-torn` */
function readMoment(path: string, shown: string, { moment: wanted }: Manifest): CanonicalMoment {
  let moment: CanonicalMoment;
  try {
    moment = JSON.parse(readFileSync(path, 'utf8')) as CanonicalMoment;
    // It comes from a file that anybody may have written.
    for (const element of elementsOf(moment.root))
      if (typeof element.tag !== 'string') throw new Error('it is not a moment');
  } catch (error) {
    return fail('baseline-unreadable', { file: shown, error: messageOf(error) });
  }
  return sha256(JSON.stringify(moment)) === wanted ? moment : fail('baseline-torn', { file: shown });
}

function readOne(root: string, path: string, keyKnown: (key: CaptureKey) => void): FolderBaseline {
  const named = (ending: string): { path: string; shown: string } => {
    const full = path.replace(/\.json$/, ending);
    return { path: full, shown: relative(root, full).split(sep).join('/') };
  };
  let about: ReturnType<typeof parseManifest>;
  try {
    about = parseManifest(readFileSync(path, 'utf8'));
  } catch (error) {
    return fail('baseline-unreadable', { file: named('.json').shown, error: messageOf(error) });
  }
  const { component, look, environment, capture } = about;
  const key = { component, look, environment, capture };
  keyKnown(key);
  const picture = named('.png');
  let png: Buffer;
  try {
    png = readFileSync(picture.path);
  } catch (error) {
    const missing = (error as { code?: string }).code === 'ENOENT';
    return fail('baseline-corrupt', {
      file: picture.shown,
      error: missing ? 'there is no such file' : messageOf(error),
    });
  }
  const wrong = wrongPng(png);
  if (wrong) fail('baseline-corrupt', { file: picture.shown, error: wrong });
  const hash = sha256(png);
  const wanted = about.format === 2 ? about.picture : about.sha256;
  if (wanted !== undefined && wanted !== hash) fail('baseline-torn', { file: picture.shown });
  const kept = named('.moment');
  const moment = about.format === 2 ? readMoment(kept.path, kept.shown, about) : null;
  const markup = moment ? markupLines(moment) : (about as { markup: string[] }).markup;
  return { key, about, png, hash: takenHash(png) ?? hash, markup, moment, file: picture.shown };
}

/** What is remembered of a folder that was read before. */
export type FolderCache = {
  /** Baselines by the path of their description, with the sizes and times of their files then. */
  read: Map<string, { stamp: string; baseline: FolderBaseline }>;
  /** Everything that was read last, and what came of it: the same value for as long as nothing changes. */
  last: { all: FolderBaseline[]; contents: FolderContents } | null;
};

export const emptyCache = (): FolderCache => ({ read: new Map(), last: null });

/** A file that was written so lately could be written again without its time changing, in milliseconds. */
const fresh = 100;

/** Sizes and times of a baseline's files; null when one was written only now. */
function stampOf(path: string): string | null {
  const stem = path.slice(0, -'.json'.length);
  const before = Date.now() - fresh;
  let stamp = '';
  for (const ending of ['.json', '.png', '.moment']) {
    const about = statSync(stem + ending, { throwIfNoEntry: false });
    if (about && about.mtimeMs > before) return null;
    stamp += about ? `${about.size} ${about.mtimeMs} ${about.ino},` : 'none,';
  }
  return stamp;
}

/**
 * Reads every baseline of a folder, but for those that are as they were when they went into the cache. What cannot be
 * used is told, and keeps nothing else from being read.
 */
export function readFolder(root: string, folder: string, cache = emptyCache()): FolderContents {
  const contents: FolderContents = { baselines: [], unreadable: [] };
  const home = join(root, folder);
  const about = onDisk(home, () => statSync(home, { throwIfNoEntry: false }));
  if (!about) return contents;
  if (!about.isDirectory()) return fail('baselines-not-folder', { folder });
  onDisk(home, () => recover(home));
  for (const path of onDisk(home, () => [...descriptions(home)])) {
    let key: CaptureKey | null = null;
    try {
      const stamp = stampOf(path);
      const before = cache.read.get(path);
      if (before && before.stamp === stamp) {
        contents.baselines.push(before.baseline);
        continue;
      }
      const baseline = readOne(root, path, (known) => {
        key = known;
      });
      if (stamp) cache.read.set(path, { stamp, baseline });
      contents.baselines.push(baseline);
    } catch (error) {
      const wrong =
        error instanceof ProblemError
          ? error.problem
          : (diskProblem(error, path) ??
            problem('baseline-unreadable', { file: basename(path), error: messageOf(error) }));
      contents.unreadable.push({ file: relative(root, path).split(sep).join('/'), key, problem: wrong });
    }
  }
  const all = contents.baselines;
  const { last } = cache;
  const isSame = contents.unreadable.length === 0 && last?.all.length === all.length;
  if (isSame && all.every((one, i) => one === last.all[i])) return last.contents;
  const told = withoutTwins(contents);
  cache.last = contents.unreadable.length === 0 ? { all, contents: told } : null;
  return told;
}

/** Two descriptions of one capture: nobody can tell which of them was meant. */
function withoutTwins({ baselines, unreadable }: FolderContents): FolderContents {
  const byKey = new Map<string, FolderBaseline[]>();
  for (const baseline of baselines) {
    const text = keyText(baseline.key);
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
