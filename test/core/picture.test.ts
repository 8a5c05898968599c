import { describe, expect, it } from 'vitest';
import { colourDistance, plainDistance, visibleDistance } from '../../src/core/picture/colour.ts';
import { comparePictures, looksDifferent } from '../../src/core/picture/compare.ts';
import { filledPart } from '../../src/core/picture/filled.ts';
import { paintDifference } from '../../src/core/picture/paint.ts';
import { type Picture, pixelAt, withAlpha } from '../../src/core/picture/picture.ts';

type Colour = readonly [number, number, number];
const paper: Colour = [244, 246, 245];
const ink: Colour = [22, 37, 45];
const word = ([r, g, b]: Colour, alpha = 255): number => ((alpha << 24) | (b << 16) | (g << 8) | r) >>> 0;

function blank(width: number, height: number, colour: Colour = paper, channels: 3 | 4 = 4): Picture {
  const data = new Uint8Array(width * height * channels);
  for (let i = 0; i < width * height; i++) data.set(channels === 4 ? [...colour, 255] : colour, i * channels);
  return { width, height, channels, data };
}

function fill(picture: Picture, [x, y, w, h]: [number, number, number, number], colour: Colour): Picture {
  for (let j = y; j < y + h; j++)
    for (let i = x; i < x + w; i++) picture.data.set(colour, (j * picture.width + i) * picture.channels);
  return picture;
}

describe('colourDistance', () => {
  it('is zero for equal colours and the same in both directions', () => {
    expect(colourDistance(word(ink), word(ink))).toBe(0);
    expect(colourDistance(word(ink), word(paper))).toBeCloseTo(colourDistance(word(paper), word(ink)), 12);
  });

  it('is about one for black against white', () => {
    expect(colourDistance(word([0, 0, 0]), word([255, 255, 255]))).toBeGreaterThan(0.8);
  });

  it.each([0, 1, 16, 64, 128, 200, 254])('makes one step of grey from %i small, also near black', (grey) => {
    const step = colourDistance(word([grey, grey, grey]), word([grey + 1, grey + 1, grey + 1]));
    expect(step).toBeLessThan(visibleDistance);
    expect(step).toBeGreaterThan(0.001);
  });

  it('lets everybody see a changed accent colour', () => {
    expect(colourDistance(word([11, 110, 117]), word([11, 122, 94]))).toBeGreaterThan(plainDistance);
  });

  it('lays transparent colours over white', () => {
    expect(colourDistance(word([0, 0, 0], 0), word([255, 255, 255]))).toBe(0);
  });
});

