/** What the board shows, read in one go: a tile needs little of a result, and there may be ten thousand of them. */
import { type LookName, lookKey } from '../core/look/look.ts';
import { beginningOf, type BoardDecision, type BoardEntry, type BoardLook, boardOf } from '../core/run/board.ts';
import type { Verdict } from '../core/run/verdict.ts';
import type { Db } from './database.ts';

export type Board = {
  /** Every look that there is, with what it stands at. */
  looks(): BoardLook[];
  /** How many captures nobody has decided about. */
  undecided(): number;
};

type Row = Omit<BoardEntry, 'undecided' | 'decision' | 'skip'>;
type Skipped = LookName & { why: string };
type Open = Omit<BoardDecision, 'kind'> & { result: number; kind: string | null; count: number };

/** The captures of the newest results that are not as approved, by the decision about each that holds now. */
const open = `SELECT o.result, d.kind, count(*) AS count, d.who, d.why, d.fixer FROM (
    SELECT c.result, (
      SELECT d.id FROM held d
      WHERE d.component = r.component AND d.look = r.look AND d.environment = r.environment AND d.capture = c.name
        AND d.hash = c.hash AND d.markup = c.markup AND (d.kind = 'reject' OR d.fingerprint = c.fingerprint)
        AND d.id >= coalesce((
          SELECT max(n.id) FROM held n
          WHERE n.component = r.component AND n.look = r.look AND n.environment = r.environment
            AND n.capture = c.name AND n.kind IN ('approve', 'adopt')), 0)
      ORDER BY d.id DESC LIMIT 1
    ) AS decision
    FROM present p JOIN results r ON r.id = p.result JOIN captures c ON c.result = r.id
    WHERE c.about ->> '$.state.kind' <> 'same'
      AND NOT (r.verdict IN ('failed', 'broken') AND c.about ->> '$.state.kind' = 'new')
  ) o LEFT JOIN decisions d ON d.id = o.decision GROUP BY o.result, d.kind`;

/** A verdict that is only about pictures holds until somebody has approved them all. */
const standing = (verdict: Verdict, isOpen: boolean): Verdict =>
  !isOpen && (verdict === 'changed' || verdict === 'new') ? 'passed' : verdict;

export function boardIn(db: Db): Board {
  // CROSS: begins at the looks that there are, of which there are few. Results are there of all runs.
  const rows = db.prepare<[], Row>(
    `SELECT p.file, p.component, p.look, p.environment, r.id, r.verdict, r.about ->> '$.order' AS "order",
       (SELECT hash FROM captures WHERE result = r.id ORDER BY id DESC LIMIT 1) AS picture,
       (SELECT count(*) FROM captures WHERE result = r.id) AS captures
     FROM present p CROSS JOIN results r ON r.id = p.result`,
  );
  const opens = db.prepare<[], Open>(open);
  const skips = db.prepare<[], Skipped>(
    `SELECT one.value ->> 'component' AS component, one.value ->> 'look' AS look, one.value ->> 'skip' AS why
     FROM declared, json_each(declared.looks) AS one WHERE one.value ->> 'skip' IS NOT NULL`,
  );
  return {
    looks() {
      const skipped = new Map(skips.all().map(({ component, look, why }) => [lookKey(component, look), why]));
      const undecided = new Map<number, number>();
      const decisions = new Map<number, BoardDecision>();
      for (const { result, kind, count, who, why, fixer } of opens.all())
        if (kind === null) undecided.set(result, count);
        else if (kind === 'reject' || (kind === 'approve' && !decisions.has(result)))
          decisions.set(result, { kind, who, why, fixer });
      const entries = rows
        .all()
        .map(({ id, verdict, picture, file, component, look, environment, order, captures }) => {
          const decision = decisions.get(id) ?? null;
          return {
            file,
            component,
            look,
            order,
            skip: skipped.get(lookKey(component, look)) ?? null,
            id,
            environment,
            verdict: standing(verdict, decision?.kind === 'reject' || undecided.has(id)),
            picture: picture === null ? null : beginningOf(picture),
            captures,
            undecided: undecided.get(id) ?? 0,
            decision,
          };
        });
      return boardOf(entries);
    },
    undecided: () => opens.all().reduce((sum, { kind, count }) => (kind === null ? sum + count : sum), 0),
  };
}
