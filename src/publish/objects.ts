/** The files of a site by what they hold: each is written once, however many commits show it. */
import { createHash } from 'node:crypto';
import { existsSync, mkdirSync, renameSync, writeFileSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { gzipSync } from 'node:zlib';
import { onDisk } from '../core/problem/disk.ts';

/** Puts bytes into a folder under the hash of what they hold; gives back the name of the file. */
export type Objects = {
  put(bytes: Uint8Array, ending: string): string;
  /** JSON, packed: servers need not know how. */
  putJson(text: string): string;
  /** How many bytes of files it holds that were asked for, and how many of them were written now. */
  sizes(): { shown: number; written: number };
};

/** So many digits of a hash tell a file from all others. */
const digits = 40;

const endings: Record<string, string> = {
  'image/png': 'png',
  'image/jpeg': 'jpg',
  'image/webp': 'webp',
  'image/gif': 'gif',
  'image/avif': 'avif',
  'image/svg+xml': 'svg',
  'text/css': 'css',
  'font/woff2': 'woff2',
  'font/woff': 'woff',
  'font/ttf': 'ttf',
  'font/otf': 'otf',
  'application/pdf': 'pdf',
};

/** What a file of a type is called at its end, so that servers say what it is. */
export const endingOf = (type: string): string => endings[type.split(';')[0]!.trim()] ?? 'bin';

/** Writes a file as a whole or not at all. @throws ProblemError when the disk is full, or cannot be written to */
export function writeWhole(path: string, bytes: Uint8Array | string): void {
  onDisk(path, () => {
    mkdirSync(dirname(path), { recursive: true });
    writeFileSync(`${path}.new`, bytes);
    renameSync(`${path}.new`, path);
  });
}

export function objectsIn(folder: string): Objects {
  const known = new Map<string, number>();
  let written = 0;
  const put = (bytes: Uint8Array, ending: string): string => {
    const name = `${createHash('sha256').update(bytes).digest('hex').slice(0, digits)}.${ending}`;
    const path = join(folder, name);
    if (!known.has(name) && !existsSync(path)) {
      writeWhole(path, bytes);
      written += bytes.length;
    }
    known.set(name, bytes.length);
    return name;
  };
  return {
    put,
    putJson: (text) => put(gzipSync(text, { level: 9 }), 'bin'),
    sizes: () => ({ shown: [...known.values()].reduce((sum, size) => sum + size, 0), written }),
  };
}
