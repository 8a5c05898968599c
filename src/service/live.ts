/** The live feed: what happens in the service, to everybody who listens, with a number by which it can be resumed. */
import { randomUUID } from 'node:crypto';
import type { RunEvent } from '../core/run/run.ts';

/** An event with its id, which is only understood here. */
export type Numbered = { id: string; event: RunEvent };

export type Live = {
  tell(event: RunEvent): void;
  /**
   * Hears of every event from now on; with `after`, the id of the last event that was heard, first of those that were
   * missed. Where they are not known any more that is told with a `gap`. Returns a function that ends it.
   */
  listen(listener: (numbered: Numbered) => void, after?: string): () => void;
  /** How many listen. */
  count(): number;
};

/** Events that are remembered for those who were away for a moment. */
const remembered = 2000;

export function liveFeed(): Live {
  // Numbers of another service, an earlier one of the project, mean nothing here.
  const epoch = randomUUID().slice(0, 8);
  const listeners = new Set<(numbered: Numbered) => void>();
  let past: Numbered[] = [];
  let next = 1;
  const idOf = (n: number): string => `${epoch}-${n}`;

  const missed = (after: string): Numbered[] => {
    const found = past.findIndex(({ id }) => id === after);
    if (found >= 0) return past.slice(found + 1);
    return after === idOf(next - 1) ? [] : [{ id: idOf(next - 1), event: { kind: 'gap' } }];
  };
  return {
    tell(event) {
      const numbered = { id: idOf(next++), event };
      past.push(numbered);
      if (past.length > remembered * 2) past = past.slice(-remembered);
      for (const listener of listeners) listener(numbered);
    },
    listen(listener, after) {
      for (const numbered of after === undefined ? [] : missed(after)) listener(numbered);
      listeners.add(listener);
      return () => void listeners.delete(listener);
    },
    count: () => listeners.size,
  };
}
