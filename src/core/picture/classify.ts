/** What happened to a region of a picture, as far as its pixels tell. */
import type { Box } from '../timeline/timeline.ts';
import { smoothing } from './allowance.ts';
import { colourDistance, visibleDistance } from './colour.ts';
import { type Picture, pixelAt } from './picture.ts';

export type RegionClass =
  /** The same pixels stand `by` pixels aside. */
  | { kind: 'moved'; by: [x: number, y: number] }
  /** One colour gave way to another one; both as little-endian RGBA words. */
  | { kind: 'recoloured'; from: number; to: number }
  /** Edges are drawn a little otherwise, and nothing else. */
  | { kind: 'noise' }
  /** Shapes are others: text, drawings. */
  | { kind: 'redrawn' };

/** So far a region is looked for, in pixels. */
const furthest = 8;

/** Such a share of a region's pixels has to agree. */
const most = 0.95;

type Pixels = (x: number, y: number) => number | null;

const pixelsOf =
  (picture: Picture): Pixels =>
  (x, y) =>
    x < 0 || y < 0 || x >= picture.width || y >= picture.height ? null : pixelAt(picture, y * picture.width + x);

function* placesIn([left, top, width, height]: Box): Generator<[number, number]> {
  for (let y = top; y < top + height; y++) for (let x = left; x < left + width; x++) yield [x, y];
}

/** The shortest move after which a region is as it was, or null. */
function moveOf(before: Pixels, now: Pixels, box: Box): [number, number] | null {
  const moves: [number, number][] = [];
  for (let y = -furthest; y <= furthest; y++)
    for (let x = -furthest; x <= furthest; x++) if (x || y) moves.push([x, y]);
  moves.sort(([a, b], [c, d]) => a * a + b * b - (c * c + d * d));
  const allowed = (1 - most) * box[2] * box[3];
  for (const [dx, dy] of moves) {
    let wrong = 0;
    for (const [x, y] of placesIn(box)) {
      if (before(x - dx, y - dy) !== now(x, y)) wrong++;
      if (wrong > allowed) break;
    }
    if (wrong <= allowed) return [dx, dy];
  }
  return null;
}

type Pair = { from: number; to: number; count: number };

/** Colours that gave way to others, the most frequent pair first, and how many pixels differ. */
function pairsOf(before: Pixels, now: Pixels, box: Box): { pairs: Pair[]; differing: number } {
  const pairs = new Map<string, Pair>();
  let differing = 0;
  for (const [x, y] of placesIn(box)) {
    const [from, to] = [before(x, y), now(x, y)];
    if (from === null || to === null || from === to) continue;
    differing++;
    const pair = pairs.get(`${from} ${to}`) ?? { from, to, count: 0 };
    pair.count++;
    pairs.set(`${from} ${to}`, pair);
  }
  return { pairs: [...pairs.values()].sort((one, other) => other.count - one.count), differing };
}

/** True for a pixel of which all neighbours are of two colours and it is between them: it smooths an edge. */
function isSmoothed(pixels: Pixels, x: number, y: number): boolean {
  const own = pixels(x, y);
  const around = [pixels(x - 1, y), pixels(x + 1, y), pixels(x, y - 1), pixels(x, y + 1)].filter((one) => one !== null);
  return own !== null && around.some((one) => one !== own) && new Set(around).size >= 2;
}

function isNoise(before: Pixels, now: Pixels, box: Box): boolean {
  let smoothed = 0;
  let all = 0;
  for (const [x, y] of placesIn(box)) {
    const [from, to] = [before(x, y), now(x, y)];
    if (from === null || to === null || from === to) continue;
    const apart = colourDistance(from, to);
    if (apart >= smoothing) return false;
    if (apart < visibleDistance) continue;
    all++;
    if (isSmoothed(before, x, y) && isSmoothed(now, x, y)) smoothed++;
  }
  return smoothed >= most * all;
}

/** Larger regions are not looked for elsewhere: what moves so much is a band. */
const largestMoved = 200_000;

/** Classes a region, given in pixels of both pictures. */
export function classifyRegion(before: Picture, now: Picture, box: Box): RegionClass {
  const [was, is] = [pixelsOf(before), pixelsOf(now)];
  const { pairs, differing } = pairsOf(was, is, box);
  const [first] = pairs;
  // The smoothed edges of a shape have colours of their own.
  if (first && first.count >= 0.6 * differing && colourDistance(first.from, first.to) >= visibleDistance)
    return { kind: 'recoloured', from: first.from, to: first.to };
  if (isNoise(was, is, box)) return { kind: 'noise' };
  const by = box[2] * box[3] <= largestMoved ? moveOf(was, is, box) : null;
  return by ? { kind: 'moved', by } : { kind: 'redrawn' };
}