describe('comparePictures', () => {
  it('tells pixels apart that differ in how transparent they are alone', () => {
    const row = (...pixels: number[][]): Picture => ({
      width: pixels.length,
      height: 1,
      channels: 4,
      data: new Uint8Array(pixels.flat()),
    });
    const grey = [128, 128, 128];
    const white = [255, 255, 255, 255];
    const { differing, visible } = comparePictures(row([...grey, 0], [...grey, 128]), row(white, white));
    expect([differing, visible]).toEqual([2, 1]);
  });

  it('finds nothing between equal pictures, with or without an alpha channel', () => {
    for (const channels of [3, 4] as const) {
      const comparison = comparePictures(blank(40, 30, paper, channels), blank(40, 30, paper, channels));
      expect(comparison).toEqual({
        from: [40, 30],
        to: [40, 30],
        differing: 0,
        visible: 0,
        strongest: 0,
        regions: [],
        added: [],
        lost: [],
      });
      expect(looksDifferent(comparison)).toBe(false);
    }
  });

  it('compares a picture with an alpha channel and one without', () => {
    expect(comparePictures(blank(20, 20, paper, 3), blank(20, 20, paper, 4)).differing).toBe(0);
    expect(comparePictures(blank(20, 20, paper, 3), fill(blank(20, 20), [1, 1, 2, 2], ink)).differing).toBe(4);
  });

  it('counts exactly, and puts near pixels into one region with tight bounds', () => {
    const now = fill(fill(blank(200, 100), [10, 10, 5, 7], ink), [18, 12, 3, 3], ink);
    const { differing, visible, regions } = comparePictures(blank(200, 100), now);
    expect([differing, visible]).toEqual([44, 44]);
    expect(regions).toEqual([{ box: [10, 10, 11, 7], pixels: 44, strongest: expect.closeTo(0.8, 0) }]);
  });

  it('follows a shape all around, whichever way it goes', () => {
    // Two arms that meet only at the bottom.
    const now = fill(fill(fill(blank(200, 100), [10, 10, 3, 60], ink), [90, 10, 3, 60], ink), [10, 67, 83, 3], ink);
    expect(comparePictures(blank(200, 100), now).regions.map(({ box }) => box)).toEqual([[10, 10, 83, 60]]);
  });

  it('keeps distant places apart, the largest first', () => {
    const now = fill(fill(blank(200, 100), [4, 4, 3, 3], ink), [150, 60, 20, 10], ink);
    expect(comparePictures(blank(200, 100), now).regions.map(({ box }) => box)).toEqual([
      [150, 60, 20, 10],
      [4, 4, 3, 3],
    ]);
  });

  it('counts a step that nobody sees as differing but not as visible', () => {
    const now = fill(blank(50, 50), [0, 0, 10, 10], [244, 246, 244]);
    const comparison = comparePictures(blank(50, 50), now);
    expect([comparison.differing, comparison.visible, comparison.regions.length]).toEqual([100, 0, 0]);
    expect(looksDifferent(comparison)).toBe(false);
  });

  it('compares the common area of pictures of different sizes and tells what was added and lost', () => {
    const comparison = comparePictures(blank(100, 40), blank(80, 60));
    expect(comparison).toMatchObject({ differing: 0, added: [[0, 40, 80, 20]], lost: [[80, 0, 20, 40]] });
    expect(looksDifferent(comparison)).toBe(true);
  });

  it('uses the comparison of bytes that it is given', () => {
    const asked: number[] = [];
    comparePictures(blank(10, 3, paper, 3), blank(10, 3, ink, 3), (_a, start, _b, _bStart, length) => {
      asked.push(start, length);
      return true;
    });
    expect(asked).toEqual([0, 30, 30, 30, 60, 30]);
  });
});

describe('paintDifference', () => {
  it('inks what differs, frames the region, hatches what was added, and fades the rest', () => {
    const from = blank(60, 40);
    const to = fill(blank(60, 60), [20, 10, 10, 10], ink);
    const painted = paintDifference(from, to, comparePictures(from, to));
    expect([painted.width, painted.height]).toEqual([60, 60]);
    const at = (x: number, y: number): number => pixelAt(painted, y * 60 + x);
    expect(at(25, 15)).toBe(word([196, 36, 84]));
    expect(at(17, 7)).toBe(word([28, 40, 62]));
    expect(at(0, 48)).toBe(word([196, 36, 84]));
    expect(at(3, 3)).not.toBe(pixelAt(to, 3 * 60 + 3));
  });
});

describe('withAlpha', () => {
  it('makes three channels opaque and leaves four alone', () => {
    const three = blank(2, 1, ink, 3);
    expect([...withAlpha(three).data]).toEqual([...ink, 255, ...ink, 255]);
    const four = blank(2, 1);
    expect(withAlpha(four)).toBe(four);
  });
});

describe('filledPart', () => {
  it.each([3, 4] as const)('is what differs from the right edge (%i channels)', (channels) => {
    const picture = fill(blank(40, 30, paper, channels), [10, 5, 4, 6], ink);
    fill(picture, [20, 20, 1, 1], ink);
    expect(filledPart(picture)).toEqual({ left: 10, top: 5, width: 11, height: 16 });
  });

  it('reaches to the other edges', () => {
    const picture = fill(blank(40, 30), [0, 0, 1, 1], ink);
    expect(filledPart(picture)).toEqual({ left: 0, top: 0, width: 1, height: 1 });
    expect(filledPart(fill(picture, [38, 29, 1, 1], ink))).toEqual({ left: 0, top: 0, width: 39, height: 30 });
  });

  it('is all of a picture in which something reaches the right edge, and of one of one colour', () => {
    expect(filledPart(fill(blank(40, 30), [0, 0, 40, 8], ink))).toEqual({ left: 0, top: 0, width: 40, height: 30 });
    expect(filledPart(fill(blank(40, 30), [39, 29, 1, 1], ink))).toEqual({ left: 0, top: 0, width: 40, height: 30 });
    expect(filledPart(blank(7, 3))).toEqual({ left: 0, top: 0, width: 7, height: 3 });
  });
});
