/** Tells what a run came to, in text or as JSON. */
import pc from 'picocolors';
import type { CauseList } from '../core/cause/cluster.ts';
import { lookKey, lookTitle, shortName, wholeFile } from '../core/look/look.ts';
import { isDecisive } from '../core/problem/notes.ts';
import { titleOf } from '../core/report/report.ts';
import type { ResultSummary, RunSummary } from '../core/run/run.ts';
import { hasFailed, verdicts } from '../core/run/verdict.ts';
import { counted } from '../core/text/counted.ts';
import { causesText, chosenCauses } from './causes.ts';
import { isCi, logOf } from './ci.ts';
import type { Found } from './find.ts';
import { benchUrl, duration, resultText, tallyText, wrongText } from './print.ts';
import { repeatedText } from './repeated.ts';
import { say } from './say.ts';

/**
 * Equal for results that went wrong in the same way: of one look in several environments or repetitions, and of several
 * looks at the same place for the same reason. They are told once.
 */
function alike({ file, component, look, verdict, problem, captures, notes }: ResultSummary): string {
  // What a look file says itself is its own.
  const isElsewhere = problem?.place && !problem.place.startsWith(`${file}:`);
  if (problem?.code === 'request-unanswered') return JSON.stringify([verdict, problem.message, notes]);
  if (isElsewhere) return JSON.stringify([verdict, problem.message.replace(file, ''), problem.place, notes]);
  const shown = captures.map(({ name, state }) => [name, state.kind, state.kind === 'changed' ? state.markup : null]);
  return JSON.stringify([component, look, verdict, problem?.message, shown]);
}

/** What a result is called among others that went wrong in the same way: a file that could not be built has no look. */
const nameIn = ({ component, look }: ResultSummary): string =>
  look === wholeFile ? shortName(component) : lookTitle(component, look);

/** In so many looks a note is told once, and not of each of them. */
const isCommon = 3;

/** Notes that many looks have, such as those that come of a library, and in how many. */
function commonNotes(results: readonly ResultSummary[]): Map<string, number> {
  const found = new Map<string, Set<string>>();
  for (const { component, look, notes } of results)
    for (const note of notes) found.set(note, (found.get(note) ?? new Set()).add(lookKey(component, look)));
  const common = [...found].filter(([note, looks]) => looks.size >= isCommon && !isDecisive(note));
  return new Map(common.map(([note, looks]) => [note, looks.size]));
}

/** Most looks that are told in full; beyond, a list is read in the console, which a CI log has not. */
const toldInFull = isCi ? Number.POSITIVE_INFINITY : 20;

/** The causes of some results; what failed is told by itself. Numbers stay those of the whole list. */
function ofResults(list: CauseList, results: readonly ResultSummary[]): CauseList {
  const ids = new Set(results.map(({ id }) => id));
  const isOwn = ({ result }: { result: number }): boolean => ids.has(result);
  return chosenCauses({ ...list, causes: list.causes.filter(({ kind }) => kind !== 'failed') }, isOwn);
}

/** Tells what a run came to: what went wrong in full, the rest in numbers. */
export async function tell({ client, url, own }: Found, summary: RunSummary, results: ResultSummary[]): Promise<void> {
  const causes = summary.tally.changed > 0 ? ofResults(await client.causes(), results) : null;
  const common = commonNotes(results);
  const unexplained = new Set(causes?.unexplained.map(({ result }) => result));
  const isToldAlone = (result: ResultSummary): boolean =>
    hasFailed(result) ||
    result.notes.some((note) => !common.has(note)) ||
    unexplained.has(result.id) ||
    result.captures.some(({ state }) => state.kind === 'conflict');
  const wrong = results.filter(isToldAlone);
  wrong.sort((a, b) => verdicts.indexOf(a.verdict) - verdicts.indexOf(b.verdict));
  const groups = new Map<string, ResultSummary[]>();
  for (const result of wrong) groups.set(alike(result), [...(groups.get(alike(result)) ?? []), result]);
  for (const group of [...groups.values()].slice(0, toldInFull)) {
    const first = group[0]!;
    const title =
      first.failedStep === null ? null : ((await client.timeline(first.id)).steps[first.failedStep]?.title ?? null);
    const folded = isCi ? logOf(process.env) : null;
    const open = folded?.open(titleOf(first)) ?? null;
    if (open !== null) say(open);
    const told = { ...first, notes: first.notes.filter((note) => !common.has(note)) };
    const environments = [...new Set(group.map(({ environment }) => environment))];
    const [, ...others] = new Set(group.map(nameIn));
    say(`\n${resultText(told, environments, url, title, others)}`);
    const close = open === null ? null : (folded?.close() ?? null);
    if (close !== null) say(close);
  }
  if (groups.size > toldInFull) say(`\n… and ${groups.size - toldInFull} more, on the board: ${url}/`);
  if (causes && causes.changes > 0) say(`\n${causesText(causes, url)}`);
  if (summary.done === 0 && summary.request.changed !== null && summary.problems.length === 0) {
    say(`No look depends on what has changed since ${summary.request.changed}.`);
    return;
  }
  for (const problem of summary.problems) say(`\n${wrongText(problem)}`);
  say(
    `\n${tallyText(summary)}  ` +
      pc.dim(
        `${counted(summary.done, 'look')}${summary.reused > 0 ? ` (${summary.reused} reused)` : ''}, ` +
          `${counted(summary.captures, 'capture')}, ${duration(summary)}`,
      ),
  );
  if (summary.request.repeat > 1 && summary.status === 'finished' && summary.captures > 0)
    say(repeatedText(summary, results));
  const unsteady = new Set(
    results.filter(({ isUnsteady }) => isUnsteady).map(({ component, look }) => lookKey(component, look)),
  );
  if (unsteady.size > 0)
    say(
      `${counted(unsteady.size, 'look is', 'looks are')} unsteady, and passed or failed by chance: ` +
        `${[...unsteady].join(', ')}`,
    );
  for (const [note, looks] of common) say(`${pc.yellow('note')} In ${counted(looks, 'look')}: ${note}`);
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
