/** `sguardo list`: tells which looks there are, without running them. */
import type { Command } from 'commander';
import pc from 'picocolors';
import type { LookInfo } from '../core/look/look.ts';
import { isChosen } from '../core/look/pattern.ts';
import { counted } from '../core/text/counted.ts';
import { exitOf } from './exits.ts';
import { withService } from './find.ts';
import { wrongText } from './print.ts';
import { follow } from './follow.ts';
import { tagOption, withoutTagOption } from './options.ts';
import { say, sayJson } from './say.ts';

type Options = { tag: string[]; withoutTag: string[]; json?: boolean };

export function addList(program: Command): void {
  program
    .command('list')
    .description('list the looks that there are, without running them')
    .argument('[pattern...]', 'only these looks, as for run')
    .addOption(tagOption())
    .addOption(withoutTagOption())
    .option('--json', 'print one JSON document instead of text')
    .addHelpText(
      'after',
      `
Examples:
  sguardo list                  every look, by component
  sguardo list BerthCard        those of one component
  sguardo list --tag slow       those with a tag
  sguardo list --json           for other programs

Exit codes: 0 listed · 2 bad command, configuration or look file · 3 no service, browser or disk space`,
    )
    .action(async (patterns: string[], options: Options) => {
      process.exitCode = await list(patterns, options);
    });
}

async function list(patterns: string[], { tag, withoutTag, json }: Options): Promise<number> {
  return withService(async (found) => {
    const summary = await follow(found, { listing: true }, { isQuiet: true, isJson: json === true });
    const isMeant = isChosen({ patterns, looks: [], tags: tag, withoutTags: withoutTag });
    const looks = (await found.client.catalogue()).filter(isMeant);
    if (json) sayJson({ format: 'sguardo-list/1', looks });
    else tell(looks);
    for (const problem of summary.problems) process.stderr.write(`${wrongText(problem)}\n`);
    return Math.max(0, ...summary.problems.map(exitOf));
  });
}

/** What there is to know of a look beside its name. */
function about({ hasScript, after, tags = [], environments, skip, only }: LookInfo): string {
  const parts = [
    ...(hasScript ? ['script'] : []),
    ...(after === null ? [] : [`after “${after}”`]),
    ...tags.map((tag) => `#${tag}`),
    ...(environments ? [`only in ${environments.join(', ')}`] : []),
    ...(only ? ['only'] : []),
    ...(skip === undefined ? [] : [`skipped: ${skip}`]),
  ];
  return parts.length === 0 ? '' : `  ${pc.dim(parts.join(' · '))}`;
}

function tell(looks: readonly LookInfo[]): void {
  const components = new Set(looks.map(({ component }) => component));
  for (const component of components) {
    say(pc.bold(component));
    for (const info of looks.filter((one) => one.component === component)) say(`  ${info.look}${about(info)}`);
  }
  say(`\n${counted(looks.length, 'look')} of ${counted(components.size, 'component')}`);
}
