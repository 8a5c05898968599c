/** How results and problems are written to a terminal. */
import pc from 'picocolors';
import { lookTitle } from '../core/look/look.ts';
import { inOrder, isDecisive } from '../core/problem/notes.ts';
import type { Problem } from '../core/problem/problem.ts';
import type { ConflictSides } from '../core/baseline/baseline.ts';
import type { CaptureSummary, ResultSummary, RunSummary } from '../core/run/run.ts';
import { type Verdict, verdicts } from '../core/run/verdict.ts';
import { contrasted } from '../core/text/contrast.ts';
import { counted } from '../core/text/counted.ts';

/** A shape for each verdict, so that colour never says it alone. */
const shapes: Record<Verdict, string> = { passed: '✓', failed: '✗', broken: '▲', changed: '≠', new: '+' };
const paint: Record<Verdict, (text: string) => string> = {
  passed: pc.green,
  failed: pc.red,
  broken: pc.red,
  changed: pc.yellow,
  new: pc.cyan,
};

export const verdictWord = (verdict: Verdict): string => paint[verdict](`${shapes[verdict]} ${verdict}`);

const indent = (text: string, by: string): string =>
  text
    .split('\n')
    .map((line) => (line ? by + line : line))
    .join('\n');

/** One look on one line. */
export const lookLine = (result: ResultSummary): string => {
  const shown = `${paint[result.verdict](shapes[result.verdict])} ${lookTitle(result.component, result.look)}`;
  const verdict = result.verdict === 'passed' ? '' : ` · ${result.verdict}`;
  return `${shown} ${pc.dim(`· ${result.environment} · ${result.took} ms${verdict}`)}`;
};

/** A problem, what was there instead, the place, and the way out. */
export function problemText(problem: Problem): string {
  const lines = [problem.message];
  // Findings stand in nobody's place.
  const label = problem.code === 'accessibility-new' ? 'found' : 'instead';
  if (problem.found && problem.found.length > 0)
    lines.push(...problem.found.map((found, i) => (i === 0 ? label : '').padEnd(9) + found));
  if (problem.place) lines.push(pc.cyan(problem.place));
  if (problem.frame)
    lines.push(
      problem.frame
        .split('\n')
        .map((line) => (line.startsWith('▸') ? pc.bold(line) : pc.dim(line)))
        .join('\n'),
    );
  lines.push(`${pc.dim('→')} ${problem.remedy}`);
  return lines.join('\n');
}

/** A problem that is told by itself. */
export const wrongText = (problem: Problem): string => `${pc.red('✗')} ${problemText(problem)}`;

/** What each side of a merge has approved. */
function conflictText(sides: ConflictSides): string {
  const told = (['base', 'ours', 'theirs'] as const).flatMap((name) => {
    const side = sides[name];
    if (!side) return [`\n    ${name.padEnd(6)}  no baseline`];
    const approved = side.who ? `approved by ${side.who}` : 'approved';
    const facts = [
      ...(side.name === '' ? [approved] : [`${side.name}: ${approved}`]),
      ...(side.at ? [` on ${side.at.slice(0, 10)}`] : []),
      ...(side.why ? [`, “${side.why}”`] : []),
    ];
    return [`\n    ${name.padEnd(6)}  ${facts.join('')}`];
  });
  const way = 'To settle it: sguardo approve --take ours, or theirs; without --take what is shown now';
  return `a merge has left its baselines in conflict${told.join('')}\n    ${way}`;
}

