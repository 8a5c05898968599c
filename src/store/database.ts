/** Opens the database and brings its schema up to date. */
import { chmodSync, closeSync, openSync } from 'node:fs';
import Database from 'better-sqlite3';
import { onDisk } from '../core/problem/disk.ts';
import { fail } from '../core/problem/problem.ts';

export type Db = Database.Database;

/** Each entry leads from one version of the schema to the next; entries are never changed once they have been used. */
const migrations: readonly string[] = [
  `
  CREATE TABLE blobs (
    id INTEGER PRIMARY KEY,
    hash TEXT NOT NULL UNIQUE,        -- SHA-256 of the bytes before packing
    type TEXT NOT NULL,               -- media type
    packing TEXT NOT NULL,            -- none, deflate
    dictionary TEXT,                  -- hash of the blob whose bytes the packing starts from
    bytes BLOB NOT NULL
  );
  CREATE TABLE runs (
    id INTEGER PRIMARY KEY,
    status TEXT NOT NULL,             -- running, finished, stopped, ended
    started TEXT NOT NULL,
    finished TEXT,
    request TEXT NOT NULL,            -- JSON: patterns, environments, repeat
    planned INTEGER NOT NULL DEFAULT 0,
    engine TEXT,
    "commit" TEXT,
    problem TEXT
  );
  CREATE TABLE results (
    id INTEGER PRIMARY KEY,
    run INTEGER NOT NULL REFERENCES runs(id),
    component TEXT NOT NULL,
    look TEXT NOT NULL,
    environment TEXT NOT NULL,
    repetition INTEGER NOT NULL,
    verdict TEXT NOT NULL,
    about TEXT NOT NULL,              -- JSON: everything else of the summary but the captures
    base TEXT NOT NULL,               -- hashes of the timeline's blobs
    patches TEXT NOT NULL,
    lanes TEXT NOT NULL,
    source TEXT
  );
  CREATE INDEX results_by_run ON results(run);
  CREATE INDEX results_by_look ON results(component, look, environment, id);
  CREATE TABLE captures (
    id INTEGER PRIMARY KEY,
    result INTEGER NOT NULL REFERENCES results(id),
    name TEXT NOT NULL,
    hash TEXT NOT NULL,
    about TEXT NOT NULL,              -- JSON: the rest of the summary
    markup TEXT NOT NULL,             -- hash
    fingerprint TEXT NOT NULL,
    unstable INTEGER NOT NULL
  );
  CREATE INDEX captures_by_result ON captures(result);
  CREATE TABLE decisions (            -- append-only
    id INTEGER PRIMARY KEY,
    at TEXT NOT NULL,
    who TEXT NOT NULL,
    kind TEXT NOT NULL,               -- approve, reject, adopt (taken in from the folder)
    why TEXT,
    run INTEGER,
    component TEXT NOT NULL,
    look TEXT NOT NULL,
    environment TEXT NOT NULL,
    capture TEXT NOT NULL,
    hash TEXT NOT NULL,
    markup TEXT NOT NULL,
    fingerprint TEXT NOT NULL,
    "commit" TEXT
  );
  CREATE INDEX decisions_by_capture ON decisions(component, look, environment, capture, id);
  CREATE TRIGGER decisions_are_kept BEFORE DELETE ON decisions
  BEGIN SELECT RAISE(ABORT, 'decisions are append-only'); END;
  CREATE TRIGGER decisions_stay BEFORE UPDATE ON decisions BEGIN SELECT RAISE(ABORT, 'decisions are append-only'); END;
  `,
  `
  CREATE TABLE declared (             -- what each look file declared when it could last be opened
    file TEXT PRIMARY KEY,
    script TEXT NOT NULL,             -- address of its bundled script, which carries a hash of all that is in it
    looks TEXT NOT NULL               -- JSON: LookInfo[]
  ) WITHOUT ROWID;
  CREATE TABLE present (              -- the looks that there are
    component TEXT NOT NULL,
    look TEXT NOT NULL,
    environment TEXT NOT NULL,
    file TEXT NOT NULL,
    PRIMARY KEY (component, look, environment)
  ) WITHOUT ROWID;
  CREATE INDEX present_by_file ON present(file, environment);
  INSERT INTO present
  SELECT component, look, environment, max(about ->> '$.file') FROM results GROUP BY component, look, environment;
  `,
  `
  ALTER TABLE runs ADD COLUMN notes TEXT;           -- JSON: what else the run has to say
  ALTER TABLE results ADD COLUMN files TEXT;        -- JSON: hashes of the files that its moments show
  ALTER TABLE captures ADD COLUMN manifest TEXT;    -- hash
  ALTER TABLE decisions ADD COLUMN manifest TEXT;   -- hash
  CREATE INDEX results_by_id_and_run ON results(run, id);
  `,
  `
  CREATE INDEX results_dependent ON results(component, look) WHERE about ->> '$.orderDependent';
  `,
  `
  CREATE TABLE graph (                -- what the bundler knows of the project
    one INTEGER PRIMARY KEY CHECK (one = 1),
    graph TEXT NOT NULL               -- JSON: files, and closures as indexes into them
  );
  CREATE TABLE sources (              -- what look files declared, by all that they were built from
    id INTEGER PRIMARY KEY,
    source TEXT NOT NULL UNIQUE,      -- hash
    looks TEXT NOT NULL               -- JSON: LookInfo[]
  );
  ALTER TABLE results ADD COLUMN key TEXT;          -- hash of all it rests on but the next two; null: run it again
  ALTER TABLE results ADD COLUMN baselines TEXT;    -- hash of what its captures were compared with
  ALTER TABLE results ADD COLUMN public TEXT;       -- JSON: files it asked for as they lie there, by path
  CREATE INDEX results_by_key ON results(key) WHERE key IS NOT NULL;
  ALTER TABLE runs ADD COLUMN reused TEXT;          -- JSON: ids of the results that were taken over
  ALTER TABLE present ADD COLUMN result INTEGER;    -- what it comes to now, perhaps again
  UPDATE present AS p SET result = (
    SELECT max(r.id) FROM results r
    WHERE r.component = p.component AND r.look = p.look AND r.environment = p.environment
  );
  `,
  `
  CREATE TABLE thumbnails (
    picture TEXT PRIMARY KEY,         -- hash of the PNG
    bytes BLOB NOT NULL               -- WebP
  ) WITHOUT ROWID;
  `,
  `
  CREATE TABLE baseline_files (       -- what was read of the folder of baselines
    file TEXT PRIMARY KEY,            -- the description, relative to the project
    stamp TEXT NOT NULL,              -- JSON: sizes, times and places of its files then
    baseline TEXT NOT NULL            -- JSON
  ) WITHOUT ROWID;
  `,
  `
  CREATE TABLE engines (
    program TEXT PRIMARY KEY,         -- path, size and time of the browser's program
    name TEXT NOT NULL                -- what it calls itself
  ) WITHOUT ROWID;
  CREATE INDEX captures_open ON captures(result) WHERE about ->> '$.state.kind' <> 'same';
  `,
  `
  ALTER TABLE runs ADD COLUMN skipped TEXT;         -- JSON: looks that their files leave out, with why
  `,
  `
  CREATE TABLE explanations (         -- why captures differ from their baselines
    id INTEGER PRIMARY KEY,           -- later ones have higher numbers
    pair TEXT NOT NULL UNIQUE,        -- hash of both sides: pictures, moments, fingerprints
    explanation TEXT NOT NULL         -- JSON
  );
  CREATE TABLE cause_decisions (      -- append-only
    id INTEGER PRIMARY KEY,
    at TEXT NOT NULL,
    who TEXT NOT NULL,
    kind TEXT NOT NULL,               -- approve, reject
    why TEXT,
    cause TEXT NOT NULL,              -- key
    pair TEXT NOT NULL                -- of the capture that it is decided for
  );
  ALTER TABLE runs ADD COLUMN sources TEXT;         -- hash of JSON: the project's files behind its looks, by path
  ALTER TABLE decisions ADD COLUMN sources TEXT;    -- as of the run that was decided about
  CREATE TABLE found_edits (          -- which edits did what was changed
    id INTEGER PRIMARY KEY,
    asked TEXT NOT NULL UNIQUE,       -- hash of the pair, and of the edits among which they were looked for
    found TEXT NOT NULL               -- JSON
  );
  CREATE INDEX cause_decisions_by_pair ON cause_decisions(pair, cause, id);
  CREATE TRIGGER cause_decisions_are_kept BEFORE DELETE ON cause_decisions
  BEGIN SELECT RAISE(ABORT, 'decisions are append-only'); END;
  CREATE TRIGGER cause_decisions_stay BEFORE UPDATE ON cause_decisions
  BEGIN SELECT RAISE(ABORT, 'decisions are append-only'); END;
  `,
  `
  ALTER TABLE runs ADD COLUMN branch TEXT;
  ALTER TABLE decisions ADD COLUMN branch TEXT;
  ALTER TABLE decisions ADD COLUMN batch INTEGER;   -- equal for what was decided at once
  ALTER TABLE decisions ADD COLUMN undoes INTEGER;  -- the decision that an undo takes back
  ALTER TABLE decisions ADD COLUMN former TEXT;     -- JSON: files of the folder before it, path to hash or null
  ALTER TABLE decisions ADD COLUMN fixer TEXT;      -- who is to fix what was rejected
  ALTER TABLE decisions ADD COLUMN file TEXT;       -- description that was taken in, relative to the project
  ALTER TABLE cause_decisions ADD COLUMN batch INTEGER;
  ALTER TABLE cause_decisions ADD COLUMN fixer TEXT;
  CREATE INDEX decisions_by_batch ON decisions(batch) WHERE batch IS NOT NULL;
  CREATE INDEX decisions_undone ON decisions(undoes) WHERE undoes IS NOT NULL;
  CREATE INDEX cause_decisions_by_batch ON cause_decisions(batch) WHERE batch IS NOT NULL;
  CREATE VIEW held AS                 -- decisions that nobody has taken back
    SELECT * FROM decisions d
    WHERE d.kind <> 'undo' AND NOT EXISTS (SELECT 1 FROM decisions u WHERE u.undoes = d.id);
  CREATE TABLE comments (             -- what people say beside decisions, append-only
    id INTEGER PRIMARY KEY,
    at TEXT NOT NULL,
    who TEXT NOT NULL,
    cause TEXT,                       -- key; null for one about a capture
    component TEXT,                   -- with the next three: the capture
    look TEXT,
    environment TEXT,
    capture TEXT,
    text TEXT NOT NULL
  );
  CREATE INDEX comments_by_cause ON comments(cause) WHERE cause IS NOT NULL;
  CREATE INDEX comments_by_capture ON comments(component, look, environment, capture) WHERE component IS NOT NULL;
  CREATE TABLE seen (                 -- who has looked at what
    pair TEXT NOT NULL,               -- of explanations
    who TEXT NOT NULL,
    at TEXT NOT NULL,
    PRIMARY KEY (pair, who)
  ) WITHOUT ROWID;
  `,
  `
  ALTER TABLE results ADD COLUMN coverage TEXT;     -- hash of JSON: LookCoverage; null where it was not counted
  ALTER TABLE results ADD COLUMN findings TEXT;     -- JSON: StoodFinding[]; null where there is none
  CREATE TABLE contrasts (            -- what was measured on pictures
    id INTEGER PRIMARY KEY,
    key TEXT NOT NULL UNIQUE,         -- hash of the picture's hash and its lines of text
    findings TEXT NOT NULL            -- JSON
  );
  `,
];

/** Nobody but its owner reads the records: they hold whatever pages have shown. */
const ownerOnly = 0o600;

function migrate(db: Db, file: string): void {
  const version = db.pragma('user_version', { simple: true }) as number;
  if (version > migrations.length) fail('database-newer', { file });
  for (let next = version; next < migrations.length; next++) {
    db.transaction(() => {
      db.exec(migrations[next]!);
      db.pragma(`user_version = ${next + 1}`);
    })();
  }
}

/**
 * Opens a database file (or `:memory:`), in WAL mode, with the newest schema.
 * @throws ProblemError `database-corrupt`, `database-newer`, `disk-full`, `disk-read-only`, `disk-failed`
 */
export function openDatabase(file: string): Db {
  return onDisk(file, () => {
    // The files beside it that SQLite makes get the same permissions.
    if (file !== ':memory:') {
      closeSync(openSync(file, 'a', ownerOnly));
      chmodSync(file, ownerOnly);
    }
    const db = new Database(file);
    try {
      db.pragma('journal_mode = WAL');
      db.pragma('synchronous = NORMAL');
      db.pragma('foreign_keys = ON');
      migrate(db, file);
      return db;
    } catch (error) {
      db.close();
      throw error;
    }
  });
}
