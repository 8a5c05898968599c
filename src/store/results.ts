/** Results: what looks came to, with their captures and timelines. */
import { type LookName, lookKey } from '../core/look/look.ts';
import type { Basis, Resting } from '../core/run/basis.ts';
import type { FinishedCapture, FinishedLook } from '../core/run/finished.ts';
import { sheetsOf } from '../core/moment/canonical.ts';
import type { CaptureSummary, ResultSummary } from '../core/run/run.ts';
import type { Timeline } from '../core/timeline/timeline.ts';
import type { Verdict } from '../core/run/verdict.ts';
import type { Blobs } from './blobs.ts';
import type { Db } from './database.ts';
import type { Decisions } from './decisions.ts';

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
type About = Omit<ResultSummary, 'id' | 'run' | 'environment' | 'repetition' | 'verdict' | 'captures'>;

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
  /** Newest first. */
  history(component: string, look: string, environment: string, limit: number): ResultSummary[];
  captures(result: number): StoredCapture[];
  /** True for a capture that came out differently in the run of a result, or whose look did. */
  isUnsteady(capture: Pick<StoredCapture, 'run' | 'component' | 'look' | 'environment' | 'name'>): boolean;
  /** Tells which looks were ever found to depend on what ran before them, as far as results are kept. */
  dependent(): (look: LookName) => boolean;
};

const columns = 'id, run, environment, repetition, verdict, about, base, patches, lanes, source';

type RestingRow = Omit<Resting, 'files' | 'isUnsteady' | 'isContradiction' | 'isPhotographed'> & {
  public: string;
  unsteady: number;
  contradiction: number | null;
  photographed: number;
};

/** So many keys' results stay in memory: those of a large project's look files, in several states of its code. */
const mostKnown = 5000;

/** A look comes to what a result says. */
const standing = `UPDATE present SET result = r.id FROM (SELECT * FROM results WHERE id = ?) r
  WHERE present.component = r.component AND present.look = r.look AND present.environment = r.environment`;

type Write = (run: number, result: FinishedLook, unstable: ReadonlySet<string>, basis: Basis | null) => number;

/** Keeps results, with their captures and everything that these are made of, and says their ids. */
function writerOf(db: Db, blobs: Blobs): Write {
  const insert = db.prepare(
    `INSERT INTO results
       (run, component, look, environment, repetition, verdict, about, base, patches, lanes, source, files,
         key, baselines, public)
     VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?)`,
  );
  const insertCapture = db.prepare(
    `INSERT INTO captures (result, name, hash, about, markup, manifest, fingerprint, unstable)
     VALUES (?, ?, ?, ?, ?, ?, ?, ?)`,
  );
  const stand = db.prepare(standing);
  const json = 'application/json';
  const text = (value: unknown): Buffer => Buffer.from(JSON.stringify(value));

  /** A capture points at everything it is made of by content. */
  const keepCapture = (
    result: number,
    capture: FinishedCapture,
    { base, assets }: Timeline,
    isUnstable: boolean,
  ): void => {
    const { summary: about, png, differencePng, moment, markup, fingerprint } = capture;
    blobs.put(png, 'image/png');
    if (differencePng) blobs.put(differencePng, 'image/png');
    for (const sheet of Object.values(base.sheets)) if ('css' in sheet) blobs.put(Buffer.from(sheet.css), 'text/css');
    const kept = blobs.put(text(moment), json);
    const sheets = sheetsOf(moment).filter((hash) => blobs.has(hash));
    const { width, height } = about;
    const manifest = { picture: about.hash, moment: kept, sheets, assets, fingerprint, width, height };
    const manifestHash = blobs.put(text(manifest), json);
    const markupHash = blobs.put(text(markup), json);
    const row = [result, about.name, about.hash, JSON.stringify(about), markupHash, manifestHash, fingerprint];
    insertCapture.run(...row, isUnstable ? 1 : 0);
  };

  return db.transaction<Write>((run, result, unstable, basis) => {
    const { info, timeline } = result;
    const base = blobs.put(text(timeline.base), json);
    // Patches and steps speak of the same elements and words as the base: packed from it they shrink tenfold.
    const patches = blobs.put(text(timeline.patches), json, base);
    const lanes = blobs.put(
      text({ steps: timeline.steps, marks: timeline.marks, taken: timeline.taken, assets: timeline.assets }),
      json,
      patches,
    );
    const source = timeline.source === null ? null : blobs.put(Buffer.from(timeline.source), 'text/plain');
    for (const { type, body } of result.files.values()) blobs.put(body, type);
    const files = JSON.stringify([...result.files.keys()]);
    const about: About = {
      ...info,
      problem: result.problem,
      notes: result.notes,
      orderDependent: result.orderDependent,
      isUnsteady: result.isUnsteady,
      isContradiction: result.isContradiction,
      took: result.took,
      steps: timeline.steps.length,
      failedStep: result.failedStep,
      evidence: result.evidence,
    };
    const id = Number(
      insert.run(
        run,
        info.component,
        info.look,
        result.environment,
        result.repetition,
        result.verdict,
        JSON.stringify(about),
        base,
        patches,
        lanes,
        source,
        files,
        basis?.key,
        basis?.baselines,
        basis && JSON.stringify(basis.files),
      ).lastInsertRowid,
    );
    for (const capture of result.captures) keepCapture(id, capture, timeline, unstable.has(capture.summary.name));
    stand.run(id);
    return id;
  });
}

