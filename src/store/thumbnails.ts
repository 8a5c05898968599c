/** Thumbnails of pictures, each made once. */
import type { Db } from './database.ts';

export type Thumbnails = {
  /** The thumbnail of a picture (by its hash), or null when none has been made. */
  get(picture: string): Buffer | null;
  put(picture: string, bytes: Buffer): void;
};

export function thumbnailsOf(db: Db): Thumbnails {
  const select = db.prepare<[string], { bytes: Buffer }>('SELECT bytes FROM thumbnails WHERE picture = ?');
  const insert = db.prepare('INSERT INTO thumbnails (picture, bytes) VALUES (?, ?) ON CONFLICT (picture) DO NOTHING');
  return {
    get: (picture) => select.get(picture)?.bytes ?? null,
    put: (picture, bytes) => void insert.run(picture, bytes),
  };
}
