/** `sguardo history` and `sguardo undo`: what was decided, and taking it back. */
import type { Command } from 'commander';
import pc from 'picocolors';
import type { HistoryEntry } from '../core/api/api.ts';
import { lookTitle } from '../core/look/look.ts';
import { failSelecting, isSelected } from '../core/look/pattern.ts';
import type { ResultSummary } from '../core/run/run.ts';
import { counted } from '../core/text/counted.ts';
import { withService, type Found } from './find.ts';
import { numberOf } from './numbers.ts';
import { say, sayJson } from './say.ts';

export function addHistory(program: Command): void {
  program
    .command('history')
    .description('say who approved or rejected what looks show, when, why and at which commit')
    .argument('[pattern...]', 'only these looks: part of a component, name or file; Component/look for exactly one')
    .option('--json', 'print one JSON document instead of text')
    .addHelpText(
      'after',
      `
Examples:
  sguardo history                   of every look about which something was decided
  sguardo history BerthCard/empty
  sguardo history FeeTable --json`,
    )
    .action((patterns: string[], options: { json?: boolean }) => history(patterns, options.json === true));
  program
    .command('undo')
    .description('take back the last decision as a whole: its captures wait again, and files are as they were before')
    .argument('[number]', 'an earlier one, by its number in sguardo history', numberOf('decision'))
    .option('--json', 'print one JSON document instead of text')
    .addHelpText(
      'after',
      `
Examples:
  sguardo undo                      the last decision
  sguardo undo 12                   decision 12 of sguardo history`,
    )
    .action((batch: number | undefined, options: { json?: boolean }) => undo(batch, options.json === true));
}

const kinds: Record<HistoryEntry['kind'], string> = {
  approve: pc.green('✓ approved'),
  reject: pc.red('✗ rejected'),
  adopt: pc.cyan('⇣ taken in'),
  undo: pc.yellow('↶ taken back'),
};

function entryText({ kind, capture, who, at, why, fixer, commit, branch, batch, isBaseline }: HistoryEntry): string {
  const where = [branch, commit].filter((one) => one !== null).join(' at ');
  const facts = [
    `${capture === 'end' ? '' : `${capture} `}by ${who}`,
    at.slice(0, 16).replace('T', ' '),
    ...(where === '' ? [] : [where]),
    ...(batch === null ? [] : [`decision ${batch}`]),
    ...(isBaseline ? [pc.bold('the baseline now')] : []),
  ];
  const said = [...(why ? [`“${why}”`] : []), ...(fixer ? [`to be fixed by ${fixer}`] : [])];
  return [`  ${kinds[kind]} ${facts.join(' · ')}`, ...said.map((line) => `      ${line}`)].join('\n');
}

/** So many looks are asked about at once. */
const together = 50;

async function history(patterns: string[], isJson: boolean): Promise<void> {
  return withService(async (found) => {
    const every = await found.client.looks();
    const results = every.filter(isSelected(patterns));
    if (results.length === 0 && patterns.length > 0) failSelecting(patterns, every);
    const looks: Awaited<ReturnType<typeof decisionsOf>>[] = [];
    for (let i = 0; i < results.length; i += together)
      looks.push(...(await Promise.all(results.slice(i, i + together).map((result) => decisionsOf(found, result)))));
    // Of looks that nobody has named only those are told of which there is something to tell.
    const all = patterns.length > 0 ? looks : looks.filter(({ decisions }) => decisions.length > 0);
    if (!isJson && all.length === 0) say('Nothing was decided yet.');
    if (isJson) sayJson({ format: 'sguardo-history/1', looks: all });
    else
      for (const { component, look, environment, decisions } of all)
        say(
          `${pc.bold(lookTitle(component, look))} ${pc.dim(`· ${environment}`)}\n` +
            (decisions.length === 0 ? '  Nothing was decided.' : decisions.map(entryText).join('\n')),
        );
  });
}

async function decisionsOf({ client }: Found, { component, look, environment }: ResultSummary) {
  const { decisions } = await client.history({ component, look, environment });
  return { component, look, environment, decisions };
}

async function undo(batch: number | undefined, isJson: boolean): Promise<void> {
  return withService(async (found) => {
    const undone = await found.client.undo(batch === undefined ? {} : { batch });
    const { kind, who, captures, batch: number } = undone;
    const what = `${kind === 'approve' ? 'The approval' : 'The rejection'} by ${who} (decision ${number})`;
    const of = captures.length > 0 ? ` of ${counted(captures.length, 'capture')}` : '';
    if (isJson) sayJson(undone);
    else say(`${what}${of} is taken back.`);
  });
}
