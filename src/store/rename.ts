/** A look gets another name in the records. Decisions are never changed: they are told once more under the new one. */
import type { LookName } from '../core/look/look.ts';
import type { Db } from './database.ts';
import type { Decision } from './decisions.ts';

/** Renames a look; to be called within a transaction. What was decided under its old name stays there, too. */
export function renamerOf(db: Db): (from: LookName, to: string) => void {
  const old = db.prepare<[string, string], Decision>(
    'SELECT * FROM decisions WHERE component = ? AND look = ? ORDER BY id',
  );
  // An undo would bring files back under the old name, so what is told once more belongs to no batch.
  const again = db.prepare<object, { id: number }>(
    `INSERT INTO decisions
       (at, who, kind, why, run, component, look, environment, capture, hash, markup, manifest, fingerprint,
        "commit", branch, sources, undoes, fixer)
     VALUES (@at, @who, @kind, @why, @run, @component, @look, @environment, @capture, @hash, @markup, @manifest,
       @fingerprint, @commit, @branch, @sources, @undoes, @fixer) RETURNING id`,
  );
  const updates = [
    `UPDATE results SET look = @to, about = json_set(about, '$.look', @to), key = NULL
     WHERE component = @component AND look = @look`,
    'UPDATE OR REPLACE present SET look = @to WHERE component = @component AND look = @look',
    'UPDATE comments SET look = @to WHERE component = @component AND look = @look',
  ].map((sql) => db.prepare(sql));
  return ({ component, look }, to) => {
    const ids = new Map<number, number>();
    for (const decision of old.all(component, look)) {
      const undoes = decision.undoes === null ? null : (ids.get(decision.undoes) ?? null);
      ids.set(decision.id, again.get({ ...decision, look: to, undoes })!.id);
    }
    for (const update of updates) update.run({ component, look, to });
  };
}
