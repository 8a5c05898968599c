/** `sguardo why`: which edits did what looks changed by, or fail by. */
import type { Command } from 'commander';
import pc from 'picocolors';
import type { SincePassed } from '../core/cause/failing.ts';
import type { FoundEdit, FoundEdits } from '../core/cause/found.ts';
import type { CauseList } from '../core/cause/cluster.ts';
import { failSelecting, isSelected } from '../core/look/pattern.ts';
import { lookTitle } from '../core/look/look.ts';
import type { ResultSummary } from '../core/run/run.ts';
import { hasFailed } from '../core/run/verdict.ts';
import { counted } from '../core/text/counted.ts';
import { foundText } from './edits.ts';
import { withService } from './find.ts';
import { say, sayJson } from './say.ts';

export function addWhy(program: Command): void {
  program
    .command('why')
    .description('find the edits that changed looks, or made them fail, by running them without these edits')
    .argument('[pattern...]', 'only these looks, as for run')
    .option('--json', 'print one JSON document instead of text (docs/formats/causes.md)')
    .addHelpText(
      'after',
      `
Each edit since the look was approved, or passed last, is left out in memory, and the look is run again: files stay
as they are.

Examples:
  sguardo why                       of all looks that changed or fail
  sguardo why BerthCard/empty       which edit changed this look
  sguardo why "enter confirms"      which edit made it fail
  sguardo why FeeTable --json       for other programs

Exit codes: 0 found, or nothing to find · 1 not found for some · 2 bad command or pattern · 3 no service or browser`,
    )
    .action(async (patterns: string[], options: { json?: boolean }) => {
      process.exitCode = await why(patterns, options.json === true);
    });
}

/** A capture that has changed, or a look that fails, with what was found. */
type Asked = { result: ResultSummary; capture: string | null };
type Answer = Asked & { found: FoundEdits };

/** What can be asked of some results: of looks in several environments once. */
function askedOf(results: readonly ResultSummary[]): Asked[] {
  const seen = new Set<string>();
  return results.flatMap((result) => {
    const { component, look, captures } = result;
    const changed = captures.filter(({ state }) => state.kind === 'changed').map(({ name }) => name);
    const asked = hasFailed(result) ? [null] : changed;
    return asked.flatMap((capture) => {
      const key = JSON.stringify([component, look, capture]);
      if (seen.has(key)) return [];
      seen.add(key);
      return [{ result, capture }];
    });
  });
}

async function why(patterns: string[], isJson: boolean): Promise<number> {
  return withService(async (found) => {
    const { client } = found;
    const all = await client.looks();
    const results = all.filter(isSelected(patterns));
    if (results.length === 0) failSelecting(patterns, all);
    const causes = await client.causes();
    const answers: Answer[] = [];
    for (const asked of askedOf(results)) {
      const answer = { ...asked, found: await client.edits(asked.result.id, asked.capture) };
      answers.push(answer);
      const since = asked.capture === null && !isJson ? await client.since(asked.result.id) : null;
      if (!isJson) say([answerText(answer, causes), ...(since ? sinceLines(since) : [])].join('\n'));
    }
    if (isJson) sayJson(document(answers));
    else if (answers.length === 0)
      say(`${patterns.length > 0 ? 'None of these looks' : 'No look'} has changed or fails.`);
    const isAnswered = ({ found: { edits } }: Answer): boolean => edits.every(({ proved }) => proved.length > 0);
    return answers.every((answer) => answer.found.note === null && isAnswered(answer)) ? 0 : 1;
  });
}

const document = (answers: readonly Answer[]): object => ({
  format: 'sguardo-why/1',
  looks: answers.map(({ result: { id, file, component, look, environment, verdict }, capture, found }) => ({
    result: id,
    file,
    component,
    look,
    environment,
    verdict,
    capture,
    ...found,
  })),
});

function editText(found: FoundEdit, hasFailed: boolean, { causes }: CauseList): string {
  const cause = causes.find(({ key }) => key === found.key);
  const others = cause ? cause.captures.length - 1 : 0;
  const also = others > 0 ? pc.dim(` It explains ${counted(others, 'other capture')} as well.`) : '';
  return [cause?.title ?? (hasFailed ? 'It fails.' : 'It has changed.'), foundText(found, also)]
    .join('\n')
    .replace(/^(?=.)/gm, '  ');
}

/** Where a failing look parts from the last time that it passed. */
function sinceLines({ passed, departure, commits, uncommitted }: SincePassed): string[] {
  if (!passed) return [];
  const lines = [
    `Run ${passed.run} was the last one in which it did not fail${passed.commit ? ` (${passed.commit})` : ''}.`,
  ];
  if (departure) {
    lines.push(`They part at step ${departure.step + 1}: ${departure.title}. ${departure.what}`);
    lines.push(...departure.differences.map((title) => `  ${title}`));
    for (const { side, lane, title } of departure.marks.slice(0, 6))
      lines.push(side === 'now' ? pc.green(`  + ${lane}: ${title}`) : pc.red(`  − ${lane}: ${title}`));
  }
  for (const { id, author, at, summary } of commits.slice(0, 5))
    lines.push(pc.dim(`  ${id} ${summary} (${author}, ${at.slice(0, 10)})`));
  if (uncommitted.length > 0) lines.push(pc.dim(`  not committed yet: ${uncommitted.slice(0, 6).join(', ')}`));
  return lines.map((line) => `  ${line}`);
}

function answerText({ result, capture, found: { edits, hunks, note } }: Answer, causes: CauseList): string {
  const { component, look, environment, verdict } = result;
  const where = [environment, ...(capture === null || capture === 'end' ? [] : [capture]), verdict].join(' · ');
  const looked = note ?? `${counted(hunks, 'edit')} looked through.`;
  const head = `${pc.bold(lookTitle(component, look))} ${pc.dim(`· ${where} · ${looked}`)}`;
  return [head, ...edits.map((edit) => editText(edit, capture === null, causes))].join('\n');
}
