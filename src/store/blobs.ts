/** Blobs: bytes by the hash of what they hold, each kept once. */
import { createHash } from 'node:crypto';
import { deflateRawSync, inflateRawSync } from 'node:zlib';
import type { Db } from './database.ts';

/** By what bytes are known: the SHA-256 of what they hold, in hexadecimal. A text counts as UTF-8. */
export const hashOf = (content: Uint8Array | string): string => createHash('sha256').update(content).digest('hex');

export type Blob = { type: string; bytes: Buffer };

type Row = { type: string; packing: string; dictionary: string | null; bytes: Buffer };

export type Blobs = {
  /**
   * Keeps bytes as they are, or packed when they are text; `dictionary` is a blob of similar content. Returns their
   * hash.
   */
  put(bytes: Uint8Array, type: string, dictionary?: string): string;
  /** Keeps a picture by the hash of the screenshot that it shows: an approved one shows it in fewer bytes. */
  keep(hash: string, bytes: Uint8Array, type: string): void;
  get(hash: string): Blob | null;
  has(hash: string): boolean;
  /** The whole hash of the first blob whose hash begins so, or null. */
  find(beginning: string): string | null;
  /** Bytes that all blobs take. */
  size(): number;
};

const isText = (type: string): boolean => /^(text\/|application\/json|image\/svg)/.test(type);

/** How many texts that were put last are remembered as they are: those that come next are packed from them. */
const mostRecent = 8;

/** deflate looks back 32 KiB and no further. */
const window = 32_768;

export function blobsOf(db: Db): Blobs {
  const insert = db.prepare(
    'INSERT INTO blobs (hash, type, packing, dictionary, bytes) VALUES (?, ?, ?, ?, ?) ON CONFLICT (hash) DO NOTHING',
  );
  const known = db.prepare<[string], { one: number }>('SELECT 1 AS one FROM blobs WHERE hash = ?');
  const select = db.prepare<[string], Row>('SELECT type, packing, dictionary, bytes FROM blobs WHERE hash = ?');
  // Digits of a hash come before this letter.
  const beginning = db.prepare<[string, string], { hash: string }>(
    "SELECT hash FROM blobs WHERE hash >= ? AND hash < ? || 'g' ORDER BY hash LIMIT 1",
  );
  const total = db.prepare<[], { bytes: number | null }>('SELECT sum(length(bytes)) AS bytes FROM blobs');
  const recent = new Map<string, Buffer>();
  const remember = (hash: string, bytes: Uint8Array): void => {
    recent.set(hash, Buffer.from(bytes.subarray(-window)));
    const [oldest] = recent.keys();
    if (recent.size > mostRecent) recent.delete(oldest!);
  };
  const get = (hash: string): Blob | null => {
    const row = select.get(hash);
    if (!row) return null;
    if (row.packing === 'none') return { type: row.type, bytes: row.bytes };
    const dictionary = row.dictionary ? get(row.dictionary)?.bytes.subarray(-window) : undefined;
    return { type: row.type, bytes: inflateRawSync(row.bytes, { dictionary }) };
  };
  const tail = (hash: string): Buffer | undefined => recent.get(hash) ?? get(hash)?.bytes.subarray(-window);
  return {
    get,
    has: (hash) => known.get(hash) !== undefined,
    find: (start) => beginning.get(start, start)?.hash ?? null,
    put(bytes, type, dictionary) {
      const hash = hashOf(bytes);
      if (isText(type)) remember(hash, bytes);
      if (known.get(hash)) return hash;
      if (!isText(type)) insert.run(hash, type, 'none', null, bytes);
      else {
        const start = dictionary ? tail(dictionary) : undefined;
        insert.run(
          hash,
          type,
          'deflate',
          start ? dictionary : null,
          deflateRawSync(bytes, { level: 6, dictionary: start }),
        );
      }
      return hash;
    },
    keep: (hash, bytes, type) => void insert.run(hash, type, 'none', null, bytes),
    size: () => total.get()?.bytes ?? 0,
  };
}
