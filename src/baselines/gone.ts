/** Baselines whose look is gone: reported by a run, and removed by a command that shows them first. */
import { existsSync, rmdirSync } from 'node:fs';
import { dirname, join } from 'node:path';
import type { CaptureKey } from '../core/baseline/baseline.ts';
import type { Store } from '../store/index.ts';
import { readFolder } from './folder.ts';
import { removeBaselines } from './write.ts';

/** A baseline of a look that there is no more; `file` is the picture, relative to the project. */
export type GoneBaseline = { key: CaptureKey; file: string };

/**
 * Baselines whose look file, look or environment is not there any more. Files that could not be opened lately declare
 * nothing, so their baselines stay.
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
    return looks === undefined ? !store.catalogue.hasComponent(key.component) : !looks.has(key.look);
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
  removeBaselines(root, folder, all);
  for (const { file } of gone) removeEmpty(join(root, folder), dirname(join(root, file)));
  return gone;
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
