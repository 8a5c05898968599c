/** What steps cost, out of traces and profiles; budgets; and what is more than noise. */
import { describe, expect, it } from 'vitest';
import { isBudget, overspent } from '../../src/core/timing/budget.ts';
import { compareTimes, medianOf } from '../../src/core/timing/compare.ts';
import { type Costs, type Profile, stampOf, timesOf, totalOf, type TraceEvent } from '../../src/core/timing/costs.ts';
import { summarise, type TimedResult } from '../../src/core/timing/summary.ts';
import type { Step } from '../../src/core/timeline/timeline.ts';

const event = (name: string, ts: number, dur?: number, data?: Record<string, unknown>, tid = 1): TraceEvent => ({
  name,
  ph: dur === undefined ? 'I' : 'X',
  ts,
  pid: 1,
  tid,
  ...(dur !== undefined && { dur }),
  ...(data && { args: { data } }),
});
const stamp = (side: 'begin' | 'end', step: number, ts: number): TraceEvent =>
  event('TimeStamp', ts, undefined, { message: stampOf(side, step) });

/** Step 0 from 1 to 101 ms, step 1 from 200 to 210 ms. */
const events: TraceEvent[] = [
  stamp('begin', 0, 1000),
  event('RunTask', 2000, 80_000),
  event('EventDispatch', 2000, 50_000, { type: 'click' }),
  // Layout that a script asks for: what is inside it is told apart.
  event('Layout', 10_000, 20_000),
  event('UpdateLayoutTree', 12_000, 5_000),
  event('Paint', 60_000, 4_000),
  event('TimeStamp', 64_000, undefined, { name: 'Blocking Track', trackGroup: 'Scheduler ⚛' }),
  event('TimeStamp', 64_000, undefined, { name: 'Blocking Track', trackGroup: 'somebody else' }),
  event('LayoutShift', 65_000, undefined, { score: 0.125 }),
  event('Layout', 3_000, 70_000, undefined, 2),
  stamp('end', 0, 101_000),
  stamp('begin', 1, 200_000),
  event('Layout', 150_000, 1_000),
  stamp('end', 1, 210_000),
];

const node = (id: number, functionName: string, url: string, children: number[] = []) => ({
  id,
  callFrame: { functionName, url, lineNumber: id, columnNumber: 0 },
  children,
});
const profile: Profile = {
  nodes: [
    node(1, '(root)', '', [2]),
    node(2, 'step', 'ours', [3, 5]),
    node(3, 'onClick', 'theirs', [4]),
    node(4, 'sort', 'theirs'),
    node(5, 'record', 'ours'),
  ],
  startTime: 0,
  // onClick, sort, ours, and nothing.
  samples: [3, 4, 5, 1],
  timeDeltas: [10_000, 10_000, 30_000, 20_000],
};
const times = timesOf({ events, profile }, ({ callFrame: { functionName, url } }) => ({
  name: functionName,
  place: `${url}:1`,
  isOurs: url === 'ours',
}));

