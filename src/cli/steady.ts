/** `sguardo steady`: runs looks again under other conditions, and says which come out differently, and why. */
import type { Command } from 'commander';
import pc from 'picocolors';
import { lookTitle } from '../core/look/look.ts';
import type { ResultSummary } from '../core/run/run.ts';
import { counted } from '../core/text/counted.ts';
import { exitOf } from './exits.ts';
import { withService } from './find.ts';
import { benchUrl, duration, wrongText } from './print.ts';
import { follow } from './follow.ts';
import { count } from './numbers.ts';
import { environmentOption } from './options.ts';
import { jsonDocument } from './tell.ts';
import { say, sayJson } from './say.ts';

type Options = { env: string[]; rounds: number; json?: boolean };

export function addSteady(program: Command): void {
  program
    .command('steady')
    .description('run looks on a busy machine, in other orders and windows, and find those that come out differently')
    .argument('[pattern...]', 'only these looks, as in sguardo run')
    .addOption(environmentOption())
    .option('-n, --rounds <n>', 'how often every look is run', count, 6)
    .option('--json', 'print one JSON document instead of text (docs/formats/result.md)')
    .addHelpText(
      'after',
      `
Every look gets a document of its own. The first round is run as usual; the others beside endless loops, shuffled,
in one window and in several, with new windows, and with more real time before the look's own time moves on.

Examples:
  sguardo steady                    every look, 6 rounds
  sguardo steady ArrivalForm -n 20  one component, 20 rounds

Exit codes: 0 nothing differed · 1 something did, or it was stopped · 2 bad command, configuration or look file ·
3 no service, browser or disk space`,
    )
    .action(async (patterns: string[], options: Options) => {
      process.exitCode = await steady(patterns, options);
    });
}

/** The results that differed, by look and environment, the first round that did first. */
function partings(results: readonly ResultSummary[]): ResultSummary[][] {
  const found = new Map<string, ResultSummary[]>();
  for (const result of results.filter(({ isUnsteady }) => isUnsteady)) {
    const key = JSON.stringify([result.component, result.look, result.environment]);
    found.set(key, [...(found.get(key) ?? []), result]);
  }
  return [...found.values()].map((group) => group.toSorted((a, b) => a.repetition - b.repetition));
}

const isOf = (one: ResultSummary, other: ResultSummary): boolean =>
  one.component === other.component && one.look === other.look && one.environment === other.environment;

/** How many rounds every look has come through: fewer than were wanted when the run was stopped. */
function roundsOf(results: readonly ResultSummary[], wanted: number): number {
  const through = Array.from(
    { length: wanted + 1 },
    (_, round) => results.filter(({ repetition }) => repetition === round).length,
  );
  const looks = through[1]!;
  const missing = through.findIndex((count, round) => round > 0 && count < looks);
  return missing < 0 ? wanted : missing - 1;
}

async function steady(patterns: string[], options: Options): Promise<number> {
  return withService(async (found) => {
    const request = { patterns, environments: options.env, repeat: options.rounds, steady: true };
    const summary = await follow(found, request, { isQuiet: true, isJson: options.json === true });
    const results = await found.client.runResults(summary.id);
    const unsteady = partings(results);
    // A look that fails, and does so each time, is steady.
    const broken = results.flatMap(({ problem }) => problem ?? []).map(exitOf);
    const exits = [...summary.problems.map(exitOf), ...broken.filter((exit) => exit > 1)];
    const code = Math.max(unsteady.length > 0 ? 1 : 0, ...exits);
    const rounds = roundsOf(results, options.rounds);
    if (options.json) {
      sayJson(await jsonDocument(found, summary, results, code));
      return code;
    }
    for (const group of unsteady) {
      const [first] = group;
      const { component, look, environment, notes } = first!;
      say(`\n${pc.yellow('≈ unsteady')}  ${pc.bold(lookTitle(component, look))}  ${pc.dim(environment)}`);
      for (const line of notes.at(-1)!.split('\n')) say(`  ${line}`);
      const later = results.filter((one) => isOf(first!, one) && one.repetition > 1).length;
      if (group.length > 1) say(pc.dim(`  It differed in ${group.length} of ${later} later rounds.`));
      say(`  ${pc.underline(benchUrl(found.url, first!))}`);
    }
    for (const problem of summary.problems) say(`\n${wrongText(problem)}`);
    const looks = new Set(results.map(({ component, look, environment }) => `${component}\n${look}\n${environment}`));
    say(
      `\n${counted(unsteady.length, 'look')} of ${looks.size} came out differently in ` +
        (rounds < options.rounds ? `${rounds} of ` : '') +
        `${counted(options.rounds, 'round')}  ` +
        pc.dim(`${counted(summary.captures, 'capture')}, ${duration(summary)}`),
    );
    if (found.own && unsteady.length > 0) say(pc.dim('Links work while the service runs: sguardo serve'));
    return code;
  });
}
