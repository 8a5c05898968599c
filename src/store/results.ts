/** Results: what looks came to, with their captures and timelines. */
import type { LookCoverage } from '../core/coverage/hits.ts';
import { type LookName, lookKey } from '../core/look/look.ts';
import type { Basis, Resting } from '../core/run/basis.ts';
import type { FinishedLook } from '../core/run/finished.ts';
import type { CaptureSummary, DecisionNote, ResultSummary } from '../core/run/run.ts';
import type { Timeline } from '../core/timeline/timeline.ts';
import type { Verdict } from '../core/run/verdict.ts';
import type { Blobs } from './blobs.ts';
import type { Db } from './database.ts';
import type { Decisions } from './decisions.ts';
import { restingOf } from './resting.ts';
import { type About, nowStands, writerOf } from './writer.ts';

/** A capture with what a decision about it needs. */
export type StoredCapture = {
  run: number;
  component: string;
  look: string;
  environment: string;
  name: string;
  hash: string;
  markup: string;
  /** Null for one that an older Sguardo has taken. */
  manifest: string | null;
  fingerprint: string;
  state: string;
};

type Row = {
  id: number;
  run: number;
  environment: string;
  repetition: number;
  verdict: Verdict;
  about: string;
  base: string;
  patches: string;
  lanes: string;
  source: string | null;
};
export type Results = {
  /** Keeps a result; `unstable` names captures that differ from the first repetition's. */
  add(run: number, result: FinishedLook, unstable: ReadonlySet<string>, basis?: Basis | null): ResultSummary;
  /** The results that rest on a key, newest first. */
  resting(key: string): readonly Resting[];
  /** Results have been removed: what was read of them is read again. */
  forget(): void;
  get(id: number): ResultSummary | null;
  timeline(id: number): Timeline | null;
  /** The results of a run, and those that it has taken over unless only its `own` are wanted. */
  ofRun(run: number, own?: boolean): ResultSummary[];
  /** What every look that there is comes to now, in every environment. */
  latest(): ResultSummary[];
  /** How long the looks of a file took when they were run last, in milliseconds. */
  took(file: string): (LookName & { environment: string; took: number })[];
  /**
   * Milliseconds of real time that a millisecond of looks took in the largest of the last runs, in which what comes
   * before the first look counts least; null before one was finished.
   */
  pace(): number | null;
  /** Says that looks come to what they came to in these results again. */
  stand(ids: readonly number[]): void;
  /** The result that a look comes to now in an environment, or null. */
  now(component: string, look: string, environment: string): number | null;
  /** Newest first. */
  history(component: string, look: string, environment: string, limit: number): ResultSummary[];
  captures(result: number): StoredCapture[];
  /** What the looks of results have run of the project's sources, as far as that was counted. */
  coverage(ids: readonly number[]): Map<number, LookCoverage>;
  /** True for a capture that came out differently in the run of a result, or whose look did. */
  isUnsteady(capture: Pick<StoredCapture, 'run' | 'component' | 'look' | 'environment' | 'name'>): boolean;
  /** Tells which looks were ever found to depend on what ran before them, as far as results are kept. */
  dependent(): (look: LookName) => boolean;
};

const columns = 'id, run, environment, repetition, verdict, about, base, patches, lanes, source';

/** Reads results as they are told to people, with what has been decided about their captures since. */
function summariser(db: Db, decisions: Decisions): (row: Row) => ResultSummary {
  const capturesOf = db.prepare<[number], { about: string; markup: string; fingerprint: string }>(
    'SELECT about, markup, fingerprint FROM captures WHERE result = ? ORDER BY id',
  );
  return (row) => {
    const about = JSON.parse(row.about) as About;
    const captures = capturesOf.all(row.id).map((found): CaptureSummary => {
      const kept = JSON.parse(found.about) as CaptureSummary;
      const capture = { ...kept, isVouched: kept.isVouched ?? false, allowances: kept.allowances ?? [] };
      const key = { component: about.component, look: about.look, environment: row.environment, capture: capture.name };
      const { markup, fingerprint } = found;
      const decision = decisions.about(key, { hash: capture.hash, markup, fingerprint });
      if (!decision) return { ...capture, decision: null };
      const { kind, who, at, why, fixer } = decision;
      const stands = decisions.stands(key, decision);
      return { ...capture, decision: { kind: kind as DecisionNote['kind'], who, at, why, fixer, stands } };
    });
    return {
      ...about,
      isUnsteady: about.isUnsteady ?? false,
      isContradiction: about.isContradiction ?? false,
      id: row.id,
      run: row.run,
      environment: row.environment,
      repetition: row.repetition,
      verdict: row.verdict,
      captures,
    };
  };
}

/** Tells which captures and looks have not come out the same every time. */
function steadinessOf(db: Db): Pick<Results, 'isUnsteady' | 'dependent'> {
  const unsteady = db.prepare<[number, string, string, string, string], object>(
    `SELECT 1 FROM results r LEFT JOIN captures c ON c.result = r.id AND c.unstable
     WHERE r.run = ? AND r.component = ? AND r.look = ? AND r.environment = ?
       AND (c.name = ? OR r.about ->> '$.isUnsteady') LIMIT 1`,
  );
  const dependents = db.prepare<[], LookName>(
    "SELECT DISTINCT component, look FROM results WHERE about ->> '$.orderDependent'",
  );
  return {
    isUnsteady: ({ run, component, look, environment, name }) =>
      unsteady.get(run, component, look, environment, name) !== undefined,
    dependent() {
      const found = new Set(dependents.all().map(({ component, look }) => lookKey(component, look)));
      return ({ component, look }) => found.has(lookKey(component, look));
    },
  };
}

