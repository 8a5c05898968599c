/** Makes thumbnails when they are first asked for. */
import { messageOf } from '../core/problem/problem.ts';
import type { Store } from '../store/index.ts';
import { thumbnailOf } from '../work/index.ts';

/** Gives the thumbnail of a picture by the beginning of its hash, or null when there is no such picture. */
export type Thumbnailer = (beginning: string) => Promise<Buffer | null>;

export function thumbnailer({ blobs, thumbnails }: Store, log: (error: unknown) => void): Thumbnailer {
  const making = new Map<string, Promise<Buffer | null>>();
  const make = async (hash: string): Promise<Buffer | null> => {
    const blob = blobs.get(hash);
    if (blob?.type !== 'image/png') return null;
    const bytes = await thumbnailOf(blob.bytes).catch((error: unknown) => {
      log(new Error(`The picture ${hash} has no thumbnail: ${messageOf(error)}`));
      return null;
    });
    try {
      if (bytes) thumbnails.put(hash, bytes);
    } catch (error) {
      // It can be shown although the disk is full.
      log(error);
    }
    return bytes;
  };
  return async (beginning) => {
    const hash = blobs.find(beginning);
    if (hash === null) return null;
    const known = thumbnails.get(hash);
    if (known) return known;
    const made = making.get(hash) ?? make(hash);
    making.set(hash, made);
    return made.finally(() => making.delete(hash));
  };
}
