/**
 * Which looks there are: what each look file declared when it was last opened. Looks that are gone stay in the
 * history only.
 */
import type { Declared, LookInfo } from '../core/look/look.ts';
import type { Db } from './database.ts';

export type Catalogue = {
  /** What a file declared when it could last be opened. */
  declared(file: string): Declared | null;
  /** Hash of what it was built from then. */
  sourceOf(file: string): string | null;
  /** What a file declared that was built from exactly this, or null. */
  declaredBy(source: string): LookInfo[] | null;
  /** What is declared of every component: its looks. */
  all(): ReadonlyMap<string, ReadonlySet<string>>;
  /** True when a component has a look file, whether that can be opened or not. */
  hasComponent(component: string): boolean;
  /**
   * Takes in what a file declares, opened in an environment. Looks that it declares no longer are gone in every
   * environment.
   */
  declare(file: string, environment: string, declared: Declared): void;
  /**
   * Says that a file could not be used in an environment: one look, that of the file as a whole, stands for all of
   * its.
   */
  fail(file: string, environment: string, whole: LookInfo): void;
  /** Forgets files and environments that are no longer part of the project. */
  keepOnly(files: readonly string[], environments: readonly string[]): void;
};

/** So many sources of look files are remembered: those of this project's commits that somebody may go back to. */
const mostSources = 20_000;

/** So many of them are remembered as they were read: the same source declares the same looks. */
const mostRead = 5000;

export function catalogueOf(db: Db): Catalogue {
  const select = db.prepare<[string], { script: string; looks: string }>(
    'SELECT script, looks FROM declared WHERE file = ?',
  );
  const selectScripts = db.prepare<[], { file: string; script: string }>('SELECT file, script FROM declared');
  const put = db.prepare('INSERT OR REPLACE INTO declared (file, script, looks) VALUES (?, ?, ?)');
  const removeOthers = db.prepare(
    'DELETE FROM present WHERE file = ? AND look NOT IN (SELECT value FROM json_each(?))',
  );
  const removeAll = db.prepare('DELETE FROM present WHERE file = ? AND environment = ?');
  // A look that comes back comes to what it came to when it was run last.
  const add = db.prepare(
    `INSERT OR IGNORE INTO present (component, look, environment, file, result) VALUES (@component, @look, @environment,
       @file, (SELECT max(id) FROM results
         WHERE component = @component AND look = @look AND environment = @environment))`,
  );
  const forgetDeclared = db.prepare('DELETE FROM declared WHERE file NOT IN (SELECT value FROM json_each(?))');
  const forgetPresent = db.prepare(
    `DELETE FROM present WHERE file NOT IN (SELECT value FROM json_each(?))
     OR environment NOT IN (SELECT value FROM json_each(?))`,
  );
  const everything = db.prepare<[], { looks: string }>('SELECT looks FROM declared');
  const ofComponent = db.prepare<[string], { one: number }>('SELECT 1 AS one FROM present WHERE component = ?');
  const selectSource = db.prepare<[string], { looks: string }>('SELECT looks FROM sources WHERE source = ?');
  const putSource = db.prepare('INSERT OR REPLACE INTO sources (source, looks) VALUES (?, ?)');
  const forgetSources = db.prepare('DELETE FROM sources WHERE id <= (SELECT max(id) FROM sources) - ?');
  const write = db.transaction((file: string, environment: string, source: string, looks: LookInfo[]) => {
    put.run(file, source, JSON.stringify(looks));
    putSource.run(source, JSON.stringify(looks));
    forgetSources.run(mostSources);
    removeOthers.run(file, JSON.stringify(looks.map(({ look }) => look)));
    for (const { component, look } of looks) add.run({ component, look, environment, file });
  });
  const read = new Map<string, LookInfo[]>();
  /** What every component is known to declare, until that changes. */
  let known: Map<string, Set<string>> | null = null;
  /** What each file was built from when it could last be opened. */
  const sources = new Map(selectScripts.all().map(({ file, script }) => [file, script]));
  /** The files and environments that were kept last: what was kept once needs no second time. */
  let kept = '';
  return {
    sourceOf: (file) => sources.get(file) ?? null,
    declaredBy(source) {
      const before = read.get(source);
      if (before) return before;
      const row = selectSource.get(source);
      if (!row) return null;
      if (read.size >= mostRead) read.clear();
      const looks = JSON.parse(row.looks) as LookInfo[];
      read.set(source, looks);
      return looks;
    },
    all() {
      if (known) return known;
      const found = new Map<string, Set<string>>();
      for (const { looks } of everything.all())
        for (const { component, look } of JSON.parse(looks) as LookInfo[])
          found.set(component, (found.get(component) ?? new Set()).add(look));
      known = found;
      return found;
    },
    hasComponent: (component) => ofComponent.get(component) !== undefined,
    declared(file) {
      const row = select.get(file);
      return row ? { source: row.script, looks: JSON.parse(row.looks) as LookInfo[] } : null;
    },
    declare(file, environment, { source, looks }) {
      write(file, environment, source, looks);
      known = null;
      read.set(source, looks);
      sources.set(file, source);
    },
    fail: db.transaction((file: string, environment: string, whole: LookInfo) => {
      removeAll.run(file, environment);
      add.run({ component: whole.component, look: whole.look, environment, file });
    }),
    keepOnly(files, environments) {
      const [all, names] = [JSON.stringify(files), JSON.stringify(environments)];
      if (kept === all + names) return;
      db.transaction(() => {
        forgetDeclared.run(all);
        forgetPresent.run(all, names);
      })();
      known = null;
      const there = new Set(files);
      for (const file of sources.keys()) if (!there.has(file)) sources.delete(file);
      kept = all + names;
    },
  };
}
