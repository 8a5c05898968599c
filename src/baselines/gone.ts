/**
 * Baselines whose look is gone, reported by a run, and what baselines shared and none does any more: both are removed
 * by a command that shows them first.
 */
import { existsSync, readdirSync, readFileSync, rmdirSync } from 'node:fs';
import { dirname, join } from 'node:path';
import type { CaptureKey } from '../core/baseline/baseline.ts';
import { isFor } from '../core/look/pattern.ts';
import type { Store } from '../store/index.ts';
import { descriptionsIn, readFolder } from './folder.ts';
import { sharedFolder } from './paths.ts';
import { removeFiles } from './write.ts';

/** A baseline of a look that there is no more; `file` is the picture, relative to the project. */
export type GoneBaseline = { key: CaptureKey; file: string };

/**
 * Baselines whose look file, look or environment is not there any more, or whose look is not for that any more. Files
 * that could not be opened lately declare nothing, so their baselines stay.
 */
export function goneAmong(
  store: Store,
  files: readonly GoneBaseline[],
  environments: readonly string[],
): GoneBaseline[] {
  const declared = store.catalogue.all();
  return files.filter(({ key }) => {
    const looks = declared.get(key.component);
    if (!environments.includes(key.environment)) return true;
    if (looks === undefined) return !store.catalogue.hasComponent(key.component);
    const look = looks.get(key.look);
    return look === undefined || !isFor(look, key.environment);
  });
}

/** Removes gone baselines from the folder; returns those that it removed. */
export function removeGone(
  store: Store,
  root: string,
  folder: string,
  environments: readonly string[],
): GoneBaseline[] {
  const files = readFolder(root, folder).contents.baselines.map(({ key, file }) => ({ key, file }));
  const gone = goneAmong(store, files, environments);
  const inFolder = (file: string): string => file.slice(folder.replace(/\/$/, '').length + 1);
  const all = gone.flatMap(({ file }) =>
    ['.png', '.json', '.moment'].map((end) => inFolder(file.replace(/\.png$/, end))),
  );
  removeFiles(root, folder, all);
  for (const { file } of gone) removeEmpty(join(root, folder), dirname(join(root, file)));
  return gone;
}

/**
 * Files that baselines have shared, and that none refers to any more; relative to the folder. They are called after
 * their content. A description counts with all that stands in it, so that both sides of a merge that is in conflict
 * keep theirs.
 * @throws ProblemError `baselines-not-folder`, `disk-failed`
 */
export function unsharedIn(root: string, folder: string): string[] {
  const home = join(root, folder);
  const shared = join(home, sharedFolder);
  if (!existsSync(shared)) return [];
  const hashesIn = (path: string): string[] => readFileSync(path, 'utf8').match(/[0-9a-f]{64}/g) ?? [];
  const wanted = new Set(descriptionsIn(home, folder).flatMap(hashesIn));
  return readdirSync(shared)
    .filter((name) => /^[0-9a-f]{64}/.test(name) && !wanted.has(name.slice(0, 64)))
    .map((name) => `${sharedFolder}/${name}`);
}

/** Removes folders that nothing is left in, up to the folder of baselines. */
function removeEmpty(home: string, folder: string): void {
  for (let at = folder; at !== home && at.startsWith(home) && existsSync(at); at = dirname(at)) {
    try {
      rmdirSync(at);
    } catch {
      return;
    }
  }
}
