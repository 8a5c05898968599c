import { describe, expect, test } from 'vitest';
import { byLikelihood, type Hunk, hunksOf, withoutHunks } from '../../../src/core/cause/hunks.ts';
import { searchEdits } from '../../../src/core/cause/search.ts';
import { numbersFrom } from '../../../src/core/steady/chance.ts';

const before = ['a', 'b', 'c', 'd', 'e', 'f', 'g'].join('\n');
const now = ['a', 'B', 'c', 'e', 'new', 'f', 'g', 'h'].join('\n');

describe('hunks', () => {
  test('are lines that gave way to others, apart where an equal line stands between them', () =>
    expect(hunksOf({ file: 'x.ts', before, now })).toEqual([
      { file: 'x.ts', line: 2, removed: ['b'], added: ['B'] },
      { file: 'x.ts', line: 4, removed: ['d'], added: [] },
      { file: 'x.ts', line: 5, removed: [], added: ['new'] },
      { file: 'x.ts', line: 8, removed: [], added: ['h'] },
    ]));

  test('are undone one by one, or all', () => {
    const hunks = hunksOf({ file: 'x.ts', before, now });
    expect(withoutHunks(now, hunks)).toBe(before);
    expect(withoutHunks(now, [])).toBe(now);
    expect(withoutHunks(now, [hunks[2]!, hunks[0]!])).toBe(['a', 'b', 'c', 'e', 'f', 'g', 'h'].join('\n'));
  });

  test('of 200 made-up edits, all undone are what was there before', () => {
    for (let seed = 1; seed <= 200; seed++) {
      const number = numbersFrom(seed);
      const lines = Array.from({ length: 30 }, () => `line ${number(12)}`);
      const edited = lines.flatMap((line) =>
        number(6) === 0 ? [] : number(6) === 0 ? [`new ${number(9)}`, line] : [line],
      );
      const edit = { file: 'x', before: lines.join('\n'), now: edited.join('\n') };
      expect(withoutHunks(edit.now, hunksOf(edit)), `seed ${seed}`).toBe(edit.before);
    }
  });

  test('there are none where a file came or went, or only its line ends differ', () => {
    expect(hunksOf({ file: 'x', before: null, now: 'a' })).toEqual([]);
    expect(hunksOf({ file: 'x', before: 'a', now: null })).toEqual([]);
    expect(hunksOf({ file: 'x', before: 'a\r\nb\r\n', now: 'a\nb\n' })).toEqual([]);
  });

  test('the likeliest has the values of the cause, and stands where the cause says', () => {
    const hunk = (file: string, removed: string, added: string): Hunk => ({
      file,
      line: 3,
      removed: [removed],
      added: [added],
    });
    const [other, value, place] = [hunk('a', 'x', 'y'), hunk('b', '--calm: #111', '--calm: #222'), hunk('c', 'p', 'q')];
    expect(byLikelihood([other, place, value], { before: '#111', now: '#222', place: null })[0]!.hunk).toBe(value);
    expect(
      byLikelihood([other, value, place], { before: null, now: 'z', place: { file: 'c', line: 3 } })[0]!.hunk,
    ).toBe(place);
  });
});

/** Hunks, and an attempt that says what is left: each cause is there as long as one of its `groups` is whole. */
function world(
  count: number,
  causes: Record<string, number[]>,
  unable: (undone: readonly number[]) => boolean = () => false,
) {
  const hunks = Array.from(
    { length: count },
    (_, i): Hunk => ({ file: `f${i}`, line: 1, removed: [], added: [`${i}`] }),
  );
  const tried: number[][] = [];
  const attempt = async (undone: readonly Hunk[]) => {
    const places = undone.map((hunk) => hunks.indexOf(hunk)).sort((a, b) => a - b);
    tried.push(places);
    if (unable(places)) return null;
    return new Set(
      Object.keys(causes).filter(
        (key) => !causes[key]!.every((place) => places.includes(place)) || causes[key]!.length === 0,
      ),
    );
  };
  const sought = Object.keys(causes).map((key) => ({ key, before: null, now: null, place: null }));
  const places = (list: readonly Hunk[]): number[] => list.map((hunk) => hunks.indexOf(hunk)).sort((a, b) => a - b);
  return { hunks, tried, attempt, sought, places };
}

describe('the search', () => {
  test('finds one edit among many for each of two causes', async () => {
    const { hunks, attempt, sought, places, tried } = world(10, { colour: [7], text: [2] });
    const found = await searchEdits(sought, hunks, attempt);
    expect(found.map(({ key, proved, note }) => [key, places(proved), note])).toEqual([
      ['colour', [7], null],
      ['text', [2], null],
    ]);
    // Four halves, and each of the two by itself.
    expect(tried.length).toBe(6);
  });

  test('finds edits that only matter together, and none besides', async () => {
    const { hunks, attempt, sought, places } = world(8, { look: [1, 6] });
    const [found] = await searchEdits(sought, hunks, attempt);
    expect(places(found!.proved)).toEqual([1, 6]);
  });

  test('lives with edits without which nothing can be built', async () => {
    const isTorn = (undone: readonly number[]): boolean => undone.includes(3) !== undone.includes(4);
    const { hunks, attempt, sought, places } = world(8, { look: [3] }, isTorn);
    const [found] = await searchEdits(sought, hunks, attempt);
    expect(places(found!.proved)).toEqual([3, 4]);
  });

  test('names candidates, and proves nothing, where it was none of the edits', async () => {
    const { hunks, attempt, sought } = world(3, { look: [] });
    const [found] = await searchEdits(sought, hunks, attempt);
    expect(found).toMatchObject({ proved: [], note: expect.stringContaining('something else has changed') });
    expect(found!.candidates).toHaveLength(3);
  });

  test('gives up after a while, and says so', async () => {
    const { hunks, attempt, sought, tried } = world(60, { look: [3, 17, 40, 59] });
    const [found] = await searchEdits(sought, hunks, attempt);
    expect(tried.length).toBeLessThanOrEqual(24);
    expect(found!.proved).toEqual([]);
    expect(found!.note).toContain('without an answer');
  });
});
