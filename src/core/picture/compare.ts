/**
 * Compares two pictures in the order that pays: which pixels differ at all, how visible that is, where.
 * Pictures of different sizes are compared where both have pixels; what one has beyond that is told as strips.
 */
import type { Box } from '../timeline/timeline.ts';
import { colourDistance, visibleDistance } from './colour.ts';
import { type Picture, pixelAt, sameBytes, type SameBytes, withAlpha } from './picture.ts';
import { emptyCells, markRun, type Region, regionsOf } from './regions.ts';

export type Comparison = {
  /** Width and height of the baseline and of what there is now. */
  from: [number, number];
  to: [number, number];
  /** Pixels of the common area that are not exactly equal. */
  differing: number;
  /** Those of them that a person can see (distance of at least 0.004). */
  visible: number;
  /** The largest colour distance. */
  strongest: number;
  /** Connected regions of visible pixels, largest first. */
  regions: Region[];
  /** Strips that only the new picture has. */
  added: Box[];
  /** Strips that only the baseline has. */
  lost: Box[];
};

/** The strips of a `width` x `height` area that lie outside the top left `cw` x `ch`. */
function beyond(width: number, height: number, cw: number, ch: number): Box[] {
  const strips: Box[] = [];
  if (width > cw) strips.push([cw, 0, width - cw, height]);
  if (height > ch) strips.push([0, ch, cw, height - ch]);
  return strips;
}

/** The colour distance, with the newest answers kept: the same pair of colours comes back all over a picture. */
function rememberingDistance(): (a: number, b: number) => number {
  const slots = 4096;
  const first = new Uint32Array(slots);
  const second = new Uint32Array(slots);
  const answers = new Float64Array(slots);
  return (a, b) => {
    const slot = (Math.imul(a, 0x9e3779b1) ^ Math.imul(b, 0x85ebca6b)) >>> 20;
    if (first[slot] !== a || second[slot] !== b) {
      first[slot] = a;
      second[slot] = b;
      answers[slot] = colourDistance(a, b);
    }
    return answers[slot]!;
  };
}

/** True when the pixel at a place is the one before it. */
const repeats = (data: Uint8Array, at: number, channels: number): boolean =>
  data[at] === data[at - channels] &&
  data[at + 1] === data[at + 1 - channels] &&
  data[at + 2] === data[at + 2 - channels] &&
  (channels === 3 || data[at + 3] === data[at - 1]);

/** Compares two pictures. `same` may be given where the surroundings have a faster way to compare bytes. */
export function comparePictures(before: Picture, now: Picture, same: SameBytes = sameBytes): Comparison {
  const alike = before.channels === now.channels;
  const from = alike ? before : withAlpha(before);
  const to = alike ? now : withAlpha(now);
  const { channels } = from;
  const a = from.data;
  const b = to.data;
  const width = Math.min(from.width, to.width);
  const height = Math.min(from.height, to.height);
  const cells = emptyCells(width, height);
  const distance = rememberingDistance();
  let differing = 0;
  let visible = 0;
  let strongest = 0;
  for (let y = 0; y < height; y++) {
    const rowA = y * from.width;
    const rowB = y * to.width;
    // Most rows of most pairs are equal, and are passed over whole.
    if (same(a, rowA * channels, b, rowB * channels, width * channels)) continue;
    for (let x = 0; x < width; ) {
      const i = (rowA + x) * channels;
      const j = (rowB + x) * channels;
      if (
        a[i] === b[j] &&
        a[i + 1] === b[j + 1] &&
        a[i + 2] === b[j + 2] &&
        (channels === 3 || a[i + 3] === b[j + 3])
      ) {
        x++;
        continue;
      }
      // Most pixels that differ do so as the one before them does.
      let end = x + 1;
      while (
        end < width &&
        repeats(a, (rowA + end) * channels, channels) &&
        repeats(b, (rowB + end) * channels, channels)
      )
        end++;
      const apart = distance(pixelAt(from, rowA + x), pixelAt(to, rowB + x));
      differing += end - x;
      if (apart > strongest) strongest = apart;
      if (apart >= visibleDistance) {
        visible += end - x;
        markRun(cells, x, end, y, apart);
      }
      x = end;
    }
  }
  return {
    from: [from.width, from.height],
    to: [to.width, to.height],
    differing,
    visible,
    strongest: Math.round(strongest * 1e4) / 1e4,
    regions: regionsOf(cells),
    added: beyond(to.width, to.height, width, height),
    lost: beyond(from.width, from.height, width, height),
  };
}

/** True when a person could tell the two pictures apart. */
export const looksDifferent = (comparison: Comparison): boolean =>
  comparison.visible > 0 || comparison.added.length > 0 || comparison.lost.length > 0;
