/** What runs in a thread that compares pictures: two PNG files in, what differs out. */
import { contrastFindings } from '../core/accessibility/contrast.ts';
import type { Finding, TextLine } from '../core/accessibility/finding.ts';
import { type Allowance, allowed } from '../core/picture/allowance.ts';
import { type Comparison, comparePictures, looksDifferent } from '../core/picture/compare.ts';
import { type PictureChanges, picturesChanges } from '../core/picture/changes.ts';
import { unchangedAreas } from '../core/picture/areas.ts';
import { paintDifference } from '../core/picture/paint.ts';
import type { Box } from '../core/timeline/timeline.ts';
import { messageOf } from '../core/problem/problem.ts';
import { decodePng, encodePng, sameBytes } from './png.ts';

export type Pair = {
  before: Uint8Array;
  now: Uint8Array;
  /** A difference is painted also when nobody can see it in the pictures. */
  isPaintedAnyway: boolean;
  allowances: readonly Allowance[];
};

/** `difference` is a PNG. `corrupt` says why the first file is not a picture. */
export type Compared = { picture: Comparison; difference: Uint8Array | null } | { corrupt: string };

/** What happened between two pictures; null where they cannot be laid over each other, or the first is none. */
export async function changes({ before, now }: Pick<Pair, 'before' | 'now'>): Promise<PictureChanges | null> {
  const [from, to] = await Promise.all([decodePng(before).catch(() => null), decodePng(now)]);
  return from && picturesChanges(from, to, sameBytes);
}

/** Two pictures of the same part of a page, and clips that lie in it, in CSS pixels of the page. */
export type Areas = { before: Uint8Array; now: Uint8Array; around: Box; clips: readonly Box[] };

/** Which clips hold the same pixels in both pictures, where no other clip lies over them. */
export async function alike({ before, now, around, clips }: Areas): Promise<number[]> {
  const [from, to] = await Promise.all([decodePng(before), decodePng(now)]);
  const [left, top, wide] = around;
  const ratio = to.width / wide;
  const boxes = clips.map(([x, y, width, height]): Box => [x - left, y - top, width, height]);
  return unchangedAreas(
    from,
    to,
    boxes.map((box) => box.map((value) => value * ratio) as Box),
  );
}

/** A picture with lines of text on it; `ratio` is of device to CSS pixels. */
export type Measured = { png: Uint8Array; lines: readonly TextLine[]; ratio: number };

/** Text on a picture that has too little contrast. */
export async function contrast({ png, lines, ratio }: Measured): Promise<Finding[]> {
  return contrastFindings(await decodePng(png), lines, ratio);
}

export default async function compare({ before, now, isPaintedAnyway, allowances }: Pair): Promise<Compared> {
  const to = await decodePng(now);
  const was = await decodePng(before).catch((error: unknown) => ({ corrupt: messageOf(error) }));
  if ('corrupt' in was) return was;
  const from = allowed(was, to, allowances);
  const picture = comparePictures(from, to, sameBytes);
  const isSeen = looksDifferent(picture);
  const isPainted = isSeen || (isPaintedAnyway && picture.differing > 0);
  return { picture, difference: isPainted ? await encodePng(paintDifference(from, to, picture)) : null };
}
