/** What a page says of parts that are compared otherwise, as it is kept. */
import type { Contents } from '../core/moment/canonical.ts';
import type { Allowance } from '../core/picture/allowance.ts';
import type { Box } from '../core/timeline/timeline.ts';
import type { Shot } from './execution.ts';

/** Which nodes of a capture's moment are marked, and how. */
export const markedIn = ({
  unseen,
  allowed,
}: Pick<Shot, 'unseen' | 'allowed'>): Pick<Contents, 'unseen' | 'leftOut'> => ({
  unseen: new Set(unseen),
  leftOut: new Set(allowed.flatMap(({ nodes }) => nodes)),
});

/** Whole device pixels around a box in CSS pixels. */
function around([left, top, width, height]: Box, ratio: number): Box {
  const [x, y] = [Math.floor(left * ratio), Math.floor(top * ratio)];
  return [x, y, Math.ceil((left + width) * ratio) - x, Math.ceil((top + height) * ratio) - y];
}

/** Allowances with their places in the picture. */
export const allowancesOf = (allowed: Shot['allowed'], ratio: number): Allowance[] =>
  allowed.map(({ nodes: _, boxes, ...rest }) => ({ ...rest, boxes: boxes?.map((box) => around(box, ratio)) ?? null }));
