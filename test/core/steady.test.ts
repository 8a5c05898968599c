/** Conditions under which looks are run again, and how two runs of one look are told apart. */
import { describe, expect, it } from 'vitest';
import type { FinishedLook } from '../../src/core/run/finished.ts';
import { shuffled } from '../../src/core/steady/chance.ts';
import { conditionsInWords, conditionsOf } from '../../src/core/steady/conditions.ts';
import { partingOf, referenceOf } from '../../src/core/steady/parting.ts';
import { emptyMoment } from '../../src/core/moment/moment.ts';
import type { Step } from '../../src/core/timeline/timeline.ts';

describe('rounds', () => {
  it('begin as usual, and then bring every condition among four', () => {
    expect(conditionsOf(1, 4)).toEqual({ round: 1, lanes: 4, isBusy: false, isCold: false, isLate: false, seed: null });
    const later = [2, 3, 4, 5].map((round) => conditionsOf(round, 4));
    expect(later.map(({ lanes }) => lanes)).toEqual([1, 4, 1, 4]);
    expect(later.map(({ isCold }) => isCold)).toEqual([false, true, false, false]);
    expect(new Set(later.map(({ isLate }) => isLate))).toEqual(new Set([true, false]));
    expect(later.every(({ isBusy, seed }) => isBusy && seed !== null)).toBe(true);
    expect(conditionsOf(3, 1).lanes).toBe(2);
    expect(conditionsInWords(conditionsOf(3, 4))).toBe('4 lanes, busy processor, cold browser, timers early, shuffled');
  });

  it('shuffle by their number: all that was there, in another order, the same one each time', () => {
    const list = Array.from({ length: 30 }, (_, i) => i);
    expect(shuffled(list, 2)).toEqual(shuffled(list, 2));
    expect(shuffled(list, 2)).not.toEqual(shuffled(list, 3));
    expect(shuffled(list, 2)).not.toEqual(list);
    expect(shuffled(list, 2).toSorted((a, b) => a - b)).toEqual(list);
    expect(shuffled([], 1)).toEqual([]);
  });
});

type Told = {
  steps?: Partial<Step>[];
  says?: string;
  markup?: string[];
  hash?: string;
  requests?: string[];
  verdict?: string;
};

/** A look whose one step is over when its page says something. */
const look = ({ steps = [{}], says = 'one', markup = ['<p>'], hash = 'a', requests = [], verdict = 'passed' }: Told) =>
  referenceOf(
    {
      verdict,
      problem: null,
      captures: [{ summary: { name: 'end', hash }, markup }],
      timeline: {
        steps: steps.map((step, index) => ({
          index,
          kind: 'check',
          title: `step ${index}`,
          outcome: 'passed',
          clock: [0, 0],
          before: 0,
          after: 1,
          ...step,
        })),
        base: emptyMoment(10, 10),
        assets: {},
        patches: [{ nodes: { 1: { tag: 'html', kids: [2] }, 2: { tag: 'body', kids: [3] }, 3: { text: says } } }],
        marks: requests.map((title) => ({ lane: 'network', title })),
      },
    } as unknown as FinishedLook,
    (text) => text,
  );

const click: Partial<Step> = { kind: 'action', title: 'click', after: 0 };
const check: Partial<Step> = { source: { file: 'A.look.tsx', line: 3, column: 1 } };

describe('two runs of one look', () => {
  it('that are equal do not part', () => {
    expect(partingOf(look({}), look({}))).toBeNull();
  });

  it('part at the first step that differs, and an action before it is blamed', () => {
    const placed = { ...click, source: { file: 'A.look.tsx', line: 7, column: 1 } };
    const parting = partingOf(
      look({ steps: [placed, {}, {}] }),
      look({ steps: [placed, { clock: [0, 300] }, { clock: [0, 9] }] }),
    )!;
    expect(parting.step).toBe(1);
    expect(parting.what).toBe("the look's clock stood at 300 ms behind it instead of 0 ms");
    expect(parting.why).toMatch(/right after an action \(click in line 7 of A\.look\.tsx\).*Add a check/);
  });

  it.each([
    [{ steps: [{}, {}] }, { steps: [{}] }, 'the script did not come as far as this'],
    [{ steps: [{}] }, { steps: [{}, {}] }, 'the script came further'],
    [{ steps: [{ outcome: 'passed' }] }, { steps: [{ outcome: 'failed' }] }, 'it failed instead of passed'],
    [{ markup: ['<p>', 'one'] }, { markup: ['<p>', 'two'] }, 'the capture “end” has other markup: − one  + two'],
    [{ hash: 'a' }, { hash: 'b' }, 'the picture “end” differs'],
    [{ says: 'one' }, { says: 'two' }, 'the page showed something else behind it: − one  + two'],
    [{ verdict: 'passed' }, { verdict: 'changed' }, 'it was changed (null) instead of passed (null)'],
  ] as [Told, Told, string][])('%j and %j: %s', (before, now, what) => {
    expect(partingOf(look(before), look(now))!.what).toBe(what);
  });

  it.each([
    [
      { requests: ['GET /a → 200', 'GET /b → 200'] },
      { requests: ['GET /b → 200', 'GET /a → 200'], hash: 'b' },
      /another order \(GET \/b, GET \/a instead of GET \/a, GET \/b\)/,
    ],
    [
      { requests: ['GET /z', 'GET /a', 'GET /b', 'GET /c', 'GET /d', 'GET /e'] },
      { requests: ['GET /z', 'GET /b', 'GET /a', 'GET /c', 'GET /d', 'GET /e'], hash: 'b' },
      /another order \(GET \/b, GET \/a, GET \/c, GET \/d and 1 more instead of GET \/a, GET \/b, GET \/c, /,
    ],
    [
      {},
      { requests: ['GET https://tiles.example/1 → sent to the network'], hash: 'b' },
      /real network \(GET https:\/\/tiles\.example\/1\).*answers/,
    ],
    [{ markup: ['blob:1'] }, { markup: ['blob:http://x/2'] }, /makes up by chance/],
    [{}, { hash: 'b' }, /only its picture differs.*in real time.*leaveOut/],
    [
      { steps: [click, check] },
      { steps: [click, check], says: 'two' },
      /^The check in line 3 of A\.look\.tsx holds while the page is still changing\. Add one behind it/,
    ],
    [{ markup: ['one'] }, { markup: ['two'] }, /^Nothing that was recorded says why/],
  ] as [Told, Told, RegExp][])('%j and %j: %s', (before, now, why) => {
    expect(partingOf(look(before), look(now))!.why).toMatch(why);
  });
});
