/** Draws a difference picture: the new picture faded, differing pixels inked, regions framed, strips hatched. */
import type { Box } from '../timeline/timeline.ts';
import { colourDistance, visibleDistance } from './colour.ts';
import type { Comparison } from './compare.ts';
import { type Picture, pixelAt } from './picture.ts';

const word = (r: number, g: number, b: number): number => ((255 << 24) | (b << 16) | (g << 8) | r) >>> 0;
const ink = word(196, 36, 84);
const faint = word(236, 168, 60);
const line = word(28, 40, 62);
const paper = word(250, 250, 248);

/** A pixel as pale grey, so that ink stands out on it. */
function faded(pixel: number): number {
  const grey = 0.299 * (pixel & 255) + 0.587 * ((pixel >>> 8) & 255) + 0.114 * ((pixel >>> 16) & 255);
  const v = Math.round(200 + grey * 0.2);
  return word(v, v, v);
}

function frame(out: Uint32Array, width: number, height: number, [x, y, w, h]: Box): void {
  const left = Math.max(0, x - 3),
    top = Math.max(0, y - 3);
  const right = Math.min(width - 1, x + w + 2),
    bottom = Math.min(height - 1, y + h + 2);
  for (let i = left; i <= right; i++) {
    out[top * width + i] = line;
    out[bottom * width + i] = line;
  }
  for (let j = top; j <= bottom; j++) {
    out[j * width + left] = line;
    out[j * width + right] = line;
  }
}

function hatch(out: Uint32Array, width: number, [x, y, w, h]: Box, colour: number): void {
  for (let j = y; j < y + h; j++) {
    for (let i = x; i < x + w; i++) if ((i + j) % 6 < 2) out[j * width + i] = colour;
  }
}

/** The difference picture of `from` and `to`, as large as the larger of both in each direction. */
export function paintDifference(from: Picture, to: Picture, comparison: Comparison): Picture {
  const width = Math.max(from.width, to.width);
  const height = Math.max(from.height, to.height);
  const out = new Uint32Array(width * height).fill(paper);
  for (let y = 0; y < to.height; y++) {
    for (let x = 0; x < to.width; x++) {
      const pixel = pixelAt(to, y * to.width + x);
      let shown = faded(pixel);
      if (x < from.width && y < from.height) {
        const before = pixelAt(from, y * from.width + x);
        if (before !== pixel) shown = colourDistance(before, pixel) < visibleDistance ? faint : ink;
      }
      out[y * width + x] = shown;
    }
  }
  for (const strip of comparison.added) hatch(out, width, strip, ink);
  for (const strip of comparison.lost) hatch(out, width, strip, line);
  for (const region of comparison.regions.slice(0, 200)) frame(out, width, height, region.box);
  return { width, height, channels: 4, data: new Uint8Array(out.buffer) };
}
