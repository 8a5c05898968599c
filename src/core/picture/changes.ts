/** What happened to a picture, where nothing but its pixels can tell: bands that came or went, and regions. */
import type { Box } from '../timeline/timeline.ts';
import { type Alignment, alignPictures, laidUnder } from './align.ts';
import { classifyRegion, type RegionClass } from './classify.ts';
import { comparePictures } from './compare.ts';
import type { Picture, SameBytes } from './picture.ts';

/** Bands as in `Alignment`; regions in pixels of the new picture, without what bands account for. */
export type PictureChanges = Pick<Alignment, 'axis' | 'added' | 'removed' | 'residue'> & {
  regions: { box: Box; pixels: number; change: RegionClass }[];
};

/** So many regions are classed. */
const mostRegions = 12;

/** What happened between two pictures; null where they cannot be laid over each other. */
export function picturesChanges(before: Picture, now: Picture, same?: SameBytes): PictureChanges | null {
  const alignment = alignPictures(before, now);
  if (!alignment) return null;
  const { axis, added, removed, residue } = alignment;
  if (residue === 0) return { axis, added, removed, residue, regions: [] };
  const under = laidUnder(before, now, alignment);
  const { regions } = comparePictures(under, now, same);
  return {
    axis,
    added,
    removed,
    residue,
    regions: regions
      .slice(0, mostRegions)
      .map(({ box, pixels }) => ({ box, pixels, change: classifyRegion(under, now, box) })),
  };
}
