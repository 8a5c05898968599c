/**
 * Compares two pictures in the order that pays: which pixels differ at all, how visible that is, where.
 * Pictures of different sizes are compared where both have pixels; what one has beyond that is told as strips.
 */
import type { Box } from '../timeline.ts';
import { colourDistance, visibleDistance } from './colour.ts';
import { words, type Picture } from './picture.ts';
import { findRegions, type Region } from './regions.ts';

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

/** The indexes (in an area `width` wide) of the pixels of the common area that are not equal. */
function differingPixels(a: Uint32Array, b: Uint32Array, aWidth: number, bWidth: number, width: number, height: number): Uint32Array {
  let list = new Uint32Array(1024);
  let count = 0;
  for (let y = 0; y < height; y++) {
    const ra = y * aWidth;
    const rb = y * bWidth;
    for (let x = 0; x < width; x++) {
      if (a[ra + x] === b[rb + x]) continue;
      if (count === list.length) {
        const longer = new Uint32Array(list.length * 2);
        longer.set(list);
        list = longer;
      }
      list[count++] = y * width + x;
    }
  }
  return list.subarray(0, count);
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

export function comparePictures(from: Picture, to: Picture): Comparison {
  const width = Math.min(from.width, to.width);
  const height = Math.min(from.height, to.height);
  const a = words(from);
  const b = words(to);
  const differing = differingPixels(a, b, from.width, to.width, width, height);
  const seen = new Uint32Array(differing.length);
  const distances = new Float32Array(differing.length);
  let visible = 0;
  let strongest = 0;
  const distance = rememberingDistance();
  for (const index of differing) {
    const x = index % width;
    const y = (index - x) / width;
    const apart = distance(a[y * from.width + x]!, b[y * to.width + x]!);
    if (apart > strongest) strongest = apart;
    if (apart < visibleDistance) continue;
    seen[visible] = index;
    distances[visible++] = apart;
  }
  return {
    from: [from.width, from.height],
    to: [to.width, to.height],
    differing: differing.length,
    visible,
    strongest: Math.round(strongest * 1e4) / 1e4,
    regions: findRegions(seen, distances, visible, width, height),
    added: beyond(to.width, to.height, width, height),
    lost: beyond(from.width, from.height, width, height),
  };
}

/** True when a person could tell the two pictures apart. */
export const looksDifferent = (comparison: Comparison): boolean => comparison.visible > 0 || comparison.added.length > 0 || comparison.lost.length > 0;
