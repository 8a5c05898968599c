import { describe, expect, it } from 'vitest';
import { pictureCauses } from '../../src/core/cause/pictureCauses.ts';
import { alignKeys } from '../../src/core/list/align.ts';
import { alignPictures, laidUnder } from '../../src/core/picture/align.ts';
import { picturesChanges } from '../../src/core/picture/changes.ts';
import { comparePictures } from '../../src/core/picture/compare.ts';
import type { Picture } from '../../src/core/picture/picture.ts';
import { numbersFrom } from '../../src/core/steady/chance.ts';

describe('alignKeys', () => {
  const shown = (before: string, now: string): string =>
    alignKeys([...before], [...now])
      .map(({ before: i, now: j }) =>
        i !== null && j !== null ? before[i] : i !== null ? `-${before[i]}` : `+${now[j!]}`,
      )
      .join(' ');

  it.each([
    ['abc', 'abc', 'a b c'],
    ['abc', 'axbc', 'a +x b c'],
    ['abc', 'ac', 'a -b c'],
    ['aabb', 'abab', 'a -a b +a b'],
    ['', 'ab', '+a +b'],
    ['ab', '', '-a -b'],
  ])('lays %s and %s side by side', (before, now, wanted) => expect(shown(before, now)).toBe(wanted));

  it('keeps the order of both, and leaves nothing out; 300 made-up pairs', () => {
    for (let seed = 1; seed <= 300; seed++) {
      const number = numbersFrom(seed);
      const list = (): string[] => Array.from({ length: number(30) }, () => String(number(8)));
      const [before, now] = [list(), list()];
      const aligned = alignKeys(before, now);
      expect(aligned.flatMap(({ before: i }) => i ?? [])).toEqual(before.map((_, i) => i));
      expect(aligned.flatMap(({ now: j }) => j ?? [])).toEqual(now.map((_, j) => j));
      for (const { before: i, now: j } of aligned) if (i !== null && j !== null) expect(before[i]).toBe(now[j]);
    }
  });
});

/** A picture of `height` rows, each with a pattern of its own; every third row is blank, as in pages. */
function striped(width: number, height: number, seed = 1): Picture {
  const number = numbersFrom(seed);
  const data = new Uint8Array(width * height * 4).fill(255);
  for (let y = 0; y < height; y++)
    if (y % 3 !== 0)
      for (let x = 0; x < width; x++) data.set([number(256), number(256), number(256)], (y * width + x) * 4);
  return { width, height, channels: 4, data };
}

/** A picture with `size` rows of one colour at `at`. */
function withRows({ width, height, data }: Picture, at: number, size: number, grey = 90): Picture {
  const out = new Uint8Array(width * (height + size) * 4).fill(255);
  const band = new Uint8Array(width * size * 4).fill(grey);
  const split = at * width * 4;
  out.set(data.subarray(0, split));
  out.set(band, split);
  out.set(data.subarray(split), split + band.length);
  return { width, height: height + size, channels: 4, data: out };
}

function turned({ width, height, data }: Picture): Picture {
  const out = new Uint8Array(data.length);
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++)
      for (let c = 0; c < 4; c++) out[(x * height + y) * 4 + c] = data[(y * width + x) * 4 + c]!;
  return { width: height, height: width, channels: 4, data: out };
}

describe('alignPictures', () => {
  it.each([1, 2, 5, 12, 40, 200])('an inserted band of %i rows is one change, and the rest is equal', (size) => {
    const before = striped(40, 90);
    const now = withRows(before, 30, size);
    expect(comparePictures(before, now).differing).toBeGreaterThan(500);
    expect(alignPictures(before, now)).toMatchObject({
      axis: 'rows',
      added: [{ at: 30, size }],
      removed: [],
      residue: 0,
    });
    expect(alignPictures(now, before)).toMatchObject({ added: [], removed: [{ at: 30, size }], residue: 0 });
  });

  it.each([1, 7, 60])('a widened column of %i pixels is one change', (size) => {
    const before = turned(striped(40, 90));
    const now = turned(withRows(striped(40, 90), 30, size));
    expect(alignPictures(before, now)).toMatchObject({ axis: 'columns', added: [{ at: 30, size }], residue: 0 });
  });

  it('counts pixels that differ beside a band, and lays the baseline under the new picture', () => {
    const before = striped(40, 90);
    const now = withRows(before, 30, 9);
    now.data.set([1, 2, 3], (80 * 40 + 5) * 4);
    const alignment = alignPictures(before, now)!;
    expect(alignment).toMatchObject({ added: [{ at: 30, size: 9 }], residue: 1 });
    expect(comparePictures(laidUnder(before, now, alignment), now).differing).toBe(1);
  });

  it('lays a changed row under the new one on either side of a band', () => {
    for (const at of [29, 39]) {
      const before = striped(40, 90);
      const now = withRows(before, 30, 9);
      // The row right above the band, or right below it.
      now.data.set([1, 2, 3], (at * 40 + 5) * 4);
      expect(alignPictures(before, now), `row ${at}`).toMatchObject({
        residue: 1,
        removed: [],
        added: [{ at: 30, size: 9 }],
      });
    }
  });

  it('gives up where neither side is as long', () =>
    expect(alignPictures(striped(40, 90), striped(41, 91))).toBeNull());
});

describe('picturesChanges', () => {
  const square = (picture: Picture, [x, y, w, h]: number[], colour: number[]): Picture => {
    for (let j = y!; j < y! + h!; j++)
      for (let i = x!; i < x! + w!; i++) picture.data.set(colour, (j * picture.width + i) * 4);
    return picture;
  };
  const blank = (): Picture => ({ width: 60, height: 60, channels: 4, data: new Uint8Array(60 * 60 * 4).fill(255) });
  const titles = (before: Picture, now: Picture): string[] =>
    pictureCauses(picturesChanges(before, now)!).map(({ title }) => title);

  it('tells a recoloured region by its colours', () =>
    expect(
      titles(square(blank(), [10, 10, 20, 20], [179, 38, 30]), square(blank(), [10, 10, 20, 20], [198, 40, 40])),
    ).toEqual(['a colour of the picture: #b3261e → #c62828']));

  it('tells a region that was drawn otherwise', () => {
    const before = striped(60, 60);
    const now = { ...before, data: before.data.slice() };
    const number = numbersFrom(7);
    for (let y = 20; y < 30; y++)
      for (let x = 5; x < 50; x++) now.data.set([number(256), number(256), 9], (y * 60 + x) * 4);
    expect(titles(before, now)).toEqual(['something in the picture is drawn otherwise']);
  });

  it('tells edges that are smoothed a little otherwise as noise', () => {
    const edge = (grey: number): Picture => {
      const picture = square(blank(), [10, 10, 20, 30], [0, 0, 0]);
      return square(picture, [30, 10, 1, 30], [grey, grey, grey]);
    };
    const [one, other] = [edge(120), edge(128)];
    // Smoothed pixels of many shades, as letters have them.
    for (let y = 10; y < 40; y++) other.data.set([121 + (y % 5), 121 + (y % 5), 121 + (y % 5)], (y * 60 + 30) * 4);
    expect(titles(one, other)).toEqual(['edges are smoothed a little otherwise']);
  });

  it('tells bands first, with what is left beside them', () => {
    const before = striped(40, 90);
    const now = withRows(before, 30, 9);
    expect(titles(before, now)).toEqual(['a band of 9 rows was added']);
  });
});
