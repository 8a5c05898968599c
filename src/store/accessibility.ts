/** What the accessibility of looks lacks, and what was measured for it. */
import type { Finding, StoodFinding } from '../core/accessibility/finding.ts';
import type { LookFindings } from '../core/accessibility/listing.ts';
import type { Db } from './database.ts';

export type AccessibilityRecords = {
  /** What was found on pages and pictures, by what they show. */
  memory: { get(key: string): Finding[] | null; put(key: string, findings: readonly Finding[]): void };
  /** Of what every look comes to now, or of the results of a run. */
  latest(): LookFindings[];
  ofRun(run: number): LookFindings[];
  /** Of one result. */
  of(result: number): StoodFinding[];
};

type Row = Omit<LookFindings, 'findings'> & { findings: string };

const columns = `r.id AS result, r.component, r.look, r.environment, r.about ->> '$.file' AS file, r.findings,
  (SELECT hash FROM captures WHERE result = r.id AND name = 'end') AS picture`;

export function accessibilityOf(db: Db): AccessibilityRecords {
  const get = db.prepare<[string], { findings: string }>('SELECT findings FROM contrasts WHERE key = ?');
  const put = db.prepare('INSERT OR IGNORE INTO contrasts (key, findings) VALUES (?, ?)');
  const latest = db.prepare<[], Row>(
    `SELECT ${columns} FROM results r JOIN present p ON p.result = r.id WHERE r.findings IS NOT NULL ORDER BY r.id`,
  );
  const ofRun = db.prepare<[number, number], Row>(
    `SELECT ${columns} FROM results r WHERE r.findings IS NOT NULL AND (r.run = ?
       OR r.id IN (SELECT value FROM runs, json_each(runs.reused) WHERE runs.id = ?)) ORDER BY r.id`,
  );
  const one = db.prepare<[number], { findings: string | null }>('SELECT findings FROM results WHERE id = ?');
  const read = ({ findings, ...row }: Row): LookFindings => ({
    ...row,
    findings: JSON.parse(findings) as StoodFinding[],
  });
  return {
    memory: {
      get(key) {
        const found = get.get(key);
        return found ? (JSON.parse(found.findings) as Finding[]) : null;
      },
      put: (key, findings) => void put.run(key, JSON.stringify(findings)),
    },
    latest: () => latest.all().map(read),
    ofRun: (run) => ofRun.all(run, run).map(read),
    of: (result) => JSON.parse(one.get(result)?.findings ?? '[]') as StoodFinding[],
  };
}
