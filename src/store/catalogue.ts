/**
 * Which looks there are: what each look file declared when it was last opened. Looks that are gone stay in the
 * history only.
 */
import type { Declared, LookInfo } from '../core/look/look.ts';
import { isFor } from '../core/look/pattern.ts';
import type { Db } from './database.ts';

export type Catalogue = {
  /** What a file declared when it could last be opened. */
  declared(file: string): Declared | null;
  /** Hash of what it was built from then. */
  sourceOf(file: string): string | null;
  /** What a file declared that was built from exactly this, or null. */
  declaredBy(source: string): LookInfo[] | null;
  /** What is declared of every component: its looks, by their names. */
  all(): ReadonlyMap<string, ReadonlyMap<string, LookInfo>>;
  /** Every look that a file declares, by files. */
  looks(): LookInfo[];
  /** True when a component has a look file, whether that can be opened or not. */
  hasComponent(component: string): boolean;
  /**
   * Takes in what a file declares, opened in an environment. Looks that it declares no longer are gone in every
   * environment, those that it has in some only are gone in all others.
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

/** What changes the records of which looks there are, each as a whole. */
function writesTo(db: Db) {
  const put = db.prepare('INSERT OR REPLACE INTO declared (file, script, looks) VALUES (?, ?, ?)');
  const putSource = db.prepare('INSERT OR REPLACE INTO sources (source, looks) VALUES (?, ?)');
  const forgetSources = db.prepare('DELETE FROM sources WHERE id <= (SELECT max(id) FROM sources) - ?');
  const removeOthers = db.prepare(
    `DELETE FROM present WHERE file = ? AND NOT EXISTS (SELECT 1 FROM json_each(?) AS one
       WHERE one.value ->> 'look' = present.look AND (one.value ->> 'environments' IS NULL
         OR present.environment IN (SELECT value FROM json_each(one.value -> 'environments'))))`,
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
  return {
    declare: db.transaction((file: string, environment: string, { source, looks }: Declared) => {
      const all = JSON.stringify(looks);
      put.run(file, source, all);
      putSource.run(source, all);
      forgetSources.run(mostSources);
      removeOthers.run(file, all);
      for (const info of looks)
        if (isFor(info, environment)) add.run({ component: info.component, look: info.look, environment, file });
    }),
    fail: db.transaction((file: string, environment: string, { component, look }: LookInfo) => {
      removeAll.run(file, environment);
      add.run({ component, look, environment, file });
    }),
    /** Both as JSON. */
    keepOnly: db.transaction((files: string, environments: string) => {
      forgetDeclared.run(files);
      forgetPresent.run(files, environments);
    }),
  };
}

/** What look files declared by what they were built from: read once, since the same source declares the same. */
function sourcesIn(db: Db) {
  const select = db.prepare<[string], { looks: string }>('SELECT looks FROM sources WHERE source = ?');
  const read = new Map<string, LookInfo[]>();
  const remember = (source: string, looks: LookInfo[]): LookInfo[] => {
    if (read.size >= mostRead) read.clear();
    read.set(source, looks);
    return looks;
  };
  return {
    remember,
    declaredBy(source: string): LookInfo[] | null {
      const before = read.get(source);
      if (before) return before;
      const row = select.get(source);
      return row ? remember(source, JSON.parse(row.looks) as LookInfo[]) : null;
    },
  };
}

export function catalogueOf(db: Db): Catalogue {
  const write = writesTo(db);
  const { declaredBy, remember } = sourcesIn(db);
  const select = db.prepare<[string], { script: string; looks: string }>(
    'SELECT script, looks FROM declared WHERE file = ?',
  );
  const selectScripts = db.prepare<[], { file: string; script: string }>('SELECT file, script FROM declared');
  const everything = db.prepare<[], { looks: string }>('SELECT looks FROM declared ORDER BY file');
  const ofComponent = db.prepare<[string], { one: number }>('SELECT 1 AS one FROM present WHERE component = ?');
  /** What every component is known to declare, until that changes. */
  let known: Map<string, Map<string, LookInfo>> | null = null;
  /** What each file was built from when it could last be opened. */
  const sources = new Map(selectScripts.all().map(({ file, script }) => [file, script]));
  /** The files and environments that were kept last: what was kept once needs no second time. */
  let kept = '';
  return {
    declaredBy,
    sourceOf: (file) => sources.get(file) ?? null,
    all() {
      if (known) return known;
      const found = new Map<string, Map<string, LookInfo>>();
      for (const { looks } of everything.all())
        for (const info of JSON.parse(looks) as LookInfo[])
          found.set(info.component, (found.get(info.component) ?? new Map()).set(info.look, info));
      known = found;
      return found;
    },
    looks: () => everything.all().flatMap(({ looks }) => JSON.parse(looks) as LookInfo[]),
    hasComponent: (component) => ofComponent.get(component) !== undefined,
    declared(file) {
      const row = select.get(file);
      return row ? { source: row.script, looks: JSON.parse(row.looks) as LookInfo[] } : null;
    },
    declare(file, environment, declared) {
      write.declare(file, environment, declared);
      known = null;
      remember(declared.source, declared.looks);
      sources.set(file, declared.source);
    },
    fail: write.fail,
    keepOnly(files, environments) {
      const [all, names] = [JSON.stringify(files), JSON.stringify(environments)];
      if (kept === all + names) return;
      write.keepOnly(all, names);
      known = null;
      const there = new Set(files);
      for (const file of sources.keys()) if (!there.has(file)) sources.delete(file);
      kept = all + names;
    },
  };
}
