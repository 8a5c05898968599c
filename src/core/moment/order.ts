/** The nodes of a moment in the order of its document. */
import { isText, type Moment } from './moment.ts';

/**
 * Ids of all nodes of a moment in document order, shadow roots before children, frames with what is in them. In equal
 * moments the nodes that stand for each other have equal places, whatever their ids are. Nothing is visited twice.
 */
export function idsInOrder({ root, nodes }: Moment): number[] {
  const found = new Set<number>();
  const waiting = [root];
  for (let id = waiting.pop(); id !== undefined; id = waiting.pop()) {
    const entry = nodes[id];
    if (!entry || found.has(id)) continue;
    found.add(id);
    if (isText(entry)) continue;
    const { shadow, frame, kids = [] } = entry;
    const inside = [...(shadow?.kids ?? []), ...(frame?.kid == null ? [] : [frame.kid]), ...kids];
    for (let i = inside.length - 1; i >= 0; i--) waiting.push(inside[i]!);
  }
  return [...found];
}
