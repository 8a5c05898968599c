/** The causes of single captures, out of the list of all. */
import type { CauseList, Cluster, ClusterCapture } from '../../core/cause/cluster.ts';
import type { Item } from './items.ts';

/** A cause, and what it does to one capture. */
export type OwnCause = { cluster: Cluster; capture: ClusterCapture };

const isOf =
  ({ result, capture }: Item) =>
  (one: { result: number; capture: string }): boolean =>
    one.result === result.id && one.capture === capture.name;

/** The causes of a capture, those with the most pixels first. */
export const causesOf = (list: CauseList | undefined, item: Item): OwnCause[] =>
  (list?.causes ?? [])
    .flatMap((cluster): OwnCause[] => {
      const capture = cluster.captures.find(isOf(item));
      return capture ? [{ cluster, capture }] : [];
    })
    .sort((one, other) => (other.capture.pixels ?? 0) - (one.capture.pixels ?? 0));

/** Why a capture has no cause; null where it has. */
export const noteOf = (list: CauseList | undefined, item: Item): string | null =>
  list?.unexplained.find(isOf(item))?.note ?? null;
