/** Which files of a project are look files. */
import { sep } from 'node:path';
import { glob } from 'tinyglobby';
import { componentOf } from '../core/look/look.ts';
import { type Problem, problem } from '../core/problem/problem.ts';
import type { Settings } from '../core/settings/config.ts';

/** The look files of a project, relative to its root, in a stable order. */
export async function findLookFiles(root: string, { looks, baselines }: Settings): Promise<string[]> {
  const aside = ['**/node_modules', '**/dist', '**/.sguardo', ...(baselines === null ? [] : [baselines])];
  const files = await glob(looks, { cwd: root, ignore: aside.map((folder) => `${folder}/**`) });
  return files.map((file) => file.split(sep).join('/')).sort();
}

/** A look file of which nothing can be built, and why. */
export type UnusableFile = { file: string; problem: Problem };

/**
 * Look files that describe one component, as `X.look.tsx` and `X.look.jsx`: their looks would share names and
 * baselines.
 */
export function twinsAmong(files: readonly string[]): UnusableFile[] {
  return files.flatMap((file) => {
    const other = files.find((one) => one !== file && componentOf(one) === componentOf(file));
    return other === undefined ? [] : [{ file, problem: problem('looks-twice', { file, other }) }];
  });
}
