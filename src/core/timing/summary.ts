/** What a timed run comes to: medians over its repetitions, and what differs from an earlier one. */
import { type LookName, lookKey } from '../look/look.ts';
import type { Step } from '../timeline/timeline.ts';
import { compareTimes, medianOf, type Ratio } from './compare.ts';
import { type CostKind, type Costs, costKinds, totalOf } from './costs.ts';

/** One result of a timed run: its steps, with what they cost. */
export type TimedResult = LookName & { environment: string; id: number; steps: readonly Step[] };

/** A difference that is more than noise. */
export type Change = Ratio & { kind: CostKind };

export type TimedStep = { index: number; title: string; costs: Costs };

export type TimedLook = LookName & {
  environment: string;
  /** A result of it, to look at. */
  id: number;
  times: number;
  total: Costs;
  /** Its steps, medians as well, but parts. */
  steps: TimedStep[];
  changes: Change[];
};

const keyOf = ({ component, look, environment }: TimedResult): string =>
  JSON.stringify([lookKey(component, look), environment]);

function grouped(results: readonly TimedResult[]): Map<string, TimedResult[]> {
  const groups = new Map<string, TimedResult[]>();
  for (const result of results) groups.set(keyOf(result), [...(groups.get(keyOf(result)) ?? []), result]);
  return groups;
}

/** The median of each kind. */
function medians(all: readonly Costs[]): Costs {
  const of = (kind: CostKind): number | null => {
    const values = all.flatMap((costs) => costs[kind] ?? []);
    return values.length === 0 ? null : Math.round(medianOf(values) * 1000) / 1000;
  };
  return Object.fromEntries(costKinds.map((kind) => [kind, of(kind)])) as Costs;
}

function changesOf(before: readonly Costs[], now: readonly Costs[]): Change[] {
  return costKinds.flatMap((kind): Change[] => {
    const values = (all: readonly Costs[]): number[] => all.flatMap((costs) => costs[kind] ?? []);
    const ratio = compareTimes(values(before), values(now));
    return ratio?.isDifferent ? [{ kind, ...ratio }] : [];
  });
}

const totals = (results: readonly TimedResult[]): Costs[] => results.flatMap(({ steps }) => totalOf(steps) ?? []);

/** Sums up a timed run, the looks that cost most first. `before` are results of the run that it is compared with. */
export function summarise(results: readonly TimedResult[], before: readonly TimedResult[]): TimedLook[] {
  const earlier = grouped(before);
  const looks = [...grouped(results)].flatMap(([key, own]): TimedLook[] => {
    const all = totals(own);
    const first = own[0]!;
    if (all.length === 0) return [];
    const steps = first.steps.flatMap((step): TimedStep[] => {
      const each = own.flatMap(({ steps: others }) => {
        const other = others[step.index];
        return other?.title === step.title && other.costs ? [other.costs] : [];
      });
      return step.kind === 'part' || each.length === 0
        ? []
        : [{ index: step.index, title: step.title, costs: medians(each) }];
    });
    const { component, look, environment, id } = first;
    const changes = changesOf(totals(earlier.get(key) ?? []), all);
    return [{ component, look, environment, id, times: own.length, total: medians(all), steps, changes }];
  });
  const cost = ({ total }: TimedLook): number => total.script + total.style + total.layout + total.paint;
  return looks.sort((a, b) => cost(b) - cost(a));
}
