/** How long a page may take that does not move on: as long as it had no chance to. */
import { describe, expect, it } from 'vitest';
import type { BrowserLoad } from '../../src/engine/engine.ts';
import { hadItsChance, whileMoving } from '../../src/work/patience.ts';

/** A browser's own process, and that of a page. */
const load = (browser: [number, number], page: [number, number]): BrowserLoad =>
  new Map([
    [1, { used: browser[0], waited: browser[1], isPage: false }],
    [2, { used: page[0], waited: page[1], isPage: true }],
  ]);
const start = load([500, 100], [40, 10]);

describe('a page that has not moved on', () => {
  it.each([
    ['has computed for half of the time', load([500, 100], [5040, 4000]), true],
    ['has waited for something else', load([520, 200], [90, 300]), true],
    ['has waited for the processor', load([500, 100], [1040, 9010]), false],
    ['has waited for a browser that waits for the processor', load([600, 8000], [60, 50]), false],
    ['belongs to a browser that computes', load([9500, 200], [60, 50]), true],
  ])('%s', (_, now, hadIt) => {
    expect(hadItsChance(10_000, start, start, now)).toBe(hadIt);
  });

  it('had its chance when it has computed for long in several rounds', () => {
    const before = load([500, 5000], [4000, 30_000]);
    expect(hadItsChance(10_000, start, before, load([500, 5000], [5100, 39_000]))).toBe(true);
  });

  it('is new, and its process, too', () => {
    expect(hadItsChance(10_000, new Map(), new Map(), load([0, 0], [6000, 0]))).toBe(true);
  });
});

describe('a wait', () => {
  const late = (): Error => new Error('late');
  const starved = (): (() => Promise<BrowserLoad>) => {
    let waited = 0;
    return () => {
      waited += 20;
      return Promise.resolve(load([0, waited], [0, 0]));
    };
  };

  it('ends when nothing moves', async () => {
    const never = new Promise<never>(() => {});
    const idle = (): Promise<BrowserLoad> => Promise.resolve(start);
    await expect(whileMoving(never, { limit: 20, progress: () => 0, load: idle, late })).rejects.toThrow('late');
  });

  it('goes on while the browser waits for the processor, but not for ever', async () => {
    let looked = 0;
    const load = starved();
    const count = (): Promise<BrowserLoad> => {
      looked++;
      return load();
    };
    const never = new Promise<never>(() => {});
    await expect(whileMoving(never, { limit: 20, progress: () => 0, load: count, late })).rejects.toThrow('late');
    expect(looked).toBe(11);
  });

  it('hands on what comes, and what goes wrong', async () => {
    const wait = { limit: 20, progress: () => 0, load: starved(), late };
    expect(await whileMoving(Promise.resolve(5), wait)).toBe(5);
    await expect(whileMoving(Promise.reject(new Error('aground')), wait)).rejects.toThrow('aground');
  });
});
