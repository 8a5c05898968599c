/** `sguardo approve` and `sguardo reject`: decide about what the last run captured. */
import { type Command, Option } from 'commander';
import pc from 'picocolors';
import type { Decided, DecisionRequest } from '../core/api/api.ts';
import { lookTitle } from '../core/look/look.ts';
import { fail } from '../core/problem/problem.ts';
import { counted } from '../core/text/counted.ts';
import { causesText } from './causes.ts';
import { withService, type Found } from './find.ts';
import { numberOf } from './numbers.ts';
import { say, sayJson } from './say.ts';
import { repeatable } from './options.ts';

/** The options of both decisions. */
type Options = {
  all?: boolean;
  cause: number[];
  except: string[];
  why?: string;
  unsteady?: boolean;
  take?: 'base' | 'ours' | 'theirs';
  upgrade?: boolean;
  to?: string;
  json?: boolean;
};

const causeOption = (): Option =>
  new Option('-c, --cause <n>', 'only what this cause has changed: its number in sguardo causes (can be repeated)')
    .argParser((text: string, numbers: number[]) => [...numbers, numberOf('cause')(text)])
    .default([], 'all');

const exceptOption = (): Option => repeatable('--except <pattern>', 'with --cause: but not these looks', 'none');

export function addDecisions(program: Command): void {
  program
    .command('approve')
    .description("make the last run's captures the baselines")
    .argument(
      '[pattern...]',
      'only these looks: part of a component, name or file; Component/look for exactly one; * for anything',
    )
    .option('-a, --all', 'every look')
    .addOption(causeOption())
    .addOption(exceptOption())
    .option('-w, --why <text>', 'the reason, kept in the history')
    .addOption(
      new Option('--take <side>', 'settle merge conflicts with the baselines of one side').choices([
        'base',
        'ours',
        'theirs',
      ]),
    )
    .option('--upgrade', 'what differs only because another browser or other fonts drew it')
    .option('--unsteady', 'also captures that came out differently from time to time')
    .option('--json', 'print one JSON document instead of text')
    .addHelpText(
      'after',
      `
Examples:
  sguardo approve                   what there is to approve
  sguardo approve --all
  sguardo approve --cause 2 --except FeeTable
  sguardo approve BerthCard --why "new accent colour"
  sguardo approve "asks before releasing"
  sguardo approve --upgrade         after: sguardo run --upgrade
  sguardo approve --take theirs     after a merge that left baselines in conflict`,
    )
    .action((patterns: string[], options: Options) => decide('approve', patterns, options));
  program
    .command('reject')
    .description("mark the last run's changes as unwanted; they stay changed until the code is fixed")
    .argument(
      '[pattern...]',
      'only these looks: part of a component, name or file; Component/look for exactly one; * for anything',
    )
    .option('-a, --all', 'every look that changed')
    .addOption(causeOption())
    .addOption(exceptOption())
    .requiredOption('-w, --why <text>', 'what is wrong with it')
    .option('--to <name>', 'who is to fix it')
    .option('--json', 'print one JSON document instead of text')
    .addHelpText(
      'after',
      `
Examples:
  sguardo reject FeeTable --why "the banner must not push the table down"
  sguardo reject --cause 1 --why "the old red was right" --to Mara`,
    )
    .action((patterns: string[], options: Options) => decide('reject', patterns, options));
}

async function decide(kind: DecisionRequest['kind'], patterns: string[], options: Options): Promise<void> {
  const { all, cause, except, why, unsteady, take, upgrade, to: fixer, json } = options;
  return withService(async (found) => {
    if (kind === 'approve' && !all && !upgrade && !take && patterns.length === 0 && cause.length === 0)
      return await tellOpen(found, json === true);
    const causes = upgrade ? await engineKeys(found) : cause.length > 0 ? await keysOf(found, cause) : undefined;
    const isAll = all || (take !== undefined && patterns.length === 0 && cause.length === 0);
    const request = { kind, why, unsteady, fixer, take, ...(causes ? { causes, except } : { patterns, all: isAll }) };
    const decided = await withProgress(found, json === true, () => found.client.decide(request));
    if (json) sayJson(decided);
    else say(text(kind, decided));
  });
}

