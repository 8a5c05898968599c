/** What git knows of a project. */
import { execFileSync } from 'node:child_process';
import { userInfo } from 'node:os';
import { isAbsolute, posix } from 'node:path';
import type { HunkCommit } from '../core/cause/found.ts';
import type { Hunk } from '../core/cause/hunks.ts';

const git = (root: string, ...args: string[]): string | null => {
  try {
    const said = execFileSync('git', ['-C', root, ...args], {
      encoding: 'utf8',
      stdio: ['ignore', 'pipe', 'ignore'],
      timeout: 10_000,
    });
    return said.trim() || null;
  } catch {
    return null;
  }
};

/** The commit that a project is at, or null outside git. */
export const commitOf = (root: string): string | null => git(root, 'rev-parse', '--short', 'HEAD');

/** Where git has a project: its commit and branch, null outside git; no branch where none is checked out. */
export const whereaboutsOf = (root: string): { commit: string | null; branch: string | null } => ({
  commit: commitOf(root),
  branch: git(root, 'symbolic-ref', '--short', '-q', 'HEAD'),
});

/** Who decides when nobody says: git's name for the person, or the account. */
export function personOf(root: string): string {
  const name = git(root, 'config', 'user.name');
  if (name) return name;
  try {
    return userInfo().username;
  } catch {
    return 'unknown';
  }
}

/** Where a project is in its repository: `apps/office/`; empty at its top, null outside git. */
function placeIn(root: string): string | null {
  if (git(root, 'rev-parse', '--is-inside-work-tree') === null) return null;
  return git(root, 'rev-parse', '--show-prefix') ?? '';
}

/**
 * Paths from the project of files that differ from where the project's present state and a commit, branch or tag part,
 * uncommitted and untracked ones and those of the rest of the repository among them; null when git knows no such thing.
 */
export function changedSince(root: string, since: string): string[] | null {
  const base = git(root, 'merge-base', '--end-of-options', since, 'HEAD');
  const place = placeIn(root);
  if (base === null || place === null) return null;
  const lines = (text: string | null): string[] => text?.split('\0').filter(Boolean) ?? [];
  const committed = lines(git(root, 'diff', '--name-only', '--no-renames', '-z', base));
  const others = lines(git(root, 'ls-files', '--others', '--exclude-standard', '--full-name', '-z', ':/'));
  return [...committed, ...others].map((path) => posix.relative(place, path));
}

/** The text of a file at a commit; null where it was not there. */
export function textAt(root: string, commit: string, file: string): string | null {
  try {
    const args = ['-C', root, 'show', '--end-of-options', `${commit}:./${file}`];
    const stdio = ['ignore', 'pipe', 'ignore'] as ['ignore', 'pipe', 'ignore'];
    return execFileSync('git', args, { encoding: 'utf8', stdio, timeout: 10_000, maxBuffer: 32 * 1024 * 1024 });
  } catch {
    return null;
  }
}

/** The commit that brought the newest of some lines; null where they are not committed, or none of git's. */
export function blame(root: string, { file, line, added }: Hunk): HunkCommit | null {
  // Where lines were only taken away, nobody is left to ask but the file.
  if (added.length === 0) return null;
  const range = `${line},${line + added.length - 1}`;
  const said = git(root, 'blame', '--line-porcelain', '-L', range, '--', file);
  if (said === null) return null;
  const lines = said.split(/\n\t.*(?:\n|$)/).filter(Boolean);
  const commits = lines.map((block) => {
    const value = (name: string): string => new RegExp(`^${name} (.*)$`, 'm').exec(block)?.[1] ?? '';
    const id = /^[0-9a-f]{40}/.exec(block)?.[0] ?? '';
    return { id, author: value('author'), time: Number(value('author-time')), summary: value('summary') };
  });
  const newest = commits.sort((one, other) => other.time - one.time)[0];
  if (!newest || commits.some(({ id }) => /^0+$/.test(id))) return null;
  const { id, author, time, summary } = newest;
  return { id: id.slice(0, 9), author, at: new Date(time * 1000).toISOString(), summary };
}

/** So many commits are told. */
const mostCommits = 20;

/** The commits since one that touch any of these files, the newest first. */
export function commitsBetween(root: string, since: string, files: readonly string[]): HunkCommit[] {
  const place = placeIn(root) ?? '';
  // Git refuses what lies outside the repository.
  const own = files.filter((file) => !isAbsolute(file) && !posix.join(place, file).startsWith('..'));
  const format = '--format=%h%x00%an%x00%aI%x00%s';
  const said = git(root, 'log', `-${mostCommits}`, format, `${since}..HEAD`, '--', ...own);
  return (said ?? '')
    .split('\n')
    .filter(Boolean)
    .map((line) => {
      const [id = '', author = '', at = '', summary = ''] = line.split('\0');
      return { id, author, at, summary };
    });
}

