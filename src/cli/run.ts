/** `sguardo run`: runs looks and tells what they came to. */
import { once } from 'node:events';
import { createInterface } from 'node:readline';
import { type Command, InvalidArgumentError, Option } from 'commander';
import type { CoverageReport } from '../core/coverage/report.ts';
import { type LookName, lookKey } from '../core/look/look.ts';
import { entryName, siteLinks } from '../core/site/site.ts';
import { isSelected } from '../core/look/pattern.ts';
import { ProblemError } from '../core/problem/problem.ts';
import type { ResultSummary, RunRequest, RunSummary } from '../core/run/run.ts';
import { exitCode, hasFailed } from '../core/run/verdict.ts';
import { attend } from './attend.ts';
import { isCi } from './ci.ts';
import { count, milliseconds, percent } from './numbers.ts';
import { coverageText } from './coverage.ts';
import { exitOf } from './exits.ts';
import { withService, type Found } from './find.ts';
import { follow } from './follow.ts';
import { type WantedReport, reportOption, wantsCoverage, writeReports } from './report/report.ts';
import { jsonDocument, tell } from './tell.ts';
import { timingOf, timingText } from './timing.ts';
import { say, sayJson } from './say.ts';
import { tagOption, withoutTagOption, environmentOption } from './options.ts';

type Options = {
  env: string[];
  repeat: number;
  fresh?: boolean;
  upgrade?: boolean;
  coverage?: boolean;
  timing?: boolean;
  everyStep?: boolean;
  report: WantedReport[];
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
  site?: string;
};

/** The address of a site. */
const address = (text: string): string => {
  if (!/^https?:\/\/[^\s/]+/.test(text))
    throw new InvalidArgumentError('Expected an address such as https://looks.example/.');
  return text;
};

/** How much CI runs of what it could take over, in percent. */
const ciAudit = 5;

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
    .option('--coverage', 'count which lines, branches and functions of the sources the looks run')
    .option('--timing', 'measure what every step costs the browser; several times with --repeat')
    .option('--every-step', 'look at accessibility after every step, not only where looks end')
    .addOption(reportOption())
    .option(
      '--site <address>',
      'link to the site that sguardo publish will put there, not to the running service',
      address,
    )
    .option('--changed [since]', 'only looks that depend on what has changed since a commit or branch (default: HEAD)')
    .addOption(tagOption())
    .addOption(withoutTagOption())
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
  sguardo run --coverage            which lines of the sources no look runs
  sguardo run --report junit=out/junit.xml,html=out/report.html   for CI, and for people without it
  sguardo run --site https://looks.example/   links for a log, to what sguardo publish puts there
  sguardo run --timing --repeat 10  what steps cost, and what costs more than in the timed run before
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

/** Runs looks and tells what they came to. Returns the exit code. */
export async function run(patterns: string[], options: Options): Promise<number> {
  return withService(async (found) => {
    const { env: environments, repeat, fresh = false, upgrade = false, everyStep = false, report: wanted } = options;
    const coverage = options.coverage === true || wantsCoverage(wanted);
    const audit = options.audit ?? (isCi ? ciAudit : null);
    const changed = options.changed === true ? 'HEAD' : (options.changed ?? null);
    const looks = options.failed ? await failedLooks(found, patterns) : [];
    if (options.failed && looks.length === 0) {
      say('Nothing failed or broke in the newest run of every look.');
      return 0;
    }
    const request: Partial<RunRequest> = {
      patterns: options.failed ? [] : patterns,
      looks,
      environments,
      repeat,
      // What was measured once is measured again.
      fresh: fresh || options.timing === true,
      upgrade,
      coverage,
      timing: options.timing === true,
      everyStep,
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
    const report = coverage ? await coverageOf(found, summary) : null;
    const timing = request.timing ? await timingOf(found.client, summary, results) : null;
    const isPartial = isSelection(request);
    const isStrict = options.strict === true || isCi;
    const falls = report !== null && !isPartial && report.shortfalls.length > 0;
    const codes = [exitCode(summary.tally, isStrict), falls ? 1 : 0, ...problems.map(exitOf)];
    const code = Math.max(...codes);
    const shown = withLinks(found, summary, options.site);
    if (options.json) {
      const document = {
        ...(await jsonDocument(shown, summary, results, code)),
        ...(report && { coverage: report }),
        ...(timing && { timing }),
      };
      sayJson(document);
    } else {
      await tell(shown, summary, results);
      if (timing) say(`\n${timingText(timing)}`);
      if (report) say(`\n${coverageText(report, shown.url, isPartial)}`);
    }
    if (wanted.length > 0) {
      // What was taken over is in reports, too.
      const all = options.json ? results : await found.client.runResults(summary.id);
      const written = await writeReports(wanted, {
        found: shown,
        run: summary,
        results: all,
        coverage: report,
        isStrict,
        isSite: options.site !== undefined,
      });
      if (!options.json) say(`Written: ${written.join(', ')}`);
    }
    if (request.headed && summary.done > 0) await keepOpen(found, options.json === true);
    return code;
  });
}

/** What links begin with: the service, or a site that somebody publishes afterwards. */
const withLinks = (found: Found, { commit, id }: RunSummary, site: string | undefined): Found =>
  site === undefined ? found : { ...found, url: siteLinks(site, entryName(commit, id)), own: false };

/** True for a run of some looks only: what is wanted of all is not asked of them. */
const isSelection = ({ patterns, looks, environments, changed, tags, withoutTags }: Partial<RunRequest>): boolean =>
  changed !== null || [patterns, looks, environments, tags, withoutTags].some((list) => (list?.length ?? 0) > 0);

/** What a run has counted; null when none of its looks could be. */
async function coverageOf({ client }: Found, { id }: RunSummary): Promise<CoverageReport | null> {
  try {
    return await client.coverage(id);
  } catch (error) {
    if (error instanceof ProblemError && error.problem.code === 'coverage-none') return null;
    throw error;
  }
}

/** Leaves the window of a headed run open until somebody has seen enough of it. */
async function keepOpen({ client }: Found, isJson: boolean): Promise<void> {
  if (!isCi && !isJson) {
    say('The window stays open. Press Enter to close it.');
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
    if (hasFailed(result)) first ??= result;
    return hasFailed(result);
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
  const wrong = (await client.looks()).filter(hasFailed);
  const names = wrong.filter(isMeant).map(({ component, look }) => ({ component, look }));
  return [...new Map(names.map((name) => [lookKey(name.component, name.look), name])).values()];
}
