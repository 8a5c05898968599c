/** Why captures changed, kept by what they are made of, and what was decided about the causes of each. */
import type { Explanation } from '../core/cause/cause.ts';
import type { FoundEdits } from '../core/cause/found.ts';
import type { Db } from './database.ts';

/** A decision about one cause of one pair of pictures. */
export type CauseDecision = {
  cause: string;
  pair: string;
  kind: 'approve' | 'reject';
  who: string;
  at: string;
  why: string | null;
};

export type Explanations = {
  /** By the hash of both sides. */
  get(pair: string): Explanation | null;
  put(pair: string, explanation: Explanation): void;
  /** Which edits were found, by what was asked. */
  edits(asked: string): FoundEdits | null;
  putEdits(asked: string, found: FoundEdits): void;
  /** Appends decisions about causes. */
  decide(decisions: readonly Omit<CauseDecision, 'at'>[]): void;
  /** The newest decision about a cause of a pair, or null. */
  decision(cause: string, pair: string): CauseDecision | null;
};

export function explanationsOf(db: Db): Explanations {
  const select = db.prepare<[string], { explanation: string }>('SELECT explanation FROM explanations WHERE pair = ?');
  const insert = db.prepare('INSERT OR REPLACE INTO explanations (pair, explanation) VALUES (?, ?)');
  const edits = db.prepare<[string], { found: string }>('SELECT found FROM found_edits WHERE asked = ?');
  const putEdits = db.prepare('INSERT OR REPLACE INTO found_edits (asked, found) VALUES (?, ?)');
  const append = db.prepare('INSERT INTO cause_decisions (at, who, kind, why, cause, pair) VALUES (?, ?, ?, ?, ?, ?)');
  const newest = db.prepare<[string, string], CauseDecision>(
    'SELECT cause, pair, kind, who, at, why FROM cause_decisions WHERE cause = ? AND pair = ? ORDER BY id DESC LIMIT 1',
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
      for (const { cause, pair, kind, who, why } of decisions) append.run(at, who, kind, why, cause, pair);
    }),
    decision: (cause, pair) => newest.get(cause, pair) ?? null,
  };
}
