/** `sguardo challenge`: makes things wrong in the pages of looks, and tells what none of their checks noticed. */
import { setTimeout as delay } from 'node:timers/promises';
import type { Command } from 'commander';
import pc from 'picocolors';
import {
  type Challenge,
  type ChallengedLook,
  type ChallengeReport,
  type Challenging,
  type ComponentScore,
  scoreOf,
  scoresOf,
  usualMost,
} from '../core/challenge/challenge.ts';
import { shortName } from '../core/look/look.ts';
import { ProblemError } from '../core/problem/problem.ts';
import { counted } from '../core/text/counted.ts';
import { withService, type Found } from './find.ts';
import { follow, progressLine } from './follow.ts';
import { count, percent } from './numbers.ts';
import { say, sayJson } from './say.ts';

type Options = { most: number; least?: number; all?: boolean; json?: boolean };

export function addChallenge(program: Command): void {
  program
    .command('challenge')
    .description('make things wrong in the pages of looks, one at a time, and tell which no check notices')
    .argument('[pattern...]', 'only these looks, as for run')
    .option('-m, --most <n>', 'how many things are made wrong for each look at most', count, usualMost)
    .option('--least <percent>', 'exit with 1 if less than this is noticed', percent)
    .option('--all', 'also list what was noticed, and by what')
    .option('--json', 'print one JSON document instead of text (docs/formats/challenge.md)')
    .addHelpText(
      'after',
      `
Each look with a script is run as it is, in the first environment, and then once for each thing that is made wrong in
its page: handlers do nothing, a text or an attribute is another one, an element is hidden, a request fails, the order
of a list changes, no style sheet counts. What the script touches or brings about is chosen. Files stay as they are.

Examples:
  sguardo challenge                    every look with a script
  sguardo challenge ReleaseDialog      one component
  sguardo challenge --most 30          more of each look
  sguardo challenge --least 80         for CI

Exit codes: 0 told · 1 less than --least was noticed · 2 bad command, configuration or look file ·
3 no service or browser`,
    )
    .action(async (patterns: string[], options: Options) => {
      process.exitCode = await challenge(patterns, options);
    });
}

/** Follows a challenge until it has ended. Ctrl+C stops it, and what was found by then is told. */
async function untilDone({ client }: Found, begun: Challenging, isJson: boolean): Promise<ChallengeReport> {
  const line = progressLine(process.stdout.isTTY === true && !isJson);
  let stopped = false;
  const stop = (): void => {
    if (stopped) process.exit(130);
    stopped = true;
    client.stopChallenge(begun.id).catch(() => {});
  };
  process.on('SIGINT', stop);
  try {
    for (let now = begun; ; now = await client.challenge(begun.id)) {
      if (now.problem) throw new ProblemError(now.problem);
      if (now.report) return now.report;
      line.show(now.all === 0 ? 'Preparing…' : `Challenging looks: ${now.done} of ${now.all}`);
      await delay(200);
    }
  } finally {
    line.clear();
    process.off('SIGINT', stop);
  }
}

async function challenge(patterns: string[], { most, least, all, json }: Options): Promise<number> {
  return withService(async (found) => {
    // What the look files declare now, without running them.
    const listed = await follow(found, { listing: true }, { isQuiet: true, isJson: true });
    const wrong = listed.problems[0];
    if (wrong) throw new ProblemError(wrong);
    const report = await untilDone(found, await found.client.beginChallenge({ patterns, most }), json === true);
    const total = totalOf(report);
    if (json) sayJson(document(report));
    else say(reportText(report, all === true));
    return least !== undefined && scoreOf(total) < least ? 1 : 0;
  });
}

const totalOf = ({ looks }: ChallengeReport): Omit<ComponentScore, 'component' | 'looks'> =>
  scoresOf(looks).reduce(
    (sum, { all, noticed, byStep }) => ({
      all: sum.all + all,
      noticed: sum.noticed + noticed,
      byStep: sum.byStep + byStep,
    }),
    { all: 0, noticed: 0, byStep: 0 },
  );

const document = (report: ChallengeReport): object => ({
  format: 'sguardo-challenge/1',
  score: scoreOf(totalOf(report)),
  components: scoresOf(report.looks).map(({ looks: _, ...score }) => ({ ...score, score: scoreOf(score) })),
  ...report,
});

function challengeText({ title, check, noticed }: Challenge): string {
  if (noticed?.by === 'step') return pc.dim(`    ✓ ${title}, noticed by: ${noticed.title}`);
  const way = check === null ? '' : `\n      ${pc.dim('→')} ${check}`;
  if (noticed) return pc.dim(`    ◌ ${title}, noticed by the capture “${noticed.title}” alone`) + way;
  return `    ${pc.red('✗')} ${title}, and nothing noticed${way}`;
}

function lookText({ look, challenges, note }: ChallengedLook, isAll: boolean): string[] {
  if (note) return [`  ${look}`, `    ${pc.yellow('note')} Not challenged. ${note.split('\n')[0]}`];
  const shown = challenges.filter(({ noticed }) => isAll || noticed === null);
  return shown.length === 0 ? [] : [`  ${look}`, ...shown.map(challengeText)];
}

function scoreText(score: ComponentScore, isAll: boolean): string[] {
  const { component, all, noticed, byStep, looks } = score;
  const alone = noticed - byStep;
  const part = alone > 0 ? `, ${alone} by a capture alone` : '';
  const counts = pc.dim(`${noticed} of ${all} noticed${part}`);
  const head = `${pc.bold(shortName(component))}  ${scoreOf(score)} %  ${counts}`;
  return [head, ...looks.flatMap((look) => lookText(look, isAll))];
}

function reportText(report: ChallengeReport, isAll: boolean): string {
  const { looks, withoutScript } = report;
  const total = totalOf(report);
  const missed = total.all - total.noticed;
  const rest =
    withoutScript > 0
      ? [pc.dim(`${counted(withoutScript, 'look')} without a script: compared, and not challenged.`)]
      : [];
  const came = missed === 0 ? 'each was noticed' : `${missed} went unnoticed`;
  const summary =
    total.all === 0
      ? 'Nothing was challenged: none of these looks has a script.'
      : `${counted(total.all, 'thing was', 'things were')} made wrong, and ${came}.`;
  return [...scoresOf(looks).flatMap((score) => [...scoreText(score, isAll), '']), summary, ...rest].join('\n');
}
