/** Areas of two pictures of one size that are the same in both. */
import type { Box } from '../timeline/timeline.ts';
import { type Picture, pixelAt } from './picture.ts';

type Edges = { left: number; top: number; right: number; bottom: number };

function edgesIn({ width, height }: Picture, [x, y, w, h]: Box): Edges {
  const within = (value: number, most: number): number => Math.min(most, Math.max(0, Math.round(value)));
  return {
    left: within(x, width),
    top: within(y, height),
    right: within(x + w, width),
    bottom: within(y + h, height),
  };
}

function eachPixel({ left, top, right, bottom }: Edges, width: number, visit: (index: number) => boolean): boolean {
  for (let y = top; y < bottom; y++) for (let x = left; x < right; x++) if (visit(y * width + x)) return true;
  return false;
}

/**
 * Indexes of the boxes, in pixels, in which no pixel differs that belongs to one of them alone: where two boxes overlap
 * nobody can tell whose pixel it is. Of pictures of different sizes, every box is returned.
 */
export function unchangedAreas(before: Picture, now: Picture, boxes: readonly Box[]): number[] {
  const all = boxes.map((_, i) => i);
  if (before.width !== now.width || before.height !== now.height) return all;
  const { width } = before;
  const edges = boxes.map((box) => edgesIn(before, box));
  const owners = new Uint8Array(width * before.height);
  for (const one of edges)
    eachPixel(one, width, (index) => {
      owners[index] = Math.min(2, owners[index]! + 1);
      return false;
    });
  const differs = (index: number): boolean => owners[index] === 1 && pixelAt(before, index) !== pixelAt(now, index);
  return all.filter((i) => !eachPixel(edges[i]!, width, differs));
}
