/** Decisions about captures, append-only; the newest approval or adoption of a capture is its baseline. */
import type { CaptureKey } from '../core/baseline/baseline.ts';
import type { Db } from './database.ts';

export type DecisionKind = 'approve' | 'reject' | 'adopt' | 'undo';

export type Decision = CaptureKey & {
  id: number;
  at: string;
  who: string;
  kind: DecisionKind;
  why: string | null;
  run: number | null;
  /** Hashes of the PNG and the markup that were decided about. */
  hash: string;
  markup: string;
  /** Hash of the manifest; null where there is none, as for what was adopted from the folder. */
  manifest: string | null;
  fingerprint: string;
  commit: string | null;
  /** The branch that the project was on; null outside git, and where no branch was. */
  branch: string | null;
  /** Hash of the sources of that run, by path; null where they were not kept. */
  sources: string | null;
  /** Equal for what was decided at once; null for what was not decided by a person here. */
  batch: number | null;
  /** The decision that this one takes back; null for all other kinds. */
  undoes: number | null;
  /** JSON: the folder's files of the capture before it, by path: hashes of what they held, null where none was. */
  former: string | null;
  /** Who is to fix what was rejected; null when nobody was named. */
  fixer: string | null;
  /** The description in the folder that was taken in, relative to the project; null for what was decided here. */
  file: string | null;
};

export type NewDecision = Omit<Decision, 'id' | 'at'>;

export type Decisions = {
  add(decision: NewDecision): Decision;
  /** The number that the next decisions made at once share. */
  nextBatch(): number;
  /** The decisions of a batch that nobody has taken back. */
  ofBatch(batch: number): Decision[];
  /** The newest batch that was not taken back, or null. */
  lastBatch(): number | null;
  /** What a capture is compared with, or null. */
  baseline(key: CaptureKey): Decision | null;
  /**
   * The newest decision about exactly this picture and markup of a capture, or null. An approval is one of what one
   * browser draws, a rejection of what is shown.
   */
  about(key: CaptureKey, shown: Pick<Decision, 'hash' | 'markup' | 'fingerprint'>): Decision | null;
  /** True for a decision that was made against the baseline that holds now: none has replaced that since. */
  stands(key: CaptureKey, decision: Decision): boolean;
  /** The decisions that hold for the captures of a look. */
  standing(component: string, look: string, environment: string): Decision[];
  /** A text that is another one when another decision holds for any capture of a look. */
  identityOf(component: string, look: string, environment: string): string;
  /** A number that grows with every decision. */
  last(): number;
  get(id: number): Decision | null;
  /** Newest first. */
  history(key: Omit<CaptureKey, 'capture'>): Decision[];
};

const key = 'component = @component AND look = @look AND environment = @environment AND capture = @capture';

export function decisionsOf(db: Db): Decisions {
  const insert = db.prepare<object, Decision>(
    `INSERT INTO decisions
       (at, who, kind, why, run, component, look, environment, capture, hash, markup, manifest, fingerprint,
        "commit", branch, sources, batch, undoes, former, fixer, file)
     VALUES (@at, @who, @kind, @why, @run, @component, @look, @environment, @capture, @hash, @markup, @manifest,
       @fingerprint, @commit, @branch, @sources, @batch, @undoes, @former, @fixer, @file) RETURNING *`,
  );
  const newest = db.prepare<CaptureKey, Decision>(
    `SELECT * FROM held WHERE ${key} AND kind IN ('approve', 'adopt') ORDER BY id DESC LIMIT 1`,
  );
  const about = db.prepare<CaptureKey & { hash: string; markup: string; fingerprint: string }, Decision>(
    `SELECT * FROM held WHERE ${key} AND hash = @hash AND markup = @markup
     AND (kind = 'reject' OR fingerprint = @fingerprint) ORDER BY id DESC LIMIT 1`,
  );
  const history = db.prepare<Omit<CaptureKey, 'capture'>, Decision>(
    `SELECT * FROM decisions WHERE component = @component AND look = @look AND environment = @environment
     ORDER BY id DESC LIMIT 200`,
  );
  const last = db.prepare<[], { id: number | null }>('SELECT max(id) AS id FROM decisions');
  const baselines = db.prepare<[string, string, string], Decision>(
    `SELECT *, max(id) FROM held WHERE component = ? AND look = ? AND environment = ?
     AND kind IN ('approve', 'adopt') GROUP BY capture`,
  );
  const batch = db.prepare<[], { batch: number | null }>(
    'SELECT max(batch) AS batch FROM (SELECT batch FROM decisions UNION ALL SELECT batch FROM cause_decisions)',
  );
  const ofBatch = db.prepare<[number], Decision>('SELECT * FROM held WHERE batch = ? ORDER BY id');
  const lastBatch = db.prepare<[], { batch: number | null }>(
    `SELECT max(batch) AS batch FROM (SELECT batch FROM held UNION ALL
     SELECT batch FROM cause_decisions GROUP BY batch HAVING sum(kind = 'undo') = 0)`,
  );
  const one = db.prepare<[number], Decision>('SELECT * FROM decisions WHERE id = ?');
  return {
    nextBatch: () => (batch.get()?.batch ?? 0) + 1,
    ofBatch: (number) => ofBatch.all(number),
    lastBatch: () => lastBatch.get()?.batch ?? null,
    get: (id) => one.get(id) ?? null,
    stands: (wanted, { id }) => id >= (newest.get(wanted)?.id ?? 0),
    standing: (component, look, environment) => baselines.all(component, look, environment),
    identityOf: (component, look, environment) =>
      baselines
        .all(component, look, environment)
        .map(({ id }) => id)
        .sort((a, b) => a - b)
        .join(),
    add: (decision) => insert.get({ ...decision, at: new Date().toISOString() })!,
    baseline: (wanted) => newest.get(wanted) ?? null,
    about: ({ component, look, environment, capture }, { hash, markup, fingerprint }) =>
      about.get({ component, look, environment, capture, hash, markup, fingerprint }) ?? null,
    last: () => last.get()?.id ?? 0,
    history: (wanted) => history.all(wanted),
  };
}
