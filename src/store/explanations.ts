/** Why captures changed, kept by what they are made of, and what was decided about the causes of each. */
import type { Explanation } from '../core/cause/cause.ts';
import type { FoundEdits } from '../core/cause/found.ts';
import type { Db } from './database.ts';

/** A decision about one cause of one pair of pictures. */
export type CauseDecision = {
  cause: string;
  pair: string;
  kind: 'approve' | 'reject' | 'undo';
  who: string;
  at: string;
  why: string | null;
  fixer: string | null;
  batch: number | null;
};

/** One that nobody has taken back. */
export type HeldCauseDecision = CauseDecision & { kind: 'approve' | 'reject' };

export type Explanations = {
  /** By the hash of both sides. */
  get(pair: string): Explanation | null;
  put(pair: string, explanation: Explanation): void;
  /** Which edits were found, by what was asked. */
  edits(asked: string): FoundEdits | null;
  putEdits(asked: string, found: FoundEdits): void;
  /** Appends decisions about causes. */
  decide(decisions: readonly Omit<CauseDecision, 'at'>[]): void;
  /** What was decided about causes in a batch. */
  ofBatch(batch: number): CauseDecision[];
  /** The newest decision about a cause of a pair, or null when there is none that holds. */
  decision(cause: string, pair: string): HeldCauseDecision | null;
};

export function explanationsOf(db: Db): Explanations {
  const select = db.prepare<[string], { explanation: string }>('SELECT explanation FROM explanations WHERE pair = ?');
  const insert = db.prepare('INSERT OR REPLACE INTO explanations (pair, explanation) VALUES (?, ?)');
  const edits = db.prepare<[string], { found: string }>('SELECT found FROM found_edits WHERE asked = ?');
  const putEdits = db.prepare('INSERT OR REPLACE INTO found_edits (asked, found) VALUES (?, ?)');
  const append = db.prepare(
    'INSERT INTO cause_decisions (at, who, kind, why, cause, pair, fixer, batch) VALUES (?, ?, ?, ?, ?, ?, ?, ?)',
  );
  const ofBatch = db.prepare<[number], CauseDecision>(
    'SELECT cause, pair, kind, who, at, why, fixer, batch FROM cause_decisions WHERE batch = ? ORDER BY id',
  );
  const newest = db.prepare<[string, string], CauseDecision>(
    `SELECT cause, pair, kind, who, at, why, fixer, batch FROM cause_decisions
     WHERE cause = ? AND pair = ? ORDER BY id DESC LIMIT 1`,
  );
  return {
    get(pair) {
      const row = select.get(pair);
      return row ? (JSON.parse(row.explanation) as Explanation) : null;
    },
    put: (pair, explanation) => void insert.run(pair, JSON.stringify(explanation)),
    edits(asked) {
      const row = edits.get(asked);
      return row ? (JSON.parse(row.found) as FoundEdits) : null;
    },
    putEdits: (asked, found) => void putEdits.run(asked, JSON.stringify(found)),
    decide: db.transaction((decisions: readonly Omit<CauseDecision, 'at'>[]) => {
      const at = new Date().toISOString();
      for (const { cause, pair, kind, who, why, fixer, batch } of decisions)
        append.run(at, who, kind, why, cause, pair, fixer, batch);
    }),
    ofBatch: (batch) => ofBatch.all(batch),
    decision(cause, pair) {
      const found = newest.get(cause, pair);
      return found && found.kind !== 'undo' ? (found as HeldCauseDecision) : null;
    },
  };
}
