/** Runs. Counts are taken from the results, so that they are right whenever the service was ended. */
import type { Problem } from '../core/problem.ts';
import type { RunRequest, RunStatus, RunSummary } from '../core/run.ts';
import { tally, type Verdict } from '../core/verdict.ts';
import type { Db } from './database.ts';

type Row = {
  id: number;
  status: RunStatus;
  started: string;
  finished: string | null;
  request: string;
  planned: number;
  engine: string | null;
  commit: string | null;
  problem: string | null;
};

export type Runs = {
  begin(request: RunRequest, commit: string | null): number;
  /** Changes what is said of a run while it goes on. */
  update(id: number, change: { planned?: number; engine?: string }): void;
  end(id: number, status: Exclude<RunStatus, 'running'>, problem: Problem | null): void;
  get(id: number): RunSummary | null;
  /** Newest first. */
  list(limit: number): RunSummary[];
  /** The ids of runs that a service which is no longer there has left going on. */
  unfinished(): number[];
};

export function runsOf(db: Db): Runs {
  const insert = db.prepare('INSERT INTO runs (status, started, request, "commit") VALUES (\'running\', ?, ?, ?)');
  const setPlanned = db.prepare('UPDATE runs SET planned = ? WHERE id = ?');
  const setEngine = db.prepare('UPDATE runs SET engine = ? WHERE id = ?');
  const finish = db.prepare('UPDATE runs SET status = ?, finished = ?, problem = ? WHERE id = ?');
  const one = db.prepare<[number], Row>('SELECT * FROM runs WHERE id = ?');
  const newest = db.prepare<[number], Row>('SELECT * FROM runs ORDER BY id DESC LIMIT ?');
  const open = db.prepare<[], { id: number }>("SELECT id FROM runs WHERE status = 'running'");
  const verdicts = db.prepare<[number], { verdict: Verdict; n: number }>('SELECT verdict, count(*) AS n FROM results WHERE run = ? GROUP BY verdict');
  const captures = db.prepare<[number], { n: number; unstable: number | null }>(
    'SELECT count(*) AS n, sum(c.unstable) AS unstable FROM captures c JOIN results r ON r.id = c.result WHERE r.run = ?',
  );
  const summary = (row: Row): RunSummary => {
    const counts = tally([]);
    for (const { verdict, n } of verdicts.all(row.id)) counts[verdict] = n;
    const taken = captures.get(row.id);
    return {
      id: row.id,
      status: row.status,
      started: row.started,
      finished: row.finished,
      request: JSON.parse(row.request) as RunRequest,
      planned: row.planned,
      done: Object.values(counts).reduce((sum, n) => sum + n, 0),
      tally: counts,
      captures: taken?.n ?? 0,
      unstable: taken?.unstable ?? 0,
      engine: row.engine,
      commit: row.commit,
      problem: row.problem ? (JSON.parse(row.problem) as Problem) : null,
    };
  };
  return {
    begin: (request, commit) => Number(insert.run(new Date().toISOString(), JSON.stringify(request), commit).lastInsertRowid),
    update(id, { planned, engine }) {
      if (planned !== undefined) setPlanned.run(planned, id);
      if (engine !== undefined) setEngine.run(engine, id);
    },
    end: (id, status, wrong) => void finish.run(status, new Date().toISOString(), wrong && JSON.stringify(wrong), id),
    get(id) {
      const row = one.get(id);
      return row ? summary(row) : null;
    },
    list: (limit) => newest.all(limit).map(summary),
    unfinished: () => open.all().map(({ id }) => id),
  };
}
