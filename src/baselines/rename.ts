/** A look gets another name: its baselines and everything that was decided about it go with it. */
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import type { LookName } from '../core/look/look.ts';
import type { Store } from '../store/index.ts';
import { readFolder } from './folder.ts';
import { carryOutTogether } from './journal.ts';
import { baselinePath } from './paths.ts';

const endings = ['.png', '.moment', '.json'];

/**
 * Renames a look in the folder of baselines and in the records, whole or not at all; what files hold stays as it is.
 * Returns the paths of pictures in the folder that have moved, relative to it. The look file is not touched.
 * @throws ProblemError `disk-full`, `disk-read-only`, `disk-failed`
 */
export function renameLook(store: Store, root: string, folder: string | null, from: LookName, to: string): string[] {
  const record = (): void => store.together(() => store.rename(from, to));
  if (folder === null) {
    record();
    return [];
  }
  const home = join(root, folder);
  const own = readFolder(root, folder).contents.baselines.filter(
    ({ key }) => key.component === from.component && key.look === from.look,
  );
  const writes = new Map<string, () => Buffer | string>();
  const removals: string[] = [];
  const moved: string[] = [];
  for (const { key, file, family } of own) {
    const before = file.slice(folder.replace(/\/$/, '').length + 1).replace(/\.png$/, '');
    const after = baselinePath({ ...key, look: to }, family);
    if (before === after) continue;
    for (const ending of endings) {
      const path = join(home, before + ending);
      writes.set(after + ending, () =>
        ending === '.json' ? renamed(readFileSync(path, 'utf8'), to) : readFileSync(path),
      );
      removals.push(before + ending);
    }
    moved.push(`${after}.png`);
  }
  carryOutTogether(home, { writes, removals }, record);
  return moved;
}

/** A description with another name of its look, everything else in its place. */
function renamed(description: string, look: string): string {
  const value = { ...(JSON.parse(description) as object), look };
  const indent = /\n( +|\t)"/.exec(description)?.[1];
  return `${JSON.stringify(value, null, indent)}${description.endsWith('\n') ? '\n' : ''}`;
}
