/** What was read of the folder of baselines, kept from one service to the next: unchanged files are not read again. */
import type { KnownBaseline } from '../core/baseline/baseline.ts';
import type { Db } from './database.ts';

/** A baseline by the path of its description, relative to the project. */
export type BaselineFile = KnownBaseline & { file: string };

export type BaselineFiles = {
  all(): BaselineFile[];
  put(file: BaselineFile): void;
  remove(file: string): void;
};

export function baselineFilesOf(db: Db): BaselineFiles {
  const select = db.prepare<[], { file: string; stamp: string; baseline: string }>('SELECT * FROM baseline_files');
  const insert = db.prepare('INSERT OR REPLACE INTO baseline_files (file, stamp, baseline) VALUES (?, ?, ?)');
  const drop = db.prepare('DELETE FROM baseline_files WHERE file = ?');
  return {
    all: () =>
      select.all().map(({ file, ...row }) => ({
        file,
        stamp: JSON.parse(row.stamp) as number[],
        baseline: JSON.parse(row.baseline) as BaselineFile['baseline'],
      })),
    put: ({ file, stamp, baseline }) => void insert.run(file, JSON.stringify(stamp), JSON.stringify(baseline)),
    remove: (file) => void drop.run(file),
  };
}
