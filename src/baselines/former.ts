/** What the folder held of a capture before a decision, so that this can be taken back. */
import { readFileSync } from 'node:fs';
import { join, sep } from 'node:path';
import type { CaptureKey } from '../core/baseline/baseline.ts';
import type { Store } from '../store/index.ts';
import { baselinePath, formerPath } from './paths.ts';
import type { Shelf } from './write.ts';

/** Files of one capture, by their paths below the folder: hashes of what they held; null for what was not there. */
export type FormerFiles = Record<string, string | null>;

const endings = { '.json': 'application/json', '.png': 'image/png', '.moment': 'application/json' };

function read(path: string): Buffer | null {
  try {
    return readFileSync(path);
  } catch {
    return null;
  }
}

/** Keeps the files of a capture in the records as they are now. */
export function keepFormer({ blobs }: Store, { root, folder, family }: Shelf, key: CaptureKey): FormerFiles {
  const found: FormerFiles = {};
  const own = baselinePath(key, family);
  for (const stem of new Set([own, ...(family === null ? [formerPath(key)] : [])]))
    for (const [ending, type] of Object.entries(endings)) {
      const bytes = read(join(root, folder, stem + ending));
      if (bytes || stem === own) found[(stem + ending).replaceAll(sep, '/')] = bytes && blobs.put(bytes, type);
    }
  return found;
}
