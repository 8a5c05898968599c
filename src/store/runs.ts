/** Runs. Counts are taken from the results, so that they are right whenever the service was ended. */
import type { Problem } from '../core/problem/problem.ts';
import { type RunRequest, type RunStatus, type RunSummary, usualRequest } from '../core/run/run.ts';
import { tally, type Verdict } from '../core/run/verdict.ts';
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
  branch: string | null;
  problem: string | null;
  notes: string | null;
  reused: string | null;
  skipped: string | null;
};

/** Where git has a project. */
export type Whereabouts = { commit: string | null; branch: string | null };

export type Runs = {
  begin(request: RunRequest, at?: Whereabouts): number;
  /** A run that was waiting goes on now. */
  start(id: number): void;
  /** Changes what is said of a run while it goes on. */
  update(id: number, change: RunChange): void;
  /** A run is over. Where that cannot be written, on a full disk, it is remembered until it can. */
  end(id: number, status: Exclude<RunStatus, 'queued' | 'running'>, problems: Problem[]): void;
  /** Forgets a run that came to nothing. */
  forget(id: number): void;
  get(id: number): RunSummary | null;
  /** Hash of the files behind the looks of a run, by path; null for one that has not kept them. */
  sources(id: number): string | null;
  /** Newest first. */
  list(limit: number): RunSummary[];
  /** The newest finished run that has counted what its looks run; null when there is none. */
  newestCounted(): number | null;
  /** The ids of runs that a service which is no longer there has left going on. */
  unfinished(): number[];
};

type RunChange = {
  planned?: number;
  engine?: string;
  notes?: string[];
  reused?: readonly number[];
  skipped?: RunSummary['skipped'];
  /** Hash of the files behind its looks, by path. */
  sources?: string;
};

type Ending = { status: RunStatus; finished: string; problems: Problem[] };

/** Reads runs as they are told to people. */
function summariser(db: Db): (row: Row) => RunSummary {
  const verdicts = db.prepare<[number], { verdict: Verdict; n: number }>(
    'SELECT verdict, count(*) AS n FROM results WHERE run = ? GROUP BY verdict',
  );
  const captures = db.prepare<[number], { n: number; unstable: number | null }>(
    `SELECT count(*) AS n, sum(c.unstable) AS unstable
     FROM captures c JOIN results r ON r.id = c.result WHERE r.run = ?`,
  );
  return (row) => {
    const counts = tally([]);
    for (const { verdict, n } of verdicts.all(row.id)) counts[verdict] = n;
    const taken = captures.get(row.id);
    // Only what has passed is ever taken over.
    const reused = row.reused ? (JSON.parse(row.reused) as number[]).length : 0;
    counts.passed += reused;
    return {
      id: row.id,
      status: row.status,
      started: row.started,
      finished: row.finished,
      request: { ...usualRequest, ...(JSON.parse(row.request) as Partial<RunRequest>) },
      planned: row.planned,
      done: Object.values(counts).reduce((sum, n) => sum + n, 0),
      tally: counts,
      reused,
      captures: taken?.n ?? 0,
      unstable: taken?.unstable ?? 0,
      engine: row.engine,
      commit: row.commit,
      branch: row.branch,
      problems: row.problem ? [JSON.parse(row.problem) as Problem | Problem[]].flat() : [],
      skipped: row.skipped ? (JSON.parse(row.skipped) as RunSummary['skipped']) : [],
      notes: row.notes ? (JSON.parse(row.notes) as string[]) : [],
    };
  };
}

export function runsOf(db: Db): Runs {
  const insert = db.prepare(
    'INSERT INTO runs (status, started, request, "commit", branch) VALUES (\'queued\', ?, ?, ?, ?)',
  );
  const setPlanned = db.prepare('UPDATE runs SET planned = ? WHERE id = ?');
  const setEngine = db.prepare('UPDATE runs SET engine = ? WHERE id = ?');
  const begin = db.prepare("UPDATE runs SET status = 'running' WHERE id = ?");
  const setReused = db.prepare('UPDATE runs SET reused = ? WHERE id = ?');
  const setSources = db.prepare('UPDATE runs SET sources = ? WHERE id = ?');
  const sourcesOf = db.prepare<[number], { sources: string | null }>('SELECT sources FROM runs WHERE id = ?');
  const setSkipped = db.prepare('UPDATE runs SET skipped = ? WHERE id = ?');
  const setNotes = db.prepare('UPDATE runs SET notes = ? WHERE id = ?');
  const finish = db.prepare('UPDATE runs SET status = ?, finished = ?, problem = ? WHERE id = ?');
  const drop = db.prepare('DELETE FROM runs WHERE id = ? AND id NOT IN (SELECT run FROM results)');
  const summarised = summariser(db);
  const one = db.prepare<[number], Row>('SELECT * FROM runs WHERE id = ?');
  const newest = db.prepare<[number], Row>('SELECT * FROM runs ORDER BY id DESC LIMIT ?');
  const counted = db.prepare<[], { id: number }>(
    `SELECT id FROM runs WHERE status = 'finished' AND request ->> '$.coverage' ORDER BY id DESC LIMIT 1`,
  );
  const open = db.prepare<[], { id: number }>("SELECT id FROM runs WHERE status IN ('queued', 'running')");
  /** Ends of runs that could not be written yet. */
  const unwritten = new Map<number, Ending>();
  const summary = (row: Row): RunSummary => {
    const told = summarised(row);
    const late = unwritten.get(row.id);
    return late ? { ...told, status: late.status, finished: late.finished, problems: late.problems } : told;
  };
  const write = (id: number, { status, finished, problems }: Ending): void =>
    void finish.run(status, finished, problems.length > 0 ? JSON.stringify(problems) : null, id);
  const writeRest = (): void => {
    for (const [id, ending] of unwritten) {
      write(id, ending);
      unwritten.delete(id);
    }
  };
  return {
    begin(request, { commit, branch } = { commit: null, branch: null }) {
      writeRest();
      return Number(insert.run(new Date().toISOString(), JSON.stringify(request), commit, branch).lastInsertRowid);
    },
    start: (id) => void begin.run(id),
    update(id, { planned, engine, notes, reused, skipped, sources }) {
      if (sources !== undefined) setSources.run(sources, id);
      if (skipped !== undefined) setSkipped.run(JSON.stringify(skipped), id);
      if (reused !== undefined) setReused.run(JSON.stringify(reused), id);
      if (notes !== undefined) setNotes.run(JSON.stringify(notes), id);
      if (planned !== undefined) setPlanned.run(planned, id);
      if (engine !== undefined) setEngine.run(engine, id);
    },
    end(id, status, problems) {
      const ending = { status, finished: new Date().toISOString(), problems };
      try {
        write(id, ending);
      } catch {
        unwritten.set(id, ending);
      }
    },
    forget: (id) => void drop.run(id),
    get(id) {
      const row = one.get(id);
      return row ? summary(row) : null;
    },
    sources: (id) => sourcesOf.get(id)?.sources ?? null,
    list: (limit) => newest.all(limit).map(summary),
    unfinished: () => open.all().map(({ id }) => id),
    newestCounted: () => counted.get()?.id ?? null,
  };
}
