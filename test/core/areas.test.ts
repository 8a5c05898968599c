import { expect, test } from 'vitest';
import { unchangedAreas } from '../../src/core/picture/areas.ts';
import type { Picture } from '../../src/core/picture/picture.ts';

/** A white picture with black pixels at some places. */
function picture(width: number, height: number, ...black: [number, number][]): Picture {
  const data = new Uint8Array(width * height * 3).fill(255);
  for (const [x, y] of black) data.fill(0, (y * width + x) * 3, (y * width + x) * 3 + 3);
  return { width, height, channels: 3, data };
}

const white = picture(20, 10);

test('a box is unchanged unless a pixel of its own differs', () => {
  const boxes: [number, number, number, number][] = [
    [0, 0, 5, 5],
    [10, 0, 5, 5],
  ];
  expect(unchangedAreas(white, white, boxes)).toEqual([0, 1]);
  expect(unchangedAreas(white, picture(20, 10, [12, 3]), boxes)).toEqual([0]);
  expect(unchangedAreas(white, picture(20, 10, [5, 0], [9, 4], [15, 4]), boxes)).toEqual([0, 1]);
});

test('a pixel of two boxes says nothing of either', () => {
  const boxes: [number, number, number, number][] = [
    [0, 0, 10, 10],
    [8, 0, 10, 10],
  ];
  expect(unchangedAreas(white, picture(20, 10, [9, 5]), boxes)).toEqual([0, 1]);
  expect(unchangedAreas(white, picture(20, 10, [9, 5], [12, 5]), boxes)).toEqual([0]);
});

test('boxes may reach beyond the picture, and pictures may be of different sizes', () => {
  expect(unchangedAreas(white, picture(20, 10, [0, 0]), [[-6, -6, 12, 12]])).toEqual([]);
  expect(unchangedAreas(white, picture(10, 10), [[0, 0, 5, 5]])).toEqual([0]);
});
