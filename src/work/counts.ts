/** What is counted of the scripts that a lane's window runs. */
import type { CoveredScript } from '../core/coverage/hits.ts';
import type { EngineWindow } from '../engine/engine.ts';
import type { Execution } from './execution.ts';

export type Counts = {
  isCovered: boolean;
  /** A document is loaded anew. */
  clear(): void;
  /** Takes down what was run of a look file and what it imports before any of its looks. */
  loading(window: EngineWindow | null): Promise<void>;
  /** What a look has run, and the first one of its file what was run before; null where that is not counted. */
  ofLook(window: EngineWindow | null): Execution['covered'];
};

/** Counts scripts of an origin; without `isCovered` nothing is counted. */
export function countsOf(origin: string, isCovered: boolean): Counts {
  /** What was run of the present document whenever files were loaded. */
  let loaded: CoveredScript[] = [];
  /** No look has run since the last one was. */
  let isFirst = false;
  return {
    isCovered,
    clear() {
      loaded = [];
    },
    async loading(window) {
      if (!isCovered || !window) return;
      loaded.push(...(await window.covered(origin)));
      isFirst = true;
    },
    ofLook(window) {
      const loading = isFirst ? [...loaded] : [];
      isFirst = false;
      if (!isCovered || !window) return null;
      return window.covered(origin).then(
        (own) => ({ own, loading }),
        () => null,
      );
    },
  };
}
