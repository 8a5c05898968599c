/** Groups differing pixels into connected regions, so that a person sees places and not dots. */
import type { Box } from '../timeline/timeline.ts';

export type Region = {
  /** Tight bounds of its differing pixels: left, top, width, height, in device pixels. */
  box: Box;
  pixels: number;
  /** The largest colour distance in it. */
  strongest: number;
};

/** Pixels closer than this belong together: about the distance between the letters of a word. */
const shift = 3;

/** Differing pixels, summed up in cells of 8x8: what regions are made of. */
export type Cells = {
  columns: number;
  rows: number;
  left: Int32Array;
  top: Int32Array;
  right: Int32Array;
  bottom: Int32Array;
  pixels: Int32Array;
  strongest: Float64Array;
};

/** Cells for a picture of this size, with nothing marked. */
export function emptyCells(width: number, height: number): Cells {
  const columns = (width + (1 << shift) - 1) >> shift;
  const rows = (height + (1 << shift) - 1) >> shift;
  const ints = (): Int32Array => new Int32Array(columns * rows);
  return {
    columns,
    rows,
    left: ints(),
    top: ints(),
    right: ints(),
    bottom: ints(),
    pixels: ints(),
    strongest: new Float64Array(columns * rows),
  };
}

/**
 * Marks differing pixels of a row, from `start` to before `end`, that are all as far apart. They come row by row, so
 * the first of a cell is its topmost.
 */
export function markRun(cells: Cells, start: number, end: number, y: number, distance: number): void {
  const row = (y >> shift) * cells.columns;
  for (let x = start; x < end; ) {
    const cell = row + (x >> shift);
    const last = Math.min(end, ((x >> shift) + 1) << shift) - 1;
    if (cells.pixels[cell]! === 0) {
      cells.left[cell] = x;
      cells.right[cell] = last;
      cells.top[cell] = y;
    } else {
      if (x < cells.left[cell]!) cells.left[cell] = x;
      if (last > cells.right[cell]!) cells.right[cell] = last;
    }
    cells.bottom[cell] = y;
    cells.pixels[cell]! += last - x + 1;
    if (distance > cells.strongest[cell]!) cells.strongest[cell] = distance;
    x = last + 1;
  }
}

/** The connected regions of what was marked, largest first. Cells that touch, also at a corner, are one region. */
export function regionsOf(cells: Cells): Region[] {
  const { columns, rows, pixels } = cells;
  const seen = new Uint8Array(columns * rows);
  const regions: Region[] = [];
  for (let start = 0; start < seen.length; start++) {
    if (pixels[start] === 0 || seen[start]) continue;
    seen[start] = 1;
    regions.push(gather(cells, seen, start));
  }
  return regions.sort((a, b) => b.pixels - a.pixels);
}

function gather(
  { columns, rows, left, top, right, bottom, pixels, strongest }: Cells,
  seen: Uint8Array,
  start: number,
): Region {
  let [l, t, r, b, count, most] = [left[start]!, top[start]!, right[start]!, bottom[start]!, 0, 0];
  const stack = [start];
  for (let cell = stack.pop(); cell !== undefined; cell = stack.pop()) {
    l = Math.min(l, left[cell]!);
    t = Math.min(t, top[cell]!);
    r = Math.max(r, right[cell]!);
    b = Math.max(b, bottom[cell]!);
    count += pixels[cell]!;
    most = Math.max(most, strongest[cell]!);
    const x = cell % columns;
    const y = (cell - x) / columns;
    for (let ny = Math.max(0, y - 1); ny <= Math.min(rows - 1, y + 1); ny++) {
      for (let nx = Math.max(0, x - 1); nx <= Math.min(columns - 1, x + 1); nx++) {
        const next = ny * columns + nx;
        if (pixels[next] === 0 || seen[next]) continue;
        seen[next] = 1;
        stack.push(next);
      }
    }
  }
  return { box: [l, t, r - l + 1, b - t + 1], pixels: count, strongest: Math.round(most * 1e4) / 1e4 };
}
