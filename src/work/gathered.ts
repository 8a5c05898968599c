/** What comes of a look while it runs. */
import type { BundledFile } from '../bundle/index.ts';
import type { Problem } from '../core/problem/problem.ts';
import { emptyTrace, type Trace } from '../core/timeline/trace.ts';
import type { LookReport } from '../core/wire/wire.ts';
import type { Shot } from './execution.ts';
import type { Recalled } from './recall.ts';

/** What has been gathered of the look that runs. */
export type Gathered = {
  trace: Trace;
  shots: Shot[];
  notes: string[];
  /** How often the page has said that it watches what does not come to rest. */
  watched: number;
  read: string[];
  /** Pictures, fonts and the like that were answered, by their addresses. */
  answered: Map<string, BundledFile>;
  /** What was known of the page at its end; null until that is asked. */
  recalled: Recalled | null;
  /** What the look has come to, before more was tried on its page. */
  concluded: LookReport | null;
  /** Answers that the project's API could not give. */
  objections: Problem[];
};

/** Nothing yet. */
export const nothingGathered = (): Gathered => ({
  trace: emptyTrace(),
  shots: [],
  notes: [],
  watched: 0,
  read: [],
  answered: new Map(),
  recalled: null,
  concluded: null,
  objections: [],
});
