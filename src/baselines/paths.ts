/** Where the files of a baseline are, below the folder of baselines. */
import { createHash } from 'node:crypto';
import { join } from 'node:path';
import type { CaptureKey } from '../core/baseline/baseline.ts';

/** Enough of SHA-256 that no two names are ever taken for one. */
const longHash = (text: string): string => createHash('sha256').update(text).digest('hex').slice(0, 16);

/** FNV-1a, 32 bits, which format 1 used. */
function formerHash(text: string): string {
  let hash = 0x811c9dc5;
  for (let i = 0; i < text.length; i++) {
    hash ^= text.charCodeAt(i);
    hash = Math.imul(hash, 0x01000193);
  }
  return (hash >>> 0).toString(16).padStart(8, '0');
}

type Hash = (text: string) => string;

/** A name as a file name; names that lose something on the way get a hash, so that no two share one. */
function fileName(name: string, hash: Hash): string {
  const plain = name
    .toLowerCase()
    .normalize('NFKD')
    .replace(/[^a-z0-9]+/g, '-')
    .replace(/^-|-$/g, '')
    .slice(0, 80);
  return plain.replace(/-/g, ' ') === name ? plain : `${plain || 'look'}-${hash(name)}`;
}

/** A part of a component's path as a folder's name; one that loses something on the way gets a hash. */
function folderName(part: string, hash: Hash): string {
  const plain = part.replace(/[^\w.-]|^\.+$/g, '_').slice(0, 150);
  return plain === part ? plain : `${plain}-${hash(part)}`;
}

const pathWith = ({ component, look, environment, capture }: CaptureKey, family: string | null, hash: Hash): string =>
  join(
    family === null ? environment : `${environment}@${family}`,
    ...component.split('/').map((part) => folderName(part, hash)),
    `${fileName(look, hash)}${capture === 'end' ? '' : `.${fileName(capture, hash)}`}`,
  );

/** Path of a capture's baseline below the folder, without its ending; for a family of machines, that of its own. */
export const baselinePath = (key: CaptureKey, family: string | null = null): string => pathWith(key, family, longHash);

/** Where format 1 kept it. */
export const formerPath = (key: CaptureKey): string => pathWith(key, null, formerHash);

/** The folder of sheets and small files that several baselines share, by content. */
export const sharedFolder = 'shared';