/** Tells how long looks took. */
function timesOf(db: Db): Pick<Results, 'took' | 'pace'> {
  const took = db.prepare<[string], LookName & { environment: string; took: number }>(
    `SELECT p.component, p.look, p.environment, r.about ->> '$.took' AS took
     FROM present p JOIN results r ON r.id = p.result WHERE p.file = ?`,
  );
  const pace = db.prepare<[], { pace: number | null }>(
    `SELECT (julianday(u.finished) - julianday(u.started)) * 86400000 / sum(r.about ->> '$.took') AS pace
     FROM runs u JOIN results r ON r.run = u.id
     WHERE u.status = 'finished' AND u.id > (SELECT max(id) FROM runs) - 20
     GROUP BY u.id ORDER BY count(*) DESC LIMIT 1`,
  );
  return { took: (file) => took.all(file), pace: () => pace.get()?.pace ?? null };
}

/** Reads what looks have run. */
function coverageReaderOf(db: Db, read: <T>(hash: string) => T): Results['coverage'] {
  const one = db.prepare<[number], { coverage: string | null }>('SELECT coverage FROM results WHERE id = ?');
  return (ids) => {
    const found = ids.flatMap((id): [number, LookCoverage][] => {
      const hash = one.get(id)?.coverage;
      return hash ? [[id, read<LookCoverage>(hash)]] : [];
    });
    return new Map(found);
  };
}

export function resultsOf(db: Db, blobs: Blobs, decisions: Decisions): Results {
  const add = writerOf(db, blobs);
  const resting = restingOf(db);
  const one = db.prepare<[number], Row>(`SELECT ${columns} FROM results WHERE id = ?`);
  const order = 'ORDER BY component, look, environment, repetition';
  const ofRun = db.prepare<[number], Row>(`SELECT ${columns} FROM results WHERE run = ? ${order}`);
  const withReused = db.prepare<[number, number], Row>(
    `SELECT ${columns} FROM results WHERE run = ?
       OR id IN (SELECT value FROM runs, json_each(runs.reused) WHERE runs.id = ?) ${order}`,
  );
  const latest = db.prepare<[], Row>(
    `SELECT ${columns} FROM results WHERE id IN (SELECT result FROM present) ORDER BY component, id`,
  );
  const history = db.prepare<[string, string, string, number], Row>(
    `SELECT ${columns} FROM results WHERE component = ? AND look = ? AND environment = ? ORDER BY id DESC LIMIT ?`,
  );
  const stored = db.prepare<[number], Omit<StoredCapture, 'state'> & { about: string }>(
    `SELECT r.run, r.component, r.look, r.environment, c.name, c.hash, c.markup, c.manifest, c.fingerprint, c.about
     FROM captures c JOIN results r ON r.id = c.result WHERE r.id = ? ORDER BY c.id`,
  );
  const stand = db.prepare(nowStands);
  const present = db.prepare<[], { result: number | null }>('SELECT result FROM present');
  const now = db.prepare<[string, string, string], { result: number | null }>(
    'SELECT result FROM present WHERE component = ? AND look = ? AND environment = ?',
  );
  const summary = summariser(db, decisions);
  const read = <T>(hash: string): T => JSON.parse(blobs.get(hash)!.bytes.toString('utf8')) as T;
  return {
    add(run, result, unstable, basis = null) {
      const id = add(run, result, unstable, basis);
      if (basis) resting.added(basis.key);
      return summary(one.get(id)!);
    },
    resting: resting.of,
    forget: resting.forget,
    get(id) {
      const row = one.get(id);
      return row ? summary(row) : null;
    },
    timeline(id) {
      const row = one.get(id);
      if (!row) return null;
      const lanes = read<Pick<Timeline, 'steps' | 'marks' | 'taken' | 'assets' | 'flames'>>(row.lanes);
      return {
        ...lanes,
        base: read(row.base),
        patches: read(row.patches),
        source: row.source ? blobs.get(row.source)!.bytes.toString('utf8') : null,
      };
    },
    ofRun: (run, own = false) => (own ? ofRun.all(run) : withReused.all(run, run)).map(summary),
    ...timesOf(db),
    latest: () => latest.all().map(summary),
    stand: db.transaction((ids: readonly number[]) => {
      // Most of them have not been anything else meanwhile.
      const now = new Set(present.all().map(({ result }) => result));
      for (const id of ids) if (!now.has(id)) stand.run(id);
    }),
    now: (component, look, environment) => now.get(component, look, environment)?.result ?? null,
    history: (component, look, environment, limit) => history.all(component, look, environment, limit).map(summary),
    captures: (result) =>
      stored
        .all(result)
        .map(({ about, ...capture }) => ({ ...capture, state: (JSON.parse(about) as CaptureSummary).state.kind })),
    coverage: coverageReaderOf(db, read),
    ...steadinessOf(db),
  };
}
