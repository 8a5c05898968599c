/** What the service of a project holds on to: its folder of records, of which nobody else may have hold meanwhile. */
import { chmodSync, mkdirSync, writeFileSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { onDisk } from '../core/problem/disk.ts';
import { fail } from '../core/problem/problem.ts';
import { openStore, type Store, takeLock } from '../store/index.ts';
import { readConfig } from '../work/index.ts';

/** The project's folder of records, which nobody but its owner may look into. */
function prepareFolder(root: string): string {
  const folder = join(root, '.sguardo');
  onDisk(folder, () => {
    mkdirSync(folder, { recursive: true, mode: 0o700 });
    chmodSync(folder, 0o700);
    writeFileSync(join(folder, '.gitignore'), '*\n');
  });
  return folder;
}

/** What the service of a project holds on to, and gives back when it ends. */
export type Held = { root: string; config: string; folder: string; store: Store; lock: { release(): void } };

/** @throws ProblemError when the configuration or the records cannot be read, or the project has a service */
export async function hold(config: string): Promise<Held> {
  const root = dirname(config);
  await readConfig(config);
  const folder = prepareFolder(root);
  const lock = onDisk(folder, () => takeLock(join(folder, 'service.lock'))) ?? fail('service-there', { folder: root });
  try {
    return { root, config, folder, lock, store: openStore(join(folder, 'sguardo.db')) };
  } catch (error) {
    lock.release();
    throw error;
  }
}
