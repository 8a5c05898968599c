/**
 * A worker: takes task after task from a port and does it in its lane. What is behind the port may be another
 * machine.
 */
import type { Bundle } from '../bundle/index.ts';
import { messageOf, type Problem, problem } from '../core/problem/problem.ts';
import type { FileReport } from '../core/wire/wire.ts';
import { browserIsGone } from './crew.ts';
import { brokenBy, type Execution } from './execution.ts';
import type { Job, Task } from './job.ts';
import type { Lane } from './lane.ts';

/** Where a worker gets its tasks and brings what came of them. */
export type Port = {
  /** The next task for a worker whose document is that of `loaded`; null when there is nothing left to do. */
  next(loaded: Job | null): Promise<Task | null>;
  /** A look file was opened, or could not be. */
  opened(job: Job, report: FileReport): void;
  /** A look was run. */
  done(task: Task & { kind: 'look' }, execution: Execution): void;
};

/** True for a look that was stopped: on a busy machine, or after what ran before it, it may have come to its end. */
const isEndless = ({ report: { problem: wrong } }: Execution): boolean => wrong?.code === 'look-endless';

/** True for a failure that running the look alone may change. */
const worthAnotherTry = ({ report: { outcome, problem: wrong } }: Execution): boolean =>
  outcome === 'failed' ||
  (wrong !== null && ['render-threw', 'internal', 'page-forged', 'page-left', 'look-endless'].includes(wrong.code));

/** Trouble with the page rather than with the look: it is tried once more, whether it was alone or not. */
const isLoss = ({ report: { problem: wrong } }: Execution): boolean =>
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

/** What a second try, alone in a fresh document, makes of the first one. */
function weigh(first: Execution, alone: Execution): Execution {
  if (isLoss(first) || (isEndless(first) && !isEndless(alone))) {
    if (!isLoss(alone)) alone.report.notes.push(`At the first try: ${first.report.problem!.message}`);
    return alone;
  }
  if (alone.report.outcome === first.report.outcome) return alone;
  const { outcome } = alone.report;
  const how = outcome === 'passed' ? 'passes' : `is ${outcome}`;
  first.report.notes.push(`Run alone in a fresh document it ${how}: it depends on what ran before it.`);
  first.orderDependent = true;
  return first;
}

/** Runs one look, and once more alone where that may tell more. */
async function runLook(
  bundle: Bundle,
  lane: Lane,
  task: Task & { kind: 'look' },
  isolate: boolean,
): Promise<Execution> {
  const { job, info, approved } = task;
  const run = async (fresh: boolean): Promise<Execution> => {
    const report = await lane.open(bundle, job.file, job.environment, fresh);
    if ('problem' in report) return brokenBy(report.problem, report.stack);
    return lane.run(info.look, job.environment, { approved });
  };
  const first = await attempt(() => run(isolate));
  const execution = 'lost' in first ? brokenBy(first.lost) : first.value;
  if (!isLoss(execution) && !(lane.ran > 1 && worthAnotherTry(execution))) return execution;
  const alone = await attempt(() => run(true));
  return 'value' in alone ? weigh(execution, alone.value) : execution;
}

/** Works until the port has nothing left. */
export async function work(port: Port, bundle: Bundle, lane: Lane, isolate: boolean): Promise<void> {
  let loaded: Job | null = null;
  for (let task = await port.next(loaded); task; task = await port.next(loaded)) {
    const { job } = task;
    loaded = job;
    if (task.kind === 'look') {
      port.done(task, await runLook(bundle, lane, task, isolate));
      continue;
    }
    const opened = await attempt(() => lane.open(bundle, job.file, job.environment));
    port.opened(job, 'lost' in opened ? { problem: opened.lost, stack: null } : opened.value);
  }
}
