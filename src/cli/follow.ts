/** Follows a run: starts it, and shows how far it is until it has ended. */
import type { Client } from '../client/client.ts';
import { lineOfLook } from '../core/look/source.ts';
import { isWrong, placeOf } from '../core/report/report.ts';
import { ProblemError } from '../core/problem/problem.ts';
import { noProgress, progressText } from '../core/run/progress.ts';
import type { ResultSummary, RunRequest, RunSummary } from '../core/run/run.ts';
import { failureLine, isCi, logOf } from './ci.ts';
import { findService, type Found } from './find.ts';
import { lookLine } from './print.ts';

/** A line at the bottom of a terminal that says how far the run is. */
export function progressLine(active: boolean): { show(text: string): void; line(text: string): void; clear(): void } {
  const clear = (): void => void (active && process.stdout.write('\r\u001b[2K'));
  return {
    clear,
    show: (text) =>
      void (active && process.stdout.write(`\r\u001b[2K${text.slice(0, (process.stdout.columns || 80) - 1)}`)),
    line(text) {
      clear();
      process.stdout.write(`${text}\n`);
    },
  };
}

/** How a run is followed: `stopAt` says of a result whether the run has gone far enough. */
type Following = { isQuiet: boolean; isJson: boolean; stopAt?(result: ResultSummary): boolean };

/** What says nothing of each look says so often how far it is where there is no terminal, in milliseconds. */
const quietly = 30_000;

/** True for what is said by a service that was found just before its end. */
const isEnding = (error: unknown): boolean =>
  error instanceof ProblemError && /^service-(ending|missing)$/.test(error.problem.code);

/**
 * Starts a run and shows its progress until it has ended; with `isQuiet` without a line for each look. A service that
 * is about to end, as the command that it was started for has, gives way to another one in `found`.
 */
export async function follow(found: Found, request: Partial<RunRequest>, how: Following): Promise<RunSummary> {
  try {
    return await followIn(found, request, how);
  } catch (error) {
    if (!isEnding(error)) throw error;
    Object.assign(found, await findService(found.root));
    return followIn(found, request, how);
  }
}

async function followIn(
  { client }: Found,
  request: Partial<RunRequest>,
  { isQuiet, isJson, stopAt = () => false }: Following,
): Promise<RunSummary> {
  const abort = new AbortController();
  const terminal = process.stdout.isTTY === true && !isJson;
  const line = progressLine(terminal);
  let ready: () => void = () => {};
  const listening = new Promise<void>((resolve) => (ready = resolve));
  const events = client.events(abort.signal, ready);
  const first = events.next();
  await Promise.race([listening, first]);
  const started = await client.startRun(request).catch((error: unknown) => {
    abort.abort();
    throw error;
  });
  let stopped = false;
  const stop = (): void => {
    if (stopped) process.exit(130);
    stopped = true;
    line.line('Stopping after the looks that are running…');
    client.stopRun(started.id).catch(() => {});
  };
  process.on('SIGINT', stop);
  line.show(started.status === 'queued' ? 'Waiting for another run to finish…' : '');
  const now = { planned: 0, done: 0, reused: 0 };
  let progress = noProgress;
  let own = 0;
  let told = performance.now();
  const show = (): void => {
    line.show(progressText(progress, now));
    if (terminal || isJson || !isQuiet || performance.now() < told + quietly) return;
    told = performance.now();
    process.stderr.write(`${progressText(progress, now)}\n`);
  };
  try {
    for (let next = await first; !next.done; next = await events.next()) {
      const event = next.value;
      if (event.kind === 'gap') break;
      if (event.kind === 'run-started' && event.run.id === started.id) show();
      else if (event.kind === 'run-progress' && event.run.id === started.id) {
        ({ progress } = event);
        const { planned, reused } = event.run;
        Object.assign(now, { planned, reused, done: reused + own });
        show();
      } else if (event.kind === 'look-finished' && event.run === started.id) {
        now.done = now.reused + ++own;
        if (stopAt(event.result)) client.stopRun(started.id).catch(() => {});
        const text = isJson || isQuiet ? null : await textOf(client, event.result, terminal);
        if (text !== null) line.line(text);
        show();
      } else if (event.kind === 'run-finished' && event.run.id === started.id) return event.run;
    }
    return await untilOver(client, started.id);
  } finally {
    line.clear();
    process.off('SIGINT', stop);
    abort.abort();
  }
}

/**
 * What is said of a look as soon as it has ended; null for nothing. A log of CI has a line for what went wrong, with
 * its place.
 */
async function textOf(client: Client, result: ResultSummary, terminal: boolean): Promise<string | null> {
  if (terminal || !isCi) return terminal && result.verdict === 'passed' ? null : lookLine(result);
  if (!isWrong(result, true)) return null;
  const { source } = placeOf(result).line === null ? await client.timeline(result.id) : { source: null };
  const own = source === null ? null : lineOfLook(source, result.look);
  const mark = logOf(process.env).mark(result, own);
  const line = failureLine(result, own);
  return mark === null ? line : `${line}\n${mark}`;
}

/** Waits for the end of a run whose events were missed. */
async function untilOver(client: Client, id: number): Promise<RunSummary> {
  for (;;) {
    const run = await client.run(id);
    if (run.status !== 'queued' && run.status !== 'running') return run;
    await new Promise((resolve) => setTimeout(resolve, 500));
  }
}
