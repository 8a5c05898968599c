/** Why a finding has come: the causes of what changed in the picture where it is. */
import type { CauseList, Cluster } from '../cause/cluster.ts';
import type { Box } from '../timeline/timeline.ts';
import type { Sighting } from './listing.ts';

/** A cause of pictures as a finding names it. */
export type FindingCause = Pick<Cluster, 'id' | 'title' | 'place'>;

const meet = ([left, top, width, height]: Box, [x, y, w, h]: Box): boolean =>
  left < x + w && x < left + width && top < y + h && y < top + height;

const times = ([left, top, width, height]: Box, ratio: number): Box => [
  left * ratio,
  top * ratio,
  width * ratio,
  height * ratio,
];

/**
 * The causes that touch an element where it is seen: one of their elements, or of the pixels that they change, is where
 * it is. `ratioOf` gives the pixel ratio of an environment.
 */
export function causesAt(
  sightings: readonly Sighting[],
  { causes }: Pick<CauseList, 'causes'>,
  ratioOf: (environment: string) => number,
): FindingCause[] {
  const touches = ({ captures }: Cluster): boolean =>
    sightings.some(({ result, box, environment }) => {
      if (!box) return false;
      const place = times(box, ratioOf(environment));
      const own = captures.filter((capture) => capture.result === result && capture.capture === 'end');
      return own.some(({ outlines, regions }) => [...outlines, ...regions].some((one) => meet(one, place)));
    });
  return causes
    .filter((cause) => cause.kind !== 'failed' && touches(cause))
    .map(({ id, title, place }) => ({ id, title, place }));
}
