/** The pure parts of the bench: where one is on a timeline, and how wide its stretches are drawn. */
import { describe, expect, it } from 'vitest';
import { placeMarks } from '../../src/console/bench/MarkRow.tsx';
import { compressedScale } from '../../src/console/bench/scale.ts';
import { atStep, atTime, endTime, firstPosition, moveBy } from '../../src/console/bench/travel.ts';
import { emptyMoment } from '../../src/core/moment/moment.ts';
import type { Mark, Step, Timeline } from '../../src/core/timeline/timeline.ts';

const step = (
  index: number,
  at: number,
  took: number,
  before: number,
  after: number,
  change: Partial<Step> = {},
): Step => ({
  index,
  kind: 'action',
  title: `step ${index}`,
  parent: null,
  at,
  took,
  outcome: 'passed',
  before,
  after,
  ...change,
});

const timeline: Timeline = {
  steps: [
    step(0, 0, 10, 0, 1, { kind: 'mount' }),
    step(1, 12, 40, 1, 3, { kind: 'part' }),
    step(2, 12, 10, 1, 2),
    step(3, 30, 20, 2, 3, { kind: 'check' }),
    step(4, 60, 5, 3, 3),
  ],
  marks: [{ lane: 'network', at: 61, took: 30, title: 'GET /api/weather', level: 'info' }],
  taken: [0, 10, 21, 50],
  base: emptyMoment(10, 10),
  patches: [{}, {}, {}],
  assets: {},
  source: null,
};

describe('travelling', () => {
  it('goes to the moment before or after a step', () => {
    expect(atStep(timeline, 2, 'before')).toEqual({ step: 2, side: 'before', time: 12, moment: 1 });
    expect(atStep(timeline, 2)).toEqual({ step: 2, side: 'after', time: 22, moment: 2 });
    expect(atStep(timeline, 99).step).toBe(4);
  });

  it('passes over parts with the arrow keys, and stays at the ends', () => {
    expect(moveBy(timeline, atStep(timeline, 0), 1).step).toBe(2);
    expect(moveBy(timeline, atStep(timeline, 2, 'before'), 1)).toMatchObject({ step: 3, side: 'before' });
    expect(moveBy(timeline, atStep(timeline, 4), 1).step).toBe(4);
    expect(moveBy(timeline, atStep(timeline, 0), -1).step).toBe(0);
  });

  it('finds the newest moment and the step of a point in time', () => {
    expect(atTime(timeline, 35)).toEqual({ step: 3, side: 'before', time: 35, moment: 2 });
    expect(atTime(timeline, 55)).toMatchObject({ step: 3, side: 'after', moment: 3 });
    expect(atTime(timeline, 0).moment).toBe(0);
  });

  it('begins at the step asked for, else where it went wrong, else at the end', () => {
    expect(firstPosition(timeline, 2).step).toBe(2);
    expect(firstPosition(timeline, null).step).toBe(4);
    const failed = { ...timeline, steps: timeline.steps.with(3, { ...timeline.steps[3]!, outcome: 'failed' }) };
    expect(firstPosition(failed, null).step).toBe(3);
  });

  it('ends when the last of steps, marks and moments does', () => expect(endTime(timeline)).toBe(91));

  it('has a place to be although nothing was recorded', () => {
    const empty = { ...timeline, steps: [], patches: [], taken: [0] };
    expect(firstPosition(empty, null)).toEqual({ step: 0, side: 'after', time: 0, moment: 0 });
    expect(moveBy(empty, firstPosition(empty, null), 1).step).toBe(0);
  });
});

describe('the scale', () => {
  const scale = compressedScale([0, 5, 6, 2000, 2004], 2010, 800);

  it('keeps the order, fills the width, and gives short stretches room beside long ones', () => {
    const xs = [0, 5, 6, 2000, 2004, 2010].map(scale.x);
    expect([...xs].sort((a, b) => a - b)).toEqual(xs);
    expect(xs[0]).toBe(0);
    expect(xs.at(-1)).toBeCloseTo(800, 6);
    expect(xs[1]! - xs[0]!).toBeGreaterThan(20);
  });

  it('leads back from a place to its time', () => {
    for (const time of [0, 3, 5.5, 700, 2003, 2010]) expect(scale.time(scale.x(time))).toBeCloseTo(time, 6);
    expect(scale.time(-50)).toBe(0);
    expect(scale.time(9999)).toBe(2010);
  });

  it('has ticks that do not run into one another', () => {
    const { ticks } = scale;
    for (let i = 1; i < ticks.length; i++) expect(ticks[i]!.x - ticks[i - 1]!.x).toBeGreaterThan(60);
  });
});

describe('titles of marks', () => {
  const mark = (at: number, title = 'GET /api/x', took: number | null = null): Mark => ({
    lane: 'network',
    at,
    took,
    title,
    level: 'info',
  });
  const sides = (...marks: Mark[]) => placeMarks(marks, { x: (time) => time }, 800).map(({ side }) => side);

  it('stand on the right where there is room, else on the left, else nowhere', () => {
    expect(sides(mark(100))).toEqual(['right']);
    expect(sides(mark(790))).toEqual(['left']);
    expect(sides(mark(100), mark(130), mark(160))).toEqual(['left', 'none', 'right']);
    expect(sides(mark(0), mark(20))).toEqual(['none', 'right']);
  });

  it('do not run into the title before them', () => {
    expect(sides(mark(600, 'a long title of a request that takes its room'), mark(790))).toEqual(['left', 'left']);
    expect(sides(mark(650), mark(790, 'a title that is too long for here'))).toEqual(['right', 'none']);
  });

  it('keep clear of how long something took', () => {
    expect(placeMarks([mark(100, 'x', 50)], { x: (time) => time * 2 }, 800)).toMatchObject([
      { from: 200, to: 300, side: 'right' },
    ]);
  });
});
