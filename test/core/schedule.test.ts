/** What waits for its time: order, clamping, frames, and what has no end. */
import { describe, expect, it } from 'vitest';
import {
  frameAfter,
  isEndless,
  nextUntil,
  setInTurn,
  stillInTurn,
  timerDue,
  type Waiting,
} from '../../src/core/time/schedule.ts';

const waiting = (id: number, due: number, more: Partial<Waiting> = {}): Waiting => ({
  id,
  due,
  kind: 'timer',
  period: null,
  generation: 1,
  ...more,
});

describe('nextUntil', () => {
  it('is what is due first, and of several what was set first', () => {
    const all = [waiting(3, 50), waiting(1, 80), waiting(2, 50)];
    expect(nextUntil(all, 100)?.id).toBe(2);
    expect(nextUntil(all, 50)?.id).toBe(2);
    expect(nextUntil(all, 49)).toBeNull();
    expect(nextUntil([], 1e9)).toBeNull();
  });
});

describe('timerDue', () => {
  it.each([
    [0, 0],
    [undefined, 0],
    [-5, 0],
    ['20', 20],
    [7.9, 7],
    [Number.NaN, 0],
    [[3], 3],
  ])('takes the delay %s for %s', (delay, taken) => {
    expect(timerDue(100, delay, 1)).toBe(100 + taken);
  });

  it('lets a timer that sets itself again at once move time on', () => {
    expect(timerDue(100, 0, 4)).toBe(100);
    expect(timerDue(100, 0, 5)).toBe(104);
    expect(timerDue(100, 30, 50)).toBe(130);
  });
});

describe('frameAfter', () => {
  it('comes sixty times a second, never at the same time again', () => {
    let now = 0;
    for (let frame = 1; frame <= 600; frame++) {
      now = frameAfter(now);
      expect(now).toBeCloseTo((frame * 1000) / 60, 6);
    }
    expect(frameAfter(20)).toBeCloseTo(33.333, 2);
  });
});

describe('isEndless', () => {
  it('is what ticks or asks again and again, not what moves something, and not what comes once', () => {
    expect(isEndless(waiting(1, 1000, { period: 1000 }), 0)).toBe(true);
    expect(isEndless(waiting(1, 16, { period: 16 }), 0)).toBe(false);
    expect(isEndless(waiting(1, 300), 0)).toBe(false);
    expect(isEndless(waiting(1, 200, { generation: 3 }), 0)).toBe(false);
    expect(isEndless(waiting(1, 200, { generation: 9 }), 0)).toBe(true);
    expect(isEndless(waiting(1, 16, { generation: 90, kind: 'frame' }), 0)).toBe(false);
  });
});

describe('setInTurn', () => {
  it('lets time move on in what waits for none and comes ever again', () => {
    const one = waiting(1, 100);
    expect(setInTurn(one, 100, 10)).toBe(one);
    expect(setInTurn(one, 100, 400)).toMatchObject({ due: 104, generation: 400 });
    expect(setInTurn(waiting(1, 100, { kind: 'idle' }), 100, 400).due).toBeCloseTo(700 / 6, 6);
  });

  it('leaves what waits for its time', () => {
    const one = waiting(1, 101);
    expect(setInTurn(one, 100, 400)).toBe(one);
  });

  it('is over after a real wait', () => {
    expect(stillInTurn(400, 4)).toBe(400);
    expect(stillInTurn(400, 300)).toBe(0);
  });
});
