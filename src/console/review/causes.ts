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

/** What else is to be said of how a capture was explained, or why it was not; null when nothing is. */
export const noteOf = (list: CauseList | undefined, item: Item): string | null =>
  (list?.unexplained.find(isOf(item)) ?? causesOf(list, item)[0]?.capture)?.note ?? null;
