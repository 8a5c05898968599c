/** `sguardo run`: runs looks and tells what they came to. */
import { once } from 'node:events';
import { createInterface } from 'node:readline';
import { type Command, InvalidArgumentError, Option } from 'commander';
import pc from 'picocolors';
import type { CauseList } from '../core/cause/cluster.ts';
import { type LookName, lookKey, lookTitle } from '../core/look/look.ts';
import { isSelected } from '../core/look/pattern.ts';
import { noProgress, progressText } from '../core/run/progress.ts';
import type { ResultSummary, RunRequest, RunSummary } from '../core/run/run.ts';
import type { Client } from '../client/client.ts';
import { exitCode, verdicts } from '../core/run/verdict.ts';
import { counted } from '../core/text/counted.ts';
import { attend } from './attend.ts';
import { causesText, chosenCauses } from './causes.ts';
import { exitOf } from './exits.ts';
import { type Found, findService } from './find.ts';
import { benchUrl, duration, lookLine, problemText, resultText, tallyText } from './print.ts';

type Options = {
  env: string[];
  repeat: number;
  fresh?: boolean;
  upgrade?: boolean;
  audit?: number;
  changed?: string | true;
  tag: string[];
  withoutTag: string[];
  failed?: boolean;
  stop?: boolean;
  headed?: boolean;
  pace?: number;
  json?: boolean;
  strict?: boolean;
};

/** A number of times. @throws InvalidArgumentError */
export const count = (text: string): number => {
  const n = Number(text);
  if (!Number.isInteger(n) || n < 1 || n > 1000)
    throw new InvalidArgumentError(`Expected a whole number from 1 to 1000, got “${text}”.`);
  return n;
};

/** A time. @throws InvalidArgumentError */
const milliseconds = (text: string): number => {
  const n = Number(text);
  if (!(n >= 0 && n <= 60_000)) throw new InvalidArgumentError(`Expected a number from 0 to 60000, got “${text}”.`);
  return n;
};

/** A share. @throws InvalidArgumentError */
const percent = (text: string): number => {
  const n = Number(text);
  if (!(n >= 0 && n <= 100)) throw new InvalidArgumentError(`Expected a number from 0 to 100, got “${text}”.`);
  return n;
};

const isCi = process.env.CI === 'true';

/** How much CI runs of what it could take over, in percent. */
const ciAudit = 5;

/** A tag, for every command that chooses looks. */
export const tagOption = (flags: string, description: string): Option =>
  new Option(flags, description).argParser((name: string, list: string[]) => [...list, name]).default([], 'none');

/** `-e`, for every command that runs looks. */
export const environmentOption = (): Option =>
  new Option('-e, --env <name>', 'only in this environment (can be repeated)')
    .argParser((name: string, list: string[]) => [...list, name])
    .default([], 'all of them');

export function addRun(program: Command): void {
  program
    .command('run')
    .description('run looks, record them, and compare their captures with the approved baselines')
    .argument(
      '[pattern...]',
      'only these looks: part of a component, name or file; Component/look for exactly one; * for anything',
    )
    .addOption(environmentOption())
    .option('-r, --repeat <n>', 'run every look n times and report how many captures differed', count, 1)
    .option('--fresh', 'run everything, even what has not changed')
    .option('--upgrade', 'compare every pixel with what another browser drew, to take over what this one draws')
    .option('--changed [since]', 'only looks that depend on what has changed since a commit or branch (default: HEAD)')
    .addOption(tagOption('--tag <name>', 'only looks with this tag (can be repeated)'))
    .addOption(tagOption('--without-tag <name>', 'but none with this one (can be repeated)'))
    .option('--failed', 'only looks that failed or broke in their newest run')
    .option('--audit <percent>', 'how many of the unchanged looks to run anyway', percent)
    .addOption(
      new Option('--stop', 'stop at the first look that fails or pauses, and try lines on its page').conflicts('json'),
    )
    .option('--headed', 'show the window, one look after the other, and keep it open at the end')
    .option('--pace <ms>', 'wait so long before each step, to look on', milliseconds, 0)
    .option('--json', 'print one JSON document instead of text (docs/formats/result.md)')
    .option('--strict', 'also exit with 1 when something is new; implied by CI=true')
    .addHelpText(
      'after',
      `
Examples:
  sguardo run                       every look, in every environment
  sguardo run BerthCard             the looks of one component
  sguardo run "asks before" -e day  one look, in one environment
  sguardo run --fresh               reuse nothing from earlier runs
  sguardo run --upgrade             after a browser upgrade; then: sguardo approve --upgrade
  sguardo run --changed main        what this branch touches
  sguardo run --failed              what went wrong, once more
  sguardo run --tag slow            the looks with a tag
  sguardo run --stop                stop where the first look goes wrong, and try lines there
  sguardo run "asks before" --headed --pace 500   watch it, slowly
  sguardo run --repeat 10           is every picture the same ten times?
  sguardo run --json > result.json  for other programs

Exit codes: 0 all passed · 1 something failed, broke or changed · 2 bad command, configuration or look file ·
3 no service, browser or disk space`,
    )
    .action(async (patterns: string[], options: Options) => {
      process.exitCode = await run(patterns, options);
    });
}

