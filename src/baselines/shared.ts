/** Files of the folder that baselines share: style sheets, drawings and small pictures, called after their content. */
import { existsSync } from 'node:fs';
import { extname, join } from 'node:path';
import type { Store } from '../store/index.ts';
import type { Change } from './journal.ts';
import type { ManifestParts } from './manifest.ts';
import { sharedFolder } from './paths.ts';

/** A file that several baselines may share. */
export type SharedFile = { hash: string; ending: string; bytes: () => Uint8Array };

/** Has a change bring those of shared files that the folder does not have. */
export function addShared(home: string, files: readonly SharedFile[], { writes }: Change): void {
  for (const { hash, ending, bytes } of files) {
    const path = join(sharedFolder, hash + ending);
    if (!existsSync(join(home, path))) writes.set(path, bytes);
  }
}

/** Larger files are kept in the records only. */
const largestShared = 64 * 1024;

/** Finds the files that a capture shares with others. Those of one decision look at each file once. */
export function sharedFiles({
  blobs,
}: Pick<Store, 'blobs'>): (parts: Pick<ManifestParts, 'sheets' | 'drawings' | 'assets'>) => SharedFile[] {
  const known = new Map<string, SharedFile | null>();
  const fileOf = (hash: string, ending: string): SharedFile | null => {
    const size = blobs.get(hash)?.bytes.length ?? Number.POSITIVE_INFINITY;
    const isShared = ending === '.css' ? Number.isFinite(size) : size <= largestShared;
    return isShared ? { hash, ending, bytes: () => blobs.get(hash)!.bytes } : null;
  };
  return ({ sheets, drawings = [], assets }) => {
    const files = new Map<string, string>(sheets.map((hash) => [hash, '.css']));
    for (const hash of drawings) files.set(hash, '.txt');
    for (const [address, hash] of Object.entries(assets)) {
      const ending = extname(new URL(address, 'http://x/').pathname).slice(0, 12);
      if (!files.has(hash)) files.set(hash, /^\.\w+$/.test(ending) ? ending : '');
    }
    return [...files].flatMap(([hash, ending]) => {
      const name = hash + ending;
      if (!known.has(name)) known.set(name, fileOf(hash, ending));
      return known.get(name) ?? [];
    });
  };
}