/** Reads results as they are told to people, with what has been decided about their captures since. */
function summariser(db: Db, decisions: Decisions): (row: Row) => ResultSummary {
  const capturesOf = db.prepare<[number], { about: string; markup: string }>(
    'SELECT about, markup FROM captures WHERE result = ? ORDER BY id',
  );
  return (row) => {
    const about = JSON.parse(row.about) as About;
    const captures = capturesOf.all(row.id).map((found): CaptureSummary => {
      const kept = JSON.parse(found.about) as CaptureSummary;
      const capture = { ...kept, isVouched: kept.isVouched ?? false };
      const key = { component: about.component, look: about.look, environment: row.environment, capture: capture.name };
      const decision = decisions.about(key, capture.hash, found.markup);
      if (!decision) return { ...capture, decision: null };
      const { kind, who, at, why } = decision;
      return { ...capture, decision: { kind, who, at, why, stands: decisions.stands(key, decision) } };
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

export function resultsOf(db: Db, blobs: Blobs, decisions: Decisions): Results {
  const add = writerOf(db, blobs);
  const one = db.prepare<[number], Row>(`SELECT ${columns} FROM results WHERE id = ?`);
  const order = 'ORDER BY component, look, environment, repetition';
  const ofRun = db.prepare<[number], Row>(`SELECT ${columns} FROM results WHERE run = ? ${order}`);
  const withReused = db.prepare<[number, number], Row>(
    `SELECT ${columns} FROM results WHERE run = ?
       OR id IN (SELECT value FROM runs, json_each(runs.reused) WHERE runs.id = ?) ${order}`,
  );
  const resting = db.prepare<[string], RestingRow>(
    `SELECT id, component, look, verdict, baselines, public, about ->> '$.isUnsteady' AS unsteady,
       about ->> '$.isContradiction' AS contradiction, about ->> '$.took' AS took,
       NOT EXISTS (SELECT 1 FROM captures WHERE result = results.id AND about ->> '$.isVouched') AS photographed
     FROM results WHERE key = ? ORDER BY id DESC`,
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
  const stand = db.prepare(standing);
  const present = db.prepare<[], { result: number | null }>('SELECT result FROM present');
  const summary = summariser(db, decisions);
  const read = <T>(hash: string): T => JSON.parse(blobs.get(hash)!.bytes.toString('utf8')) as T;
  // A result never changes, and every run asks for most of them again.
  const known = new Map<string, Resting[]>();
  const readResting = (key: string): Resting[] =>
    resting.all(key).map(({ public: files, unsteady, contradiction, photographed, ...rest }) => ({
      ...rest,
      isUnsteady: unsteady === 1,
      isContradiction: contradiction === 1,
      isPhotographed: photographed === 1,
      files: JSON.parse(files) as Resting['files'],
    }));

  return {
    add(run, result, unstable, basis = null) {
      const id = add(run, result, unstable, basis);
      if (basis) known.delete(basis.key);
      return summary(one.get(id)!);
    },
    resting(key) {
      const found = known.get(key) ?? readResting(key);
      if (known.size >= mostKnown) known.clear();
      known.set(key, found);
      return found;
    },
    forget: () => known.clear(),
    get(id) {
      const row = one.get(id);
      return row ? summary(row) : null;
    },
    timeline(id) {
      const row = one.get(id);
      if (!row) return null;
      const lanes = read<Pick<Timeline, 'steps' | 'marks' | 'taken' | 'assets'>>(row.lanes);
      return {
        ...lanes,
        base: read(row.base),
        patches: read(row.patches),
        source: row.source ? blobs.get(row.source)!.bytes.toString('utf8') : null,
      };
    },
    ofRun: (run, own = false) => (own ? ofRun.all(run) : withReused.all(run, run)).map(summary),
    took: (file) => took.all(file),
    pace: () => pace.get()?.pace ?? null,
    latest: () => latest.all().map(summary),
    stand: db.transaction((ids: readonly number[]) => {
      // Most of them have not been anything else meanwhile.
      const now = new Set(present.all().map(({ result }) => result));
      for (const id of ids) if (!now.has(id)) stand.run(id);
    }),
    history: (component, look, environment, limit) => history.all(component, look, environment, limit).map(summary),
    captures: (result) =>
      stored
        .all(result)
        .map(({ about, ...capture }) => ({ ...capture, state: (JSON.parse(about) as CaptureSummary).state.kind })),
    ...steadinessOf(db),
  };
}