/** A file that a merge has left in conflict: the objects of base (1), ours (2) and theirs (3), as far as there are. */
export type Unmerged = { path: string; stages: Partial<Record<1 | 2 | 3, string>> };

/** The files below a folder, relative to the project, that a merge has left in conflict. */
export function unmergedIn(root: string, folder: string): Unmerged[] {
  const files = new Map<string, Unmerged>();
  for (const line of (git(root, 'ls-files', '--unmerged', '-z', '--', folder) ?? '').split('\0').filter(Boolean)) {
    const [about = '', path = ''] = line.split('\t');
    const [, object = '', stage = ''] = about.split(' ');
    const file = files.get(path) ?? { path, stages: {} };
    file.stages[Number(stage) as 1 | 2 | 3] = object;
    files.set(path, file);
  }
  return [...files.values()];
}

/** What git calls a file at a commit. */
export const fileIn = (commit: string, file: string): string => `${commit}:./${file}`;

/** So many objects are read by one process of git. */
const batch = 500;

/** Takes apart what `git cat-file --batch` says: a line about each object, its bytes, and a line feed. */
function objectsIn(said: Buffer, names: readonly string[]): [name: string, bytes: Buffer][] {
  let at = 0;
  return names.flatMap((name): [string, Buffer][] => {
    const end = said.indexOf(10, at);
    const size = / (\d+)$/.exec(said.toString('utf8', at, end))?.[1];
    at = end + 1;
    // Of what is not there nothing follows.
    if (size === undefined) return [];
    const bytes = said.subarray(at, at + Number(size));
    at += bytes.length + 1;
    return [[name, bytes]];
  });
}

/** The bytes of objects by their names, a hash or {@link fileIn}; those that are not there are missing. */
export function objectsAt(root: string, names: readonly string[]): Map<string, Buffer> {
  const found = new Map<string, Buffer>();
  // A name is a line.
  const wanted = [...new Set(names)].filter((name) => !name.includes('\n'));
  for (let first = 0; first < wanted.length; first += batch) {
    const some = wanted.slice(first, first + batch);
    try {
      const input = some.map((name) => `${name}\n`).join('');
      const stdio = ['pipe', 'pipe', 'ignore'] as ['pipe', 'pipe', 'ignore'];
      const options = { input, stdio, timeout: 60_000, maxBuffer: Number.POSITIVE_INFINITY };
      const said = execFileSync('git', ['-C', root, 'cat-file', '--batch'], options);
      for (const [name, bytes] of objectsIn(said, some)) found.set(name, bytes);
    } catch {
      // Without git there is nothing to choose.
    }
  }
  return found;
}

/** The commits of a merge that goes on, and what they are called. */
export type MergeHeads = Record<'base' | 'ours' | 'theirs', string | null> & {
  names: Record<'base' | 'ours' | 'theirs', string>;
};

/** The commits of a merge, rebase or cherry-pick that goes on, and what they are called. */
export function mergeHeads(root: string): MergeHeads {
  const heads = ['MERGE_HEAD', 'REBASE_HEAD', 'CHERRY_PICK_HEAD', 'REVERT_HEAD'];
  const commit = (name: string): string | null => git(root, 'rev-parse', '--verify', '--quiet', `${name}^{commit}`);
  const theirs = heads.map(commit).find((one) => one !== null) ?? null;
  const called = (one: string | null): string =>
    (one && git(root, 'name-rev', '--name-only', '--refs=refs/heads/*', '--no-undefined', one)) ??
    one?.slice(0, 9) ??
    '';
  const names = {
    base: '',
    ours: whereaboutsOf(root).branch ?? called(commit('HEAD')),
    theirs: called(theirs),
  };
  return { ours: commit('HEAD'), theirs, base: theirs && git(root, 'merge-base', 'HEAD', theirs), names };
}

/** Tells git that conflicts in some files, relative to the project, are open again. (It takes no `--` before them.) */
export function markOpen(root: string, files: readonly string[]): void {
  if (files.length > 0) git(root, 'update-index', '--unresolve', ...files);
}

/** Tells git that conflicts in some files, relative to the project, are settled. */
export function markSettled(root: string, files: readonly string[]): void {
  const open = new Set(unmergedIn(root, '.').map(({ path }) => path));
  const settled = files.filter((file) => open.has(file));
  if (settled.length > 0) git(root, 'add', '--', ...settled);
}