/** Tells on a terminal how far a decision about many captures is. */
async function withProgress<T>({ client }: Found, isJson: boolean, work: () => Promise<T>): Promise<T> {
  if (isJson || process.stderr.isTTY !== true) return work();
  const stop = new AbortController();
  const listening = (async () => {
    for await (const event of client.events(stop.signal))
      if (event.kind === 'deciding') process.stderr.write(`\r${event.done} of ${event.all} captures…\x1b[K`);
  })().catch(() => {});
  try {
    return await work();
  } finally {
    stop.abort();
    await listening;
    process.stderr.write('\r\x1b[K');
  }
}

/** The keys of causes by their numbers. @throws ProblemError `cause-unknown` */
async function keysOf({ client }: Found, numbers: readonly number[]): Promise<string[]> {
  const { causes } = await client.causes();
  return numbers.map(
    (number) => causes.find((cause) => cause.number === number)?.key ?? fail('cause-unknown', { number }),
  );
}

/** The keys of what another browser has done. @throws ProblemError `nothing-to-decide` */
async function engineKeys({ client }: Found): Promise<string[]> {
  const { causes } = await client.causes();
  const keys = causes.flatMap(({ kind, key }) => (kind === 'engine' ? [key] : []));
  const what = 'Nothing differs because of the browser or its fonts.';
  return keys.length > 0 ? keys : fail('nothing-to-decide', { what, remedy: 'Compare first: sguardo run --upgrade' });
}

/** What there is to approve. */
async function tellOpen({ client, url }: Found, isJson: boolean): Promise<void> {
  const list = await client.causes();
  if (isJson) {
    sayJson({ format: 'sguardo-causes/1', ...list });
    return;
  }
  const looks = await client.looks();
  const isNew = looks.flatMap(({ captures }) =>
    captures.filter(({ state, decision }) => state.kind === 'new' && !decision?.stands),
  ).length;
  const lines = [
    ...(list.changes > 0 ? [causesText(list, url)] : []),
    ...(isNew > 0 ? [`${counted(isNew, 'new capture')}`] : []),
    list.changes + isNew === 0
      ? 'Nothing to approve.'
      : `${pc.dim('To approve one cause:')} sguardo approve --cause 1\n` +
        `${pc.dim('To approve everything that finished:')} sguardo approve --all`,
  ];
  say(lines.join('\n'));
}

function text(kind: DecisionRequest['kind'], { decided, already, unfinished, waiting }: Decided): string {
  const done = kind === 'approve' ? 'approved' : 'rejected';
  const lines = decided
    .slice(0, 30)
    .map(
      ({ component, look, environment, capture }) =>
        `${kind === 'approve' ? pc.green('✓') : pc.red('✗')} ${lookTitle(component, look)} ` +
        `${pc.dim(`· ${environment} · ${capture}`)}`,
    );
  if (decided.length > 30) lines.push(pc.dim(`  and ${decided.length - 30} more`));
  if (decided.length > 0)
    lines.push(
      `${counted(decided.length, 'capture')} ${done}.` +
        (already > 0 ? ` ${counted(already, 'capture was', 'captures were')} already.` : ''),
    );
  else if (already > 0) lines.push(`Nothing to do: ${counted(already, 'capture is', 'captures are')} already ${done}.`);
  else if (waiting > 0) lines.push(`No capture is ${done} yet.`);
  else lines.push(kind === 'approve' ? 'Nothing to approve.' : 'Nothing to reject: none of these looks has changed.');
  if (unfinished.length > 0)
    lines.push(
      `${pc.yellow('Left out')}, because they did not finish: ` +
        `${unfinished.slice(0, 5).join(', ')}${unfinished.length > 5 ? ` and ${unfinished.length - 5} more` : ''}.`,
    );
  if (waiting > 0) lines.push(`${counted(waiting, 'capture waits', 'captures wait')} for other causes to be decided.`);
  return lines.join('\n');
}
