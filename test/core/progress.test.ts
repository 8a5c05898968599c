/** What is said of a run while it goes on. */
import { describe, expect, it } from 'vitest';
import { leftText, noProgress, progressText, timeLeftOf } from '../../src/core/run/progress.ts';

const none = { planned: 0, done: 0, reused: 0 };

describe('a run', () => {
  it('says what it does before its first look', () => {
    expect(progressText(noProgress, none)).toBe('Looking for look files…');
    expect(progressText({ ...noProgress, files: 1 }, none)).toBe('Checking what changed in 1 look file…');
    const bundling = { ...noProgress, phase: 'bundling', files: 300, bundling: 12 } as const;
    expect(progressText(bundling, none)).toBe('Bundling 12 of 300 look files…');
    expect(progressText({ ...bundling, bundling: 300 }, { planned: 9, done: 2, reused: 2 })).toBe(
      'Bundling 300 look files…',
    );
  });

  it('counts what is done, what was reused and what is running, and says how long it still takes', () => {
    const running = { ...noProgress, phase: 'running', files: 3, running: 2, left: 8400 } as const;
    const told = progressText(running, { planned: 120, done: 45, reused: 0 });
    expect(told).toBe('45 of 120 · 2 running · about 8 s left');
    expect(progressText({ ...running, running: 0, left: null }, { planned: 120, done: 119, reused: 30 })).toBe(
      '119 of 120 · 30 reused',
    );
    expect(progressText({ ...running, unopened: 1, left: null }, { planned: 12, done: 4, reused: 0 })).toBe(
      '4 of at least 12 · 2 running',
    );
  });

  it.each([
    [null, null],
    [0, null],
    [1999, null],
    [2000, 'about 2 s left'],
    [59_400, 'about 59 s left'],
    [60_000, 'about 1 min left'],
    [1_000_000, 'about 17 min left'],
  ])('tells %s ms as %s', (left, text) => expect(leftText(left)).toBe(text));
});

describe('the time left', () => {
  const took = new Map([
    ['a', 1000],
    ['b', 3000],
  ]);

  it('is what the looks took before, in the pace of the last run, until this one has a pace of its own', () => {
    const rest = timeLeftOf({ took, pace: 0.5 }, ['a', 'b']);
    expect(rest.left(2, 0)).toBe(2000);
    rest.finished('a');
    // One of four seconds is done, which is too little to tell a pace by.
    expect(rest.left(2, 4000)).toBe(1500);
    rest.finished('b');
    expect(rest.left(2, 9000)).toBe(0);
  });

  it('follows the pace of this run as soon as enough of it is done', () => {
    const rest = timeLeftOf({ took, pace: 0.5 }, ['b', 'a']);
    rest.finished('b');
    expect(rest.left(2, 6000)).toBe(2000);
  });

  it('takes looks that are not known for usual ones, and those that were not expected, too', () => {
    const rest = timeLeftOf({ took, pace: 1 }, ['a', 'b', 'new']);
    expect(rest.left(4, 0)).toBe(8000);
    rest.finished('another');
    expect(rest.left(4, 2000)).toBe(6000);
  });

  it('counts a look as often as it is run', () => {
    const rest = timeLeftOf({ took, pace: 1 }, ['a', 'a', 'b']);
    rest.finished('a');
    expect(rest.left(3, 100)).toBe(4000);
    rest.finished('a');
    // Once more than was thought: what is ahead is not less for it.
    rest.finished('a');
    expect(rest.left(3, 3000)).toBe(3000);
  });

  it('is not known where nothing has been run before', () => {
    expect(timeLeftOf({ took: new Map(), pace: null }, ['a']).left(1, 0)).toBeNull();
    expect(timeLeftOf({ took, pace: null }, ['a']).left(1, 0)).toBeNull();
  });
});
