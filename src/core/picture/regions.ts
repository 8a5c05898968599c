/** Groups differing pixels into connected regions, so that a person sees places and not dots. */
import type { Box } from '../timeline.ts';

export type Region = {
  /** Tight bounds of its differing pixels: left, top, width, height, in device pixels. */
  box: Box;
  pixels: number;
  /** The largest colour distance in it. */
  strongest: number;
};

/** Pixels closer than this belong together: about the distance between the letters of a word. */
const cell = 8;

/**
 * Connected regions of the pixels at `indexes` (row-major in a picture `width` wide), largest first.
 * Pixels are gathered in cells of 8x8; cells that touch, also at a corner, are one region.
 */
export function findRegions(indexes: Uint32Array, distances: Float32Array, count: number, width: number, height: number): Region[] {
  const columns = Math.ceil(width / cell);
  const rows = Math.ceil(height / cell);
  const label = new Int32Array(columns * rows).fill(-1);
  const used: number[] = [];
  const cellOf = (index: number): number => Math.floor(Math.floor(index / width) / cell) * columns + Math.floor((index % width) / cell);
  for (let i = 0; i < count; i++) {
    const c = cellOf(indexes[i]!);
    if (label[c] === -1) {
      label[c] = -2;
      used.push(c);
    }
  }
  let regions = 0;
  for (const start of used) {
    if (label[start] !== -2) continue;
    const id = regions++;
    const stack = [start];
    label[start] = id;
    while (stack.length > 0) {
      const c = stack.pop()!;
      const x = c % columns;
      const y = (c - x) / columns;
      for (let ny = Math.max(0, y - 1); ny <= Math.min(rows - 1, y + 1); ny++) {
        for (let nx = Math.max(0, x - 1); nx <= Math.min(columns - 1, x + 1); nx++) {
          const n = ny * columns + nx;
          if (label[n] === -2) {
            label[n] = id;
            stack.push(n);
          }
        }
      }
    }
  }
  const bounds = Array.from({ length: regions }, () => ({ left: width, top: height, right: -1, bottom: -1, pixels: 0, strongest: 0 }));
  for (let i = 0; i < count; i++) {
    const index = indexes[i]!;
    const region = bounds[label[cellOf(index)]!]!;
    const x = index % width;
    const y = (index - x) / width;
    if (x < region.left) region.left = x;
    if (x > region.right) region.right = x;
    if (y < region.top) region.top = y;
    if (y > region.bottom) region.bottom = y;
    region.pixels++;
    if (distances[i]! > region.strongest) region.strongest = distances[i]!;
  }
  return bounds
    .map(
      ({ left, top, right, bottom, pixels, strongest }): Region => ({
        box: [left, top, right - left + 1, bottom - top + 1],
        pixels,
        strongest: Math.round(strongest * 1e4) / 1e4,
      }),
    )
    .sort((a, b) => b.pixels - a.pixels);
}