describe('the costs of a step', () => {
  it('are told apart, those of other threads and times left out', () => {
    expect(times.get(0)!.costs).toEqual({
      script: 40,
      style: 5,
      layout: 15,
      paint: 4,
      longest: 80,
      longTasks: 1,
      shift: 0.125,
      renders: 1,
      toPaint: 62,
    });
    expect(times.get(1)!.costs).toMatchObject({
      script: 0,
      layout: 0,
      longest: 0,
      longTasks: 0,
      renders: 0,
      toPaint: null,
    });
  });

  it('are those of the input that waits longest, whatever is painted between two of them', () => {
    const click = timesOf(
      {
        events: [
          stamp('begin', 0, 1000),
          event('EventDispatch', 2000, 1_000, { type: 'pointerdown' }),
          event('Commit', 5_000, 1_000),
          event('EventDispatch', 10_000, 30_000, { type: 'click' }),
          // Painted while it was handled: what came of it cannot be in it.
          event('Paint', 20_000, 1_000, undefined, 2),
          event('Commit', 45_000, 5_000),
          stamp('end', 0, 60_000),
        ],
        profile,
      },
      () => ({ name: '', place: null, isOurs: false }),
    );
    expect(click.get(0)!.costs.toPaint).toBe(40);
  });

  it('have the functions of the project, and none of ours', () => {
    const { flame } = times.get(0)!;
    expect(flame).toMatchObject({ total: 40, kids: [{ name: 'onClick', total: 40, self: 10 }] });
    expect(flame!.kids[0]!.kids).toMatchObject([{ name: 'sort', total: 30, self: 30, kids: [] }]);
    expect(times.get(1)!.flame).toBeNull();
  });

  it('add up to those of a look, without its parts', () => {
    const costs = times.get(0)!.costs;
    const steps = [
      { kind: 'part', costs },
      { kind: 'action', costs },
      { kind: 'action', costs: { ...costs, longest: 10, toPaint: 99 } },
      { kind: 'check' },
    ];
    expect(totalOf(steps)).toMatchObject({ script: 80, shift: 0.25, longTasks: 2, longest: 80, toPaint: 99 });
    expect(totalOf([{ kind: 'check' }])).toBeNull();
  });
});

it('a budget names what was overspent, and what it may name is known', () => {
  const costs = times.get(0)!.costs;
  expect(overspent({ script: 40, layout: 10, longTasks: 0, toPaint: 70 }, costs)).toEqual([
    'layout: 15.0 ms, at most 10.0 ms',
    'long tasks: 1, at most 0',
  ]);
  expect(isBudget({ script: 0 })).toBe(true);
  for (const wrong of [null, [], { script: -1 }, { speed: 1 }, { script: '5' }, { script: Number.NaN }])
    expect([wrong, isBudget(wrong)]).toEqual([wrong, false]);
});

describe('comparing measurements', () => {
  const around = (middle: number, spread: number): number[] =>
    Array.from({ length: 11 }, (_, i) => middle + ((i * 7) % 11) * spread - 5 * spread);

  it('takes the middle of an even number', () => expect(medianOf([4, 1, 3, 2])).toBe(2.5));

  it('tells a change beyond the noise, with its interval', () => {
    const found = compareTimes(around(20, 0.2), around(30, 0.2))!;
    expect(found.isDifferent).toBe(true);
    expect(found.ratio).toBeCloseTo(1.5, 1);
    expect(found.from).toBeGreaterThan(1.4);
    expect(found.to).toBeLessThan(1.6);
  });

  it('says nothing of what lies within it, of what is too small to matter, or of too few', () => {
    expect(compareTimes(around(20, 4), around(22, 4))!.isDifferent).toBe(false);
    expect(compareTimes(around(0.2, 0.01), around(0.4, 0.01))!.isDifferent).toBe(false);
    expect(compareTimes([1, 2], around(20, 1))).toBeNull();
  });
});

it('sums up a run by looks, the dearest first, and says what changed since', () => {
  const costs = (script: number): Costs => ({
    script,
    style: 0,
    layout: 0,
    paint: 0,
    longest: script,
    longTasks: 0,
    shift: 0,
    renders: null,
    toPaint: null,
  });
  const result = (look: string, script: number): TimedResult => ({
    component: 'A',
    look,
    environment: 'day',
    id: script,
    steps: [{ index: 0, kind: 'action', title: 'click', costs: costs(script) } as Step],
  });
  const before = [10, 11, 12].flatMap((time) => [result('slow', time), result('quick', 1)]);
  const now = [30, 31, 32].flatMap((time) => [result('quick', 1), result('slow', time)]);
  const looks = summarise(now, before);
  expect(looks.map(({ look, total, times: n }) => [look, total.script, n])).toEqual([
    ['slow', 31, 3],
    ['quick', 1, 3],
  ]);
  expect(looks[0]!.changes.map(({ kind }) => kind)).toEqual(['script', 'longest']);
  expect(looks[1]!.changes).toEqual([]);
});
