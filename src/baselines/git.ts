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
