/** `sguardo watch`: runs the looks that depend on a file as soon as it is saved. */
import { spawn } from 'node:child_process';
import { createInterface, emitKeypressEvents } from 'node:readline';
import type { Command } from 'commander';
import pc from 'picocolors';
import type { ResultSummary, RunEvent, RunRequest, RunSummary } from '../core/run/run.ts';
import { hasFailed } from '../core/run/verdict.ts';
import { isUndecided } from '../core/run/run.ts';
import { counted } from '../core/text/counted.ts';
import { toProblem } from '../core/problem/problem.ts';
import { findService, type Found } from './find.ts';
import { lookLine, wrongText } from './print.ts';
import { tell } from './tell.ts';
import { say } from './say.ts';

export function addWatch(program: Command): void {
  program
    .command('watch')
    .description('run the looks that depend on a file as soon as it is saved')
    .addHelpText(
      'after',
      `
It starts with a run of every look that has changed since it passed. After each save it runs the looks that depend on
what was saved, and stops what a newer save makes obsolete. Without a terminal it prints plain lines.

Keys:
  a   run all looks again        y   approve what has changed
  f   run the failed ones again  o   open the console
  p   run a pattern              q   quit

Example:
  sguardo watch`,
    )
    .action(watch);
}

const keysLine = pc.dim('watching · a all · f failed · p pattern · y approve changes · o open the console · q quit');

const isTerminal = (): boolean => process.stdin.isTTY === true && process.stdout.isTTY === true;

/** What a person is told of an event. */
async function report(found: Found, event: RunEvent): Promise<void> {
  if (event.kind === 'look-finished') {
    const { result } = event;
    if (!isTerminal() || result.verdict !== 'passed') say(lookLine(result));
    return;
  }
  if (event.kind === 'run-finished') await finished(found, event.run);
}

async function finished(found: Found, run: RunSummary): Promise<void> {
  // It was stopped for a newer one, or nothing depends on what was saved.
  if (run.request.due && run.done === 0 && run.problems.every(({ code }) => code === 'run-stopped')) return;
  const results = run.done > run.reused ? await found.client.runResults(run.id, true) : [];
  await tell({ ...found, own: false }, run, results);
  if (isTerminal()) say(keysLine);
}

/** What each key does; what it says is shown. */
function keysOf(found: Found, ask: (question: string) => Promise<string>): Record<string, () => Promise<string>> {
  const { client, url } = found;
  const start = async (request: Partial<RunRequest>): Promise<string> => {
    await client.startRun(request);
    return '';
  };
  return {
    a: () => start({ fresh: true }),
    async f() {
      const failed = (await client.looks()).filter(hasFailed);
      if (failed.length === 0) return 'No look has failed.';
      return start({ looks: failed.map(({ component, look }) => ({ component, look })) });
    },
    async p() {
      const pattern = (await ask('Run which looks? ')).trim();
      return pattern === '' ? '' : start({ patterns: [pattern], fresh: true });
    },
    async y() {
      const changes = await client.changes();
      const captures = changes.flatMap((result: ResultSummary) =>
        result.captures
          .filter((capture) => capture.state.kind === 'changed' && isUndecided(capture))
          .map(({ name }) => ({ result: result.id, capture: name })),
      );
      if (captures.length === 0) return 'No captures have changed.';
      const { decided } = await client.decide({ kind: 'approve', captures });
      return `${counted(decided.length, 'capture')} approved.`;
    },
    async o() {
      const command = process.platform === 'darwin' ? 'open' : 'xdg-open';
      spawn(command, [url], { stdio: 'ignore', detached: true }).on('error', () => {});
      return pc.underline(`${url}/`);
    },
  };
}

/** Listens to the keyboard until `quit` is called by one of its keys. */
function listenToKeys(found: Found, quit: () => void): () => void {
  if (!isTerminal()) return () => {};
  const { stdin } = process;
  let isAsking = false;
  const ask = async (question: string): Promise<string> => {
    isAsking = true;
    stdin.setRawMode(false);
    const lines = createInterface({ input: stdin, output: process.stdout });
    const answer = await new Promise<string>((resolve) => lines.question(question, resolve));
    lines.close();
    stdin.setRawMode(true);
    stdin.resume();
    isAsking = false;
    return answer;
  };
  const keys = keysOf(found, ask);
  const press = (_text: string, { name, ctrl }: { name?: string; ctrl?: boolean }): void => {
    if (isAsking) return;
    if (name === 'q' || (ctrl && name === 'c')) {
      quit();
      return;
    }
    const action = keys[name ?? ''];
    if (!action || ctrl) return;
    action().then(
      (text) => text && say(text),
      (error: unknown) => say(wrongText(toProblem(error))),
    );
  };
  emitKeypressEvents(stdin);
  stdin.setRawMode(true);
  stdin.on('keypress', press);
  stdin.resume();
  return () => {
    stdin.off('keypress', press);
    stdin.setRawMode(false);
    stdin.pause();
  };
}

async function watch(): Promise<void> {
  const found = await findService(process.cwd());
  const abort = new AbortController();
  const quit = (): void => abort.abort();
  const rest = listenToKeys(found, quit);
  process.on('SIGINT', quit);
  process.on('SIGTERM', quit);
  try {
    const begin = (): void => {
      found.client.startRun({}).catch((error: unknown) => say(wrongText(toProblem(error))));
    };
    for await (const event of found.client.events(abort.signal, begin, {}, true)) await report(found, event);
  } finally {
    rest();
    process.off('SIGINT', quit);
    process.off('SIGTERM', quit);
    await found.release();
  }
}
