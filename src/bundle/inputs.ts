/** Contents of files as hashes, read again only when their size or time has changed. */
import { createHash } from 'node:crypto';
import { readFileSync, statSync } from 'node:fs';

export type Inputs = {
  /** SHA-256 of a file's content; empty for one that cannot be read. */
  hashOf(path: string): string;
};

/** A file that was written so lately could be written again without its time changing, in milliseconds. */
const fresh = 100;

type Known = { stamp: string; hash: string };

/** Remembers what it has read. */
export function inputsOf(): Inputs {
  const known = new Map<string, Known>();
  return {
    hashOf(path) {
      try {
        const { size, mtimeNs, ino, mtimeMs } = statSync(path, { bigint: true });
        const stamp = `${size} ${mtimeNs} ${ino}`;
        const before = known.get(path);
        if (before?.stamp === stamp) return before.hash;
        const hash = createHash('sha256').update(readFileSync(path)).digest('base64');
        if (Date.now() - Number(mtimeMs) > fresh) known.set(path, { stamp, hash });
        return hash;
      } catch {
        known.delete(path);
        return '';
      }
    },
  };
}
