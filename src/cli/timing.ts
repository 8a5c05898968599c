/** What `sguardo run --timing` tells. */
import pc from 'picocolors';
import type { Client } from '../client/client.ts';
import { lookTitle } from '../core/look/look.ts';
import type { ResultSummary, RunSummary } from '../core/run/run.ts';
import { counted } from '../core/text/counted.ts';
import { shortened } from '../core/text/folded.ts';
import { leastMeasured } from '../core/timing/compare.ts';
import { type Costs, costText, costWords } from '../core/timing/costs.ts';
import { type Change, summarise, type TimedLook, type TimedResult } from '../core/timing/summary.ts';

export type Timing = {
  looks: TimedLook[];
  /** The run that it is compared with: the last timed one before. */
  before: number | null;
};

/** So many runs back an earlier timed one is looked for. */
const farthest = 200;

/** So many looks, and steps of each, are listed. */
const mostLooks = 12;
const mostSteps = 3;

async function timed(client: Client, results: readonly ResultSummary[]): Promise<TimedResult[]> {
  const all: TimedResult[] = [];
  for (const { id, component, look, environment } of results) {
    const { steps } = await client.timeline(id);
    if (steps.some(({ costs }) => costs)) all.push({ id, component, look, environment, steps });
  }
  return all;
}

/** Sums up a timed run beside the last one before it; of that only looks that passed count: they were approved. */
export async function timingOf(client: Client, run: RunSummary, results: readonly ResultSummary[]): Promise<Timing> {
  const runs = await client.runs(farthest);
  const before = runs.find(({ id, status, request }) => id < run.id && status === 'finished' && request.timing);
  const earlier = before ? await client.runResults(before.id) : [];
  const passed = earlier.filter(({ verdict }) => verdict === 'passed');
  return {
    looks: summarise(await timed(client, results), await timed(client, passed)),
    before: passed.length > 0 ? before!.id : null,
  };
}

const columns = ['script', 'style', 'layout', 'paint', 'longest', 'toPaint', 'renders'] as const;

const row = (costs: Costs): string =>
  columns
    .map((kind) => (costs[kind] === null ? '' : costText(kind, costs[kind]!).replace(' ms', '')).padStart(9))
    .join('');

function changeText({ kind, before, now, ratio, from, to }: Change): string {
  const arrow = ratio > 1 ? pc.red('▲') : pc.green('▼');
  return (
    `    ${arrow} ${costWords[kind].title} ${costText(kind, before)} → ${costText(kind, now)}, ` +
    `${ratio.toFixed(2)} times ${pc.dim(`(95 % between ${from.toFixed(2)} and ${to.toFixed(2)})`)}`
  );
}

function lookText({ component, look, environment, total, steps, changes }: TimedLook, width: number): string[] {
  const cost = ({ script, style, layout, paint }: Costs): number => script + style + layout + paint;
  const dearest = steps
    .filter(({ costs }) => cost(costs) >= 1)
    .sort((a, b) => cost(b.costs) - cost(a.costs))
    .slice(0, mostSteps);
  return [
    `${shortened(`${lookTitle(component, look)}, ${environment}`, width).padEnd(width)}${row(total)}`,
    ...(steps.length > 1
      ? dearest.map(({ title, costs }) => pc.dim(`${`  ${shortened(title, width - 2)}`.padEnd(width)}${row(costs)}`))
      : []),
    ...changes.map(changeText),
  ];
}

/** What looks cost, the dearest first, and what is dearer or cheaper than before by more than noise. */
export function timingText({ looks, before }: Timing): string {
  if (looks.length === 0) return 'Nothing was measured.';
  const width = 46;
  const changed = looks.filter(({ changes }) => changes.length > 0);
  const shown = [...new Set([...changed, ...looks.slice(0, mostLooks)])];
  const differ = changed.length === 1 ? 'differs' : 'differ';
  const times = looks[0]!.times;
  const isFew = times < leastMeasured;
  const compared =
    before === null
      ? 'There is no earlier timed run to compare with.'
      : isFew
        ? `Too few measurements to compare with run ${before}: use --repeat ${leastMeasured} or more.`
        : changed.length === 0
          ? `Nothing differs from run ${before} by more than noise.`
          : `${counted(changed.length, 'look')} ${differ} from run ${before} by more than noise.`;
  const heads = columns.map((kind) =>
    costWords[kind].title.replace('longest task', 'longest').replace('input to ', '→ '),
  );
  return [
    `${pc.bold('timing'.padEnd(width))}${pc.dim(heads.map((head) => head.padStart(9)).join(''))}`,
    ...shown.flatMap((look) => lookText(look, width)),
    ...(looks.length > shown.length
      ? [pc.dim(`… and ${counted(looks.length - shown.length, 'look')} that cost less`)]
      : []),
    `${pc.dim(`Milliseconds, medians of ${counted(times, 'run')}.`)} ${compared}`,
  ].join('\n');
}