/** A line at the bottom of a terminal that says how far the run is. */
function progressLine(active: boolean): { show(text: string): void; line(text: string): void; clear(): void } {
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

/** Runs looks and tells what they came to. Returns the exit code. */
export async function run(patterns: string[], options: Options): Promise<number> {
  const found = await findService(process.cwd());
  try {
    const { env: environments, repeat, fresh = false, upgrade = false } = options;
    const audit = options.audit ?? (isCi ? ciAudit : null);
    const changed = options.changed === true ? 'HEAD' : (options.changed ?? null);
    const looks = options.failed ? await failedLooks(found, patterns) : [];
    if (options.failed && looks.length === 0) {
      process.stdout.write('Nothing failed or broke in the newest run of every look.\n');
      return 0;
    }
    const request: Partial<RunRequest> = {
      patterns: options.failed ? [] : patterns,
      looks,
      environments,
      repeat,
      fresh,
      upgrade,
      audit,
      changed,
      tags: options.tag,
      withoutTags: options.withoutTag,
      refuseOnly: isCi,
      headed: options.headed === true && !options.stop,
      pace: options.pace ?? 0,
    };
    if (options.stop) return await runAndStop(found, request, options);
    const summary = await follow(found, request, { isQuiet: false, isJson: options.json === true });
    // What was taken over has passed, and is told as a number.
    const results = await found.client.runResults(summary.id, options.json !== true);
    // A look file that could not be understood, or a browser that went away, weighs more than a look that failed.
    const problems = [...summary.problems, ...results.flatMap(({ problem }) => problem ?? [])];
    const code = Math.max(exitCode(summary.tally, options.strict === true || isCi), ...problems.map(exitOf));
    if (options.json)
      process.stdout.write(`${JSON.stringify(await jsonDocument(found, summary, results, code), null, 2)}\n`);
    else await tell(found, summary, results);
    if (request.headed && summary.done > 0) await keepOpen(found, options.json === true);
    return code;
  } finally {
    await found.release();
  }
}

/** Leaves the window of a headed run open until somebody has seen enough of it. */
async function keepOpen({ client }: Found, isJson: boolean): Promise<void> {
  if (!isCi && !isJson) {
    process.stdout.write('The window stays open. Press Enter to close it.\n');
    const lines = createInterface({ input: process.stdin });
    await Promise.race([once(lines, 'line'), once(lines, 'close')]);
    lines.close();
  }
  await client.closeWindows();
}

/** Runs looks until the first one goes wrong, and stops that for whoever is at the terminal. */
async function runAndStop(found: Found, request: Partial<RunRequest>, options: Options): Promise<number> {
  const { headed = false, pace = 0 } = options;
  let first: ResultSummary | null = null;
  const stopAt = (result: ResultSummary): boolean => {
    const isWrong = result.verdict === 'failed' || result.verdict === 'broken';
    if (isWrong) first ??= result;
    return isWrong;
  };
  const summary = await follow(found, request, { isQuiet: true, isJson: false, stopAt });
  const wrong = first as ResultSummary | null;
  if (wrong) {
    await attend(found, wrong, { headed, pace });
    return 1;
  }
  await tell(found, summary, await found.client.runResults(summary.id, true));
  return exitCode(summary.tally, options.strict === true || isCi);
}

/** The looks that failed or broke when they were run last. */
async function failedLooks({ client }: Found, patterns: string[]): Promise<LookName[]> {
  const isMeant = isSelected(patterns);
  const wrong = (await client.looks()).filter(({ verdict }) => verdict === 'failed' || verdict === 'broken');
  const names = wrong.filter(isMeant).map(({ component, look }) => ({ component, look }));
  return [...new Map(names.map((name) => [lookKey(name.component, name.look), name])).values()];
}

/** How a run is followed: `stopAt` says of a result whether the run has gone far enough. */
type Following = { isQuiet: boolean; isJson: boolean; stopAt?(result: ResultSummary): boolean };

/** Starts a run and shows its progress until it has ended; with `isQuiet` without a line for each look. */
export async function follow(
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
  const started = await client.startRun(request);
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
  const show = (): void => line.show(progressText(progress, now));
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
        if (!isJson && !isQuiet && (!terminal || event.result.verdict !== 'passed')) line.line(lookLine(event.result));
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

/** Waits for the end of a run whose events were missed. */
async function untilOver(client: Client, id: number): Promise<RunSummary> {
  for (;;) {
    const run = await client.run(id);
    if (run.status !== 'queued' && run.status !== 'running') return run;
    await new Promise((resolve) => setTimeout(resolve, 500));
  }
}

/**
 * Equal for results of one look that went wrong in the same way in several environments or repetitions: they are told
 * once.
 */
const alike = ({ component, look, verdict, problem, captures }: ResultSummary): string =>
  JSON.stringify([
    component,
    look,
    verdict,
    problem?.message,
    captures.map(({ name, state }) => [name, state.kind, state.kind === 'changed' ? state.markup : null]),
  ]);

/** Most looks that are told in full; beyond, a list is read in the console, which a CI log has not. */
const toldInFull = process.env.CI && process.env.CI !== 'false' ? Number.POSITIVE_INFINITY : 20;

/** The causes of some results; what failed is told by itself. Numbers stay those of the whole list. */
function ofResults(list: CauseList, results: readonly ResultSummary[]): CauseList {
  const ids = new Set(results.map(({ id }) => id));
  const isOwn = ({ result }: { result: number }): boolean => ids.has(result);
  return chosenCauses({ ...list, causes: list.causes.filter(({ kind }) => kind !== 'failed') }, isOwn);
}

/** Tells what a run came to: what went wrong in full, the rest in numbers. */
export async function tell({ client, url, own }: Found, summary: RunSummary, results: ResultSummary[]): Promise<void> {
  const say = (text: string): void => void process.stdout.write(`${text}\n`);
  const causes = summary.tally.changed > 0 ? ofResults(await client.causes(), results) : null;
  const unexplained = new Set(causes?.unexplained.map(({ result }) => result));
  const isToldAlone = ({ verdict, notes, id, captures }: ResultSummary): boolean =>
    verdict === 'failed' ||
    verdict === 'broken' ||
    notes.length > 0 ||
    unexplained.has(id) ||
    captures.some(({ state }) => state.kind === 'conflict');
  const wrong = results.filter(isToldAlone);
  wrong.sort((a, b) => verdicts.indexOf(a.verdict) - verdicts.indexOf(b.verdict));
  const groups = new Map<string, ResultSummary[]>();
  for (const result of wrong) groups.set(alike(result), [...(groups.get(alike(result)) ?? []), result]);
  for (const group of [...groups.values()].slice(0, toldInFull)) {
    const first = group[0]!;
    const title =
      first.failedStep === null ? null : ((await client.timeline(first.id)).steps[first.failedStep]?.title ?? null);
    say(`\n${resultText(first, [...new Set(group.map(({ environment }) => environment))], url, title)}`);
  }
  if (groups.size > toldInFull) say(`\n… and ${groups.size - toldInFull} more, on the board: ${url}/`);
  if (causes && causes.changes > 0) say(`\n${causesText(causes, url)}`);
  if (summary.done === 0 && summary.request.changed !== null && summary.problems.length === 0) {
    say(`No look depends on what has changed since ${summary.request.changed}.`);
    return;
  }
  for (const problem of summary.problems) say(`\n${pc.red('✗')} ${problemText(problem)}`);
  say(
    `\n${tallyText(summary)}  ` +
      pc.dim(
        `${counted(summary.done, 'look')}${summary.reused > 0 ? ` (${summary.reused} reused)` : ''}, ` +
          `${counted(summary.captures, 'capture')}, ${duration(summary)}`,
      ),
  );
  if (summary.request.repeat > 1 && summary.status === 'finished' && summary.captures > 0)
    say(
      `${counted(summary.unstable, 'capture')} differed in ` +
        `${summary.request.repeat} repetitions${summary.unstable === 0 ? '.' : ': not every picture is stable.'}`,
    );
  const unsteady = new Set(
    results.filter(({ isUnsteady }) => isUnsteady).map(({ component, look }) => lookKey(component, look)),
  );
  if (unsteady.size > 0)
    say(
      `${counted(unsteady.size, 'look is', 'looks are')} unsteady, and passed or failed by chance: ` +
        `${[...unsteady].join(', ')}`,
    );
  for (const { component, look, why } of summary.skipped)
    say(`${pc.dim('skipped')} ${lookTitle(component, look)}: ${why}`);
  for (const note of summary.notes) say(`${pc.yellow('note')} ${note}`);
  if (summary.tally.new > 0) say(`To approve what is new: ${pc.bold('sguardo approve --all')}`);
  if (summary.tally.changed > 0) say(`To review what changed: ${pc.underline(`${url}/review`)}`);
  if (own && (wrong.length > 0 || summary.tally.changed > 0))
    say(pc.dim('Links work while the service runs: sguardo serve'));
}

/** What `--json` prints. */
export async function jsonDocument(
  { client, url }: Found,
  summary: RunSummary,
  results: ResultSummary[],
  code: number,
): Promise<object> {
  const causes = summary.tally.changed > 0 ? ofResults(await client.causes(), results) : null;
  return {
    format: 'sguardo-result/2',
    exitCode: code,
    run: summary,
    results: results.map((result) => ({ ...result, link: benchUrl(url, result) })),
    causes,
  };
}
