/** What git knows of a project. */
import { execFileSync } from 'node:child_process';
import { userInfo } from 'node:os';

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

/**
 * Paths, relative to the project, of files that differ from where the project's present state and a commit, branch or
 * tag part, uncommitted and untracked ones among them; null when git knows no such thing.
 */
export function changedSince(root: string, since: string): string[] | null {
  const base = git(root, 'merge-base', '--end-of-options', since, 'HEAD');
  if (base === null) return null;
  const lines = (text: string | null): string[] => text?.split('\0').filter(Boolean) ?? [];
  const committed = git(root, 'diff', '--name-only', '--no-renames', '--relative', '-z', base);
  return [...lines(committed), ...lines(git(root, 'ls-files', '--others', '--exclude-standard', '-z'))];
}
