/** Where an animation is when time is moved on to its next begin or end. */
import { describe, expect, it } from 'vitest';
import { type Motion, moved, rightBefore, untilNext } from '../../src/core/time/motion.ts';

const fade: Motion = { at: 0, rate: 1, delay: 0, end: 400 };

/** Chromium takes an animation for ended a microsecond before its end, in its own time. */
const microsecond = 0.001;

describe('right before what an animation comes to', () => {
  it.each<[string, Motion]>([
    ['its end', fade],
    ['the end of its delay', { ...fade, delay: 100, end: 500 }],
    ['its end, a hundred times as slow', { ...fade, rate: 0.01 }],
    ['its end, a hundred times as fast', { ...fade, rate: 100 }],
    ['its begin, backwards', { ...fade, at: 400, rate: -1 }],
  ])('is short of %s by more than engines round', (_, motion) => {
    const next = untilNext(motion)!;
    const short = Math.abs(moved(motion, next) - rightBefore(motion, next));
    expect(short).toBeGreaterThan(5 * microsecond);
    expect(short).toBeLessThan(0.05);
  });

  it('is where it is when that is closer', () => {
    expect(rightBefore({ ...fade, at: 399.995 }, 0.005)).toBe(399.995);
    expect(rightBefore({ ...fade, at: 0.005, rate: -1 }, 0.005)).toBe(0.005);
  });
});
