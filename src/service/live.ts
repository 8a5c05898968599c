/** The live feed: what happens in the service, to everybody who listens. */
import type { RunEvent } from '../core/run.ts';

export type Live = {
  tell(event: RunEvent): void;
  listen(listener: (event: RunEvent) => void): () => void;
  /** How many listen. */
  count(): number;
};

export function liveFeed(): Live {
  const listeners = new Set<(event: RunEvent) => void>();
  return {
    tell(event) {
      for (const listener of listeners) listener(event);
    },
    listen(listener) {
      listeners.add(listener);
      return () => void listeners.delete(listener);
    },
    count: () => listeners.size,
  };
}
