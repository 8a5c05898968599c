/**
 * A worker: takes task after task from a port and does it in its lane. What is behind the port may be another
 * machine.
 */
import type { Bundle } from '../bundle/index.ts';
import { messageOf, type Problem, problem } from '../core/problem/problem.ts';
import type { FinishedLook } from '../core/run/finished.ts';
import type { FileReport, LookRequest } from '../core/wire/wire.ts';
import { confirm } from './confirm.ts';
import { browserIsGone } from './crew.ts';
import type { FindingMemory } from './recall.ts';
import { brokenBy, type Execution } from './execution.ts';
import type { Job, LookTask, Ran, Task } from './job.ts';
import type { Lane } from './lane.ts';

/** Where a worker gets its tasks and brings what came of them. */
export type Port = {
  /** The next task for a worker whose document is that of `loaded`; null when there is nothing left to do. */
  next(loaded: Job | null): Promise<Task | null>;
  /** A look file was opened, or could not be. */
  opened(job: Job, report: FileReport): void;
  /** A look was run in a document that had run the looks in `before` already. */
  done(task: LookTask, execution: Execution, before: Ran[]): void;
  /** Finishes an execution that is not the last word yet. */
  finish(task: LookTask, execution: Execution): Promise<FinishedLook>;
  confirmed(look: FinishedLook): void;
};

/** What a worker needs of its lane. */
type LaneUse = Pick<Lane, 'open' | 'run' | 'leave' | 'ran'>;

/** Trouble with the page rather than with the look: it is tried once more. */
const isLoss = (wrong: Problem | null): boolean =>
  wrong !== null && ['page-crashed', 'page-silent', 'window-closed'].includes(wrong.code);

/** Does something that needs the browser, and once more with a new one when it went away. */
async function attempt<T>(work: () => Promise<T>): Promise<{ value: T } | { lost: Problem }> {
  for (let tries = 0; ; tries++) {
    try {
      return { value: await work() };
    } catch (error) {
      if (!browserIsGone(error)) return { lost: problem('internal', { error: messageOf(error) }) };
      if (tries > 0) return { lost: problem('browser-gone', { why: error.message }) };
    }
  }
}

/** A look that somebody looks on at: what each step waits for them, and that it stays on the screen at the end. */
export type Seen = {
  pace?: number;
  stays?: boolean;
  audit?: LookRequest['audit'];
  memory?: FindingMemory | null;
  timed?: boolean;
};

/** In which document a look is run: a fresh one or one that others share; and which looks are run there first. */
type How = { isFresh: boolean; after?: readonly Ran[]; watched?: boolean } & Seen;

/** Runs one look. */
async function runOnce(
  bundle: Bundle,
  lane: LaneUse,
  { job, info, approved, isPhotographed }: LookTask,
  { isFresh, after = [], watched = false, pace = 0, stays = false, audit = null, memory = null, timed = false }: How,
): Promise<Execution> {
  const tried = await attempt(async () => {
    for (const [i, { file, look }] of after.entries()) {
      const opened = await lane.open(bundle, file, job.environment, isFresh && i === 0);
      // Looking at what the keyboard reaches presses keys, of which a library may keep that it was used last.
      if ('looks' in opened) await lane.run(look, job.environment, { audit });
    }
    const report = await lane.open(bundle, job.file, job.environment, isFresh && after.length === 0);
    if ('problem' in report) return brokenBy(report.problem, report.stack);
    return lane.run(info.look, job.environment, {
      approved,
      isPhotographed,
      watched,
      pace,
      stays,
      audit,
      memory,
      timed,
    });
  });
  return 'lost' in tried ? brokenBy(tried.lost) : tried.value;
}

/** Runs one look; once more when the page was lost. */
async function runLook(bundle: Bundle, lane: LaneUse, task: LookTask, how: How): Promise<Execution> {
  const first = await runOnce(bundle, lane, task, how);
  if (!isLoss(first.report.problem)) return first;
  const second = await runOnce(bundle, lane, task, { ...how, isFresh: true });
  if (!isLoss(second.report.problem)) second.report.notes.push(`At the first try: ${first.report.problem!.message}`);
  return second;
}

/** Opens a look file; once more when the page was lost. */
async function openFile(bundle: Bundle, lane: LaneUse, { file, environment }: Job): Promise<FileReport> {
  const open = async (): Promise<FileReport> => {
    const opened = await attempt(() => lane.open(bundle, file, environment));
    return 'lost' in opened ? { problem: opened.lost, stack: null } : opened.value;
  };
  const first = await open();
  return 'problem' in first && isLoss(first.problem) ? open() : first;
}

/** Works until the port has nothing left. */
export async function work(port: Port, bundle: Bundle, lane: LaneUse, seen: Seen = {}): Promise<void> {
  let loaded: Job | null = null;
  for (let task = await port.next(loaded); task; task = await port.next(loaded)) {
    if (task.kind === 'confirm') {
      const { task: again, before, first } = task;
      // It costs some speed, so only what has not ended once is watched.
      const watched = first.problem?.code === 'look-endless';
      const { audit = null, memory = null } = seen;
      const run = async (after: readonly Ran[] = []): Promise<FinishedLook> =>
        port.finish(again, await runLook(bundle, lane, again, { isFresh: true, after, watched, audit, memory }));
      port.confirmed(await confirm(first, before, { alone: () => run(), after: run }));
      lane.leave();
      continue;
    }
    const { job } = task;
    loaded = job;
    if (task.kind === 'look') {
      const execution = await runLook(bundle, lane, task, { isFresh: task.isAlone, ...seen });
      port.done(task, execution, lane.ran.slice(0, -1));
      // What needs a document of its own is no good neighbour either.
      if (task.isAlone) lane.leave();
      continue;
    }
    port.opened(job, await openFile(bundle, lane, job));
  }
}
