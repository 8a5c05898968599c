/** `sguardo accessibility`: what the looks lack, and writing down what is known of it. */
import type { Command } from 'commander';
import pc from 'picocolors';
import { severityOf } from '../core/accessibility/finding.ts';
import type { FindingList, ListedFinding } from '../core/accessibility/listing.ts';
import { severities, type Severity } from '../core/accessibility/rule.ts';
import { ruleOf } from '../core/accessibility/rules.ts';
import { matchesPattern } from '../core/look/pattern.ts';
import { shortName } from '../core/look/look.ts';
import { counted } from '../core/text/counted.ts';
import { withService } from './find.ts';
import { say, sayJson } from './say.ts';

type Options = { all?: boolean; json?: boolean; adopt?: boolean };

export function addAccessibility(program: Command): void {
  program
    .command('accessibility')
    .description('list what was found of the accessibility of looks when they were run last')
    .argument('[pattern...]', 'only of these looks')
    .option('--all', 'also what is accepted or known')
    .option('--adopt', 'write down what there is as known (sguardo.known.json); from then on new findings fail')
    .option('--json', 'print one JSON document instead of text')
    .addHelpText(
      'after',
      `
Examples:
  sguardo accessibility               what is new, the worst first
  sguardo accessibility BerthCard     of one component
  sguardo accessibility --all         also what is accepted or known, with why or since when
  sguardo accessibility --adopt       begin: all that there is now is known, and what comes later fails
  sguardo run --report sarif=out/run.sarif,earl=out/run.earl.json   for other programs`,
    )
    .action(async (patterns: string[], options: Options) => {
      process.exitCode = await accessibility(patterns, options);
    });
}

const paint: Record<Severity, (text: string) => string> = { severe: pc.red, moderate: pc.yellow, minor: pc.cyan };

function standingText({ standing }: ListedFinding): string {
  if (standing.is === 'accepted') return `  ${pc.dim(`accepted: ${standing.why}`)}\n`;
  return standing.is === 'known' ? `  ${pc.dim(`known since ${standing.since}`)}\n` : '';
}

function findingText(finding: ListedFinding): string {
  const { rule, element, what, component, sightings, certain, causes } = finding;
  const { title, criterion, fix } = ruleOf(rule);
  const severity = severityOf(finding);
  const [first] = sightings;
  const more = sightings.length > 1 ? ` and ${sightings.length - 1} more` : '';
  return (
    `${paint[severity](severity)}  ${pc.bold(title)}  ${pc.dim(`${rule}${criterion ? `, WCAG ${criterion}` : ''}`)}\n` +
    `  ${shortName(component)}: ${element}${certain ? '' : pc.dim('  please look')}\n` +
    `  ${what}\n` +
    standingText(finding) +
    causes
      .map(({ title, place }) => `  came with: ${title}${place ? pc.dim(`  ${place.file}:${place.line}`) : ''}\n`)
      .join('') +
    `  ${pc.dim(`${first!.look}, ${first!.environment}${more}`)}\n` +
    `  ${pc.dim('→')} ${fix}`
  );
}

/** `3 severe, 1 minor`. */
const tallyOf = (findings: readonly ListedFinding[]): string =>
  severities
    .flatMap((severity) => {
      const n = findings.filter((one) => severityOf(one) === severity).length;
      return n > 0 ? [`${n} ${severity}`] : [];
    })
    .join(', ');

function listText({ findings, known, failsOn }: FindingList, all: boolean): string {
  const fresh = findings.filter(({ standing }) => standing.is === 'new');
  const shown = all ? findings : fresh;
  const rest = findings.length - fresh.length;
  const lines = shown.map((one) => `${findingText(one)}\n`);
  const told = shown.length === 0 ? 'No new findings.' : `${counted(shown.length, 'finding')}: ${tallyOf(shown)}`;
  lines.push(told);
  if (!all && rest > 0) lines.push(pc.dim(`${rest} more accepted or known. See them with --all.`));
  if (known === null && fresh.length > 0)
    lines.push(
      pc.dim('New findings fail no look yet. To begin, from what there is now: sguardo accessibility --adopt'),
    );
  else if (failsOn !== null) lines.push(pc.dim(`New findings that are ${failsOn} or worse fail their looks.`));
  return lines.join('\n');
}

async function accessibility(
  patterns: string[],
  { all = false, json = false, adopt = false }: Options,
): Promise<number> {
  return withService(async ({ client }) => {
    if (adopt) {
      const { adopted, gone, known } = await client.adoptFindings();
      const away = gone > 0 ? `, and ${gone} taken out that ${gone === 1 ? 'is' : 'are'} gone` : '';
      say(`${counted(adopted, 'finding is', 'findings are')} known now${away}: ${known}`);
      return 0;
    }
    const list = await client.accessibility();
    const isMeant = ({ file, component, sightings }: ListedFinding): boolean =>
      patterns.length === 0 ||
      sightings.some(({ look }) => patterns.some((pattern) => matchesPattern({ file, component, look }, pattern)));
    const chosen = { ...list, findings: list.findings.filter(isMeant) };
    if (json) sayJson(chosen);
    else say(listText(chosen, all));
    return 0;
  });
}
