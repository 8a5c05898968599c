/** The project's sources as they were at a run, and what of them has been edited since. */
import { readFileSync, statSync } from 'node:fs';
import { join } from 'node:path';
import { blame, changedSince, textAt } from '../baselines/git.ts';
import type { FoundHunk } from '../core/cause/found.ts';
import { type FileEdit, type Hunk, hunksOf } from '../core/cause/hunks.ts';
import { hashOf, type Store } from '../store/index.ts';
import { isSource } from '../work/index.ts';

/** Files larger than this are data and bundles, which nobody edits by hand. */
const largest = 1_000_000;

const isData = (file: string): boolean => /\.(png|jpe?g|gif|webp|avif|woff2?|ttf|otf|ico|mp4|webm)$/i.test(file);

export type Sources = {
  /** What a file of the project holds now; null where it is not there, or too large to be source. */
  textOf(file: string): string | null;
  /** Keeps the files behind the looks of a run, as they are now. */
  keep(run: number, files: readonly string[]): void;
  /**
   * The hunks in which files have been edited since a decision or a run; null when nobody knows what they were then.
   */
  edited(since: Since, files: readonly string[]): Hunk[] | null;
  /** A hunk with the commit that brought it. */
  withCommit(hunk: Hunk): FoundHunk;
};

/** A point in time: the sources that were kept then, or a commit of git. */
export type Since = { sources: string | null; commit: string | null };

/** Reads files of the project; each is read again only when it has changed. */
function reader(root: string): (file: string) => { text: string; hash: string } | null {
  const known = new Map<string, { stamp: string; read: { text: string; hash: string } }>();
  return (file) => {
    const path = join(root, file);
    const about = statSync(path, { throwIfNoEntry: false });
    if (!about?.isFile() || about.size > largest) return null;
    const stamp = `${about.mtimeMs} ${about.size}`;
    const before = known.get(file);
    if (before?.stamp === stamp) return before.read;
    const text = readFileSync(path, 'utf8');
    const read = { text, hash: hashOf(text) };
    known.set(file, { stamp, read });
    return read;
  };
}

export function sourcesOf(root: string, { blobs, runs }: Store): Sources {
  const read = reader(root);
  /** True for a file that somebody may have edited. */
  const isOwn = (file: string): boolean => isSource(root, file) && !isData(file);
  const kept = (hash: string): Record<string, string> | null => {
    const blob = blobs.get(hash);
    return blob && (JSON.parse(blob.bytes.toString('utf8')) as Record<string, string>);
  };
  const now = (file: string): string | null => read(file)?.text ?? null;
  const fromRecords = (hash: string, files: readonly string[]): FileEdit[] | null => {
    const then = kept(hash);
    return (
      then &&
      files.map((file) => ({
        file,
        before: blobs.get(then[file] ?? '')?.bytes.toString('utf8') ?? null,
        now: now(file),
      }))
    );
  };
  const fromGit = (commit: string, files: readonly string[]): FileEdit[] | null => {
    const changed = changedSince(root, commit);
    // What git ignores is in no commit.
    if (changed === null || !files.some((file) => textAt(root, commit, file) !== null)) return null;
    const wanted = new Set(files);
    return changed
      .filter((file) => wanted.has(file))
      .map((file) => ({ file, before: textAt(root, commit, file), now: now(file) }));
  };
  return {
    textOf: now,
    keep(run, files) {
      const hashes: Record<string, string> = {};
      for (const file of files.filter(isOwn)) {
        const found = read(file);
        if (!found) continue;
        if (!blobs.has(found.hash)) blobs.put(Buffer.from(found.text), 'text/plain');
        hashes[file] = found.hash;
      }
      runs.update(run, { sources: blobs.put(Buffer.from(JSON.stringify(hashes)), 'application/json') });
    },
    edited({ sources, commit }, files) {
      const own = files.filter(isOwn);
      const recorded = sources === null ? null : fromRecords(sources, own);
      const edits = recorded ?? (commit === null ? null : fromGit(commit, own));
      return edits?.filter(({ before, now: text }) => before !== text).flatMap(hunksOf) ?? null;
    },
    withCommit: (hunk) => ({ ...hunk, commit: blame(root, hunk) }),
  };
}
