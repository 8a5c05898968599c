/** The names of browsers that have been started, by what tells their programs apart. */
import type { Db } from './database.ts';

export type Engines = { get(program: string): string | null; put(program: string, name: string): void };

export function enginesOf(db: Db): Engines {
  const select = db.prepare<[string], { name: string }>('SELECT name FROM engines WHERE program = ?');
  const insert = db.prepare('INSERT OR REPLACE INTO engines (program, name) VALUES (?, ?)');
  return {
    get: (program) => select.get(program)?.name ?? null,
    put: (program, name) => void insert.run(program, name),
  };
}
