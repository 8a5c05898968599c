/** What a comparison of pictures passes over, each with the reason that somebody gave. */
import type { Box } from '../timeline/timeline.ts';
import { colourDistance } from './colour.ts';
import { type Picture, pixelAt } from './picture.ts';

export type Allowance = {
  /**
   * `left-out`: nothing there counts, in picture and markup. `anti-aliasing`: edges may be smoothed otherwise.
   * `difference`: colours may be up to `upTo` apart.
   */
  kind: 'left-out' | 'anti-aliasing' | 'difference';
  why: string;
  /** Where, in device pixels; null for everywhere. */
  boxes: Box[] | null;
  /** A distance of colours, 0 to 1; null for what has none. */
  upTo: number | null;
};

/** Renderers smooth one edge in ways that are up to this distance apart. */
export const smoothing = 0.13;

/** True for a pixel beside which colours differ: it lies on an edge, or smooths one. */
function isAtEdge(picture: Picture, x: number, y: number): boolean {
  const { width, height } = picture;
  const own = pixelAt(picture, y * width + x);
  for (let dy = -1; dy <= 1; dy++)
    for (let dx = -1; dx <= 1; dx++) {
      const [nx, ny] = [x + dx, y + dy];
      const isInside = nx >= 0 && ny >= 0 && nx < width && ny < height;
      if (isInside && pixelAt(picture, ny * width + nx) !== own) return true;
    }
  return false;
}

type Pair = { before: Picture; now: Picture };

/** Whether a pixel that differs is allowed to. */
function isAllowed({ kind, upTo }: Allowance, { before, now }: Pair, x: number, y: number): boolean {
  if (kind === 'left-out') return true;
  const apart = colourDistance(pixelAt(before, y * before.width + x), pixelAt(now, y * now.width + x));
  if (kind === 'difference') return apart <= (upTo ?? 0);
  return apart < smoothing && isAtEdge(before, x, y) && isAtEdge(now, x, y);
}

/** A picture that shows what `now` shows wherever the two may differ. Both have as many channels. */
export function allowed(before: Picture, now: Picture, allowances: readonly Allowance[]): Picture {
  if (allowances.length === 0 || before.channels !== now.channels) return before;
  const { channels } = before;
  const data = Uint8Array.from(before.data);
  const [width, height] = [Math.min(before.width, now.width), Math.min(before.height, now.height)];
  for (const allowance of allowances)
    for (const [left, top, w, h] of allowance.boxes ?? [[0, 0, width, height]])
      for (let y = Math.max(0, top); y < Math.min(height, top + h); y++)
        for (let x = Math.max(0, left); x < Math.min(width, left + w); x++) {
          const [at, from] = [(y * before.width + x) * channels, (y * now.width + x) * channels];
          const isEqual =
            before.data[at] === now.data[from] &&
            before.data[at + 1] === now.data[from + 1] &&
            before.data[at + 2] === now.data[from + 2] &&
            (channels === 3 || before.data[at + 3] === now.data[from + 3]);
          if (isEqual || !isAllowed(allowance, { before, now }, x, y)) continue;
          for (let i = 0; i < channels; i++) data[at + i] = now.data[from + i]!;
        }
  return { ...before, data };
}
