/** Counts of an engine, and shares for people. */
import { describe, expect, it } from 'vitest';
import { countsAt } from '../../src/core/coverage/hits.ts';
import { percentText } from '../../src/core/coverage/report.ts';
import { lineStartsOf, positionAt } from '../../src/core/coverage/structure.ts';
import { type Allowance, allowed } from '../../src/core/picture/allowance.ts';
import type { Picture } from '../../src/core/picture/picture.ts';
import { emptyCells } from '../../src/core/picture/regions.ts';
import { givenIn } from '../../src/core/props/given.ts';
import { publicPathsOf } from '../../src/core/run/basis.ts';

describe('a share for people', () => {
  it.each([
    [0, 0, '–'],
    [0, 10, '0 %'],
    [1, 1000, '1 %'],
    [5, 10, '50 %'],
    [999, 1000, '99 %'],
    [1000, 1000, '100 %'],
  ])('%s of %s is told as %s…', (covered, all, text) => {
    expect(percentText({ covered, all })).toBe(text);
  });
});

describe('the count of a place', () => {
  const range = (startOffset: number, endOffset: number, count: number) => ({ startOffset, endOffset, count });

  it('is that of the innermost range around it', () => {
    const functions = [
      { ranges: [range(0, 100, 1), range(10, 20, 0), range(20, 30, 5)] },
      { ranges: [range(40, 60, 7), range(45, 50, 2)] },
    ];
    expect([...countsAt(functions, [0, 10, 19, 20, 30, 44, 45, 50, 60, 99, 100])]).toEqual([
      1, 0, 0, 5, 1, 7, 2, 7, 1, 1, 0,
    ]);
  });

  it('is at a line and a column', () => {
    const text = 'ab\n\ncde\n';
    const starts = lineStartsOf(text);
    expect(starts).toEqual([0, 3, 4, 8]);
    const at = (offset: number): number[] => Object.values(positionAt(starts, offset));
    expect([0, 2, 3, 4, 6, 8].map(at)).toEqual([
      [1, 0],
      [1, 2],
      [2, 0],
      [3, 0],
      [3, 2],
      [4, 0],
    ]);
  });
});

describe('a picture with what is left out', () => {
  const picture = (width: number, height: number, value: number, channels: 3 | 4 = 4): Picture => ({
    width,
    height,
    channels,
    data: new Uint8Array(width * height * channels).fill(value),
  });
  const leftOut: Allowance = { kind: 'left-out', why: 'shows the time', boxes: [[1, 0, 2, 1]], upTo: null };

  it('shows there what the other one shows, in all of its channels, and nowhere else', () => {
    for (const channels of [3, 4] as const) {
      const made = allowed(picture(4, 2, 10, channels), picture(4, 2, 90, channels), [leftOut]);
      const [inside, outside] = [new Array(2 * channels).fill(90), new Array(channels).fill(10)];
      expect([...made.data.slice(0, 4 * channels)]).toEqual([...outside, ...inside, ...outside]);
      expect([...made.data.slice(4 * channels)]).toEqual(new Array(4 * channels).fill(10));
    }
  });

  it('is as it was where the sizes do not meet', () => {
    const made = allowed(picture(2, 1, 10), picture(9, 9, 90), [{ ...leftOut, boxes: [[1, 0, 8, 8]] }]);
    expect([...made.data]).toEqual([10, 10, 10, 10, 90, 90, 90, 90]);
  });
});

it('cells reach to the edge of a picture that they do not fill', () => {
  expect(['columns', 'rows'].map((side) => emptyCells(17, 8)[side as 'columns' | 'rows'])).toEqual([3, 1]);
  expect(emptyCells(8, 9)).toMatchObject({ columns: 1, rows: 2 });
});

describe('values in props', () => {
  it('are found by their paths, in lists at the path of the list', () => {
    const props = { state: 'free', berth: { depth: 4, ships: [{ flag: 'it' }, { flag: 'fr' }] }, sizes: [1, 2, 1] };
    expect(givenIn(props)).toEqual([
      { path: 'state', values: ['free'] },
      { path: 'berth.depth', values: [4] },
      { path: 'berth.ships.flag', values: ['it', 'fr'] },
      { path: 'sizes', values: [1, 2] },
    ]);
  });

  it('are looked for four deep, lists counted', () => {
    expect(givenIn({ a: { b: { c: { d: 1, e: { f: 2 } } } } })).toEqual([{ path: 'a.b.c.d', values: [1] }]);
    expect(givenIn({ a: [[[1]]] })).toEqual([{ path: 'a', values: [1] }]);
    expect(givenIn({ a: [[[[1]]]] })).toEqual([]);
  });

  it('are no long texts, and at most twenty of a list', () => {
    expect(givenIn({ text: 'x'.repeat(61) })).toEqual([]);
    expect(givenIn({ n: Array.from({ length: 30 }, (_, i) => i) })[0]!.values).toHaveLength(20);
  });
});

describe('files that a look has asked for', () => {
  const origin = 'http://looks.localhost';

  it('are those of its own origin that no bundle holds', () => {
    const asked = [`${origin}/b%20c.svg`, `${origin}/assets/x.js`, `${origin}/a.png`, 'https://elsewhere.test/a.png'];
    expect(publicPathsOf(asked, origin, [])).toEqual(['/a.png', '/b c.svg']);
  });

  it('are not known where it has asked the real network', () => {
    expect(publicPathsOf(['https://elsewhere.test/a'], origin, ['https://elsewhere.test'])).toBeNull();
  });
});