function captureText(capture: CaptureSummary): string | null {
  const { state } = capture;
  if (state.kind === 'unreadable') return `${capture.name}: ${state.why.message}`;
  if (state.kind === 'conflict') return `${capture.name}: ${conflictText(state.sides)}`;
  if (state.kind !== 'changed') return null;
  const parts: string[] = [];
  if (state.picture) {
    const { from, to, visible, regions } = state.picture;
    if (from[0] !== to[0] || from[1] !== to[1]) parts.push(`size ${from[0]}×${from[1]} → ${to[0]}×${to[1]}`);
    parts.push(`${counted(visible, 'pixel differs', 'pixels differ')} visibly in ${counted(regions.length, 'region')}`);
  }
  const lines = counted(state.markup.length, 'line of markup differs', 'lines of markup differ');
  if (state.markup.length > 0) parts.push(state.picture ? lines : `markup only: ${lines}, the picture is as approved`);
  if (state.otherFingerprint)
    parts.push(
      state.isRedrawn
        ? 'approved with another browser or other fonts, and compared with what this one draws'
        : 'the baseline was taken with another browser, other fonts or in another environment',
    );
  const linesOf = (wanted: 'baseline' | 'now'): string[] =>
    state.markup.filter(({ side }) => side === wanted).map(({ text }) => text.trim());
  const markup = state.markup.slice(0, 4).map(({ side, text }) => {
    const shown = contrasted(text.trim(), linesOf(side === 'now' ? 'baseline' : 'now'));
    return `\n    ${side === 'now' ? pc.green(`+ ${shown}`) : pc.red(`− ${shown}`)}`;
  });
  return `${capture.name}: ${parts.join('; ')}${markup.join('')}`;
}

/** True for the title of a step that is the message of what went wrong, which is told anyway; long ones are cut off. */
const saysMessage = (title: string, { problem }: ResultSummary): boolean =>
  problem?.message.startsWith(title.replace(/…$/, '')) === true;

/** So many names are told; the others are counted. */
const mostNamed = 6;

/** `Also Berth › free, Berth › moored and 3 more.` */
function alsoText(others: readonly string[]): string {
  const named = others.slice(0, mostNamed).join(', ');
  return `${pc.dim('also')}  ${named}${others.length > mostNamed ? ` and ${others.length - mostNamed} more` : ''}`;
}

/** Everything that a person needs to know of a look that did not simply pass; `others` went wrong in the same way. */
export function resultText(
  result: ResultSummary,
  environments: readonly string[],
  url: string,
  stepTitle: string | null,
  others: readonly string[] = [],
): string {
  const lines = [
    `${verdictWord(result.verdict)}  ${pc.bold(lookTitle(result.component, result.look))}  ` +
      `${pc.dim(environments.join(', '))}`,
  ];
  if (others.length > 0) lines.push(`  ${alsoText(others)}`);
  if (result.failedStep !== null)
    lines.push(
      `  step ${result.failedStep + 1} of ` +
        `${result.steps}${stepTitle && !saysMessage(stepTitle, result) ? `: ${stepTitle}` : ''}`,
    );
  const notes = inOrder(result.notes);
  const noted = (wanted: (note: string) => boolean): void => {
    for (const note of notes.filter(wanted)) lines.push(indent(`${pc.yellow('note')} ${note}`, '  '));
  };
  noted(isDecisive);
  if (result.problem) lines.push(indent(problemText(result.problem), '  '));
  if (result.verdict === 'changed')
    for (const capture of result.captures) {
      const text = captureText(capture);
      if (text) lines.push(`  ${text}`);
    }
  noted((note) => !isDecisive(note));
  lines.push(`  ${pc.underline(benchUrl(url, result))}`);
  return lines.join('\n');
}

/** Where a result is shown in the console, at the step where it went wrong. */
export const benchUrl = (url: string, result: Pick<ResultSummary, 'id' | 'failedStep'>): string =>
  `${url}/bench/${result.id}${result.failedStep === null ? '' : `?step=${result.failedStep}`}`;

/** `58 passed, 1 failed, 2 new`. */
export const tallyText = (run: Pick<RunSummary, 'tally'>): string =>
  verdicts
    .filter((verdict) => run.tally[verdict] > 0)
    .map((verdict) => paint[verdict](`${run.tally[verdict]} ${verdict}`))
    .join(', ') || 'no verdicts';

export const duration = (run: Pick<RunSummary, 'started' | 'finished'>): string =>
  `${((Date.parse(run.finished ?? new Date().toISOString()) - Date.parse(run.started)) / 1000).toFixed(1)} s`;
