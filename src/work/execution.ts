/** An execution: everything that running one look once has brought, before anything is made of it. */
import type { BundledFile } from '../bundle/index.ts';
import type { CoveredScript } from '../core/coverage/hits.ts';
import type { Measured } from '../core/timing/costs.ts';
import type { Problem } from '../core/problem/problem.ts';
import { breakOff, emptyTrace, type Trace } from '../core/timeline/trace.ts';
import type { Gathered } from './gathered.ts';
import type { Recalled } from './recall.ts';
import type { CaptureAsk, LookReport } from '../core/wire/wire.ts';

/** A capture as it was taken; without a picture where its moment is as approved. */
export type Shot = Pick<CaptureAsk, 'name' | 'clip' | 'step' | 'moment' | 'unseen' | 'allowed' | 'opaque'> & {
  png: Uint8Array | null;
};

/** What was run of the scripts of a page: by the look itself, and before it, when its file was loaded. */
export type Covered = { own: CoveredScript[]; loading: CoveredScript[] };

export type Execution = {
  report: LookReport;
  trace: Trace;
  shots: Shot[];
  /** Addresses of everything that the document has asked for so far, for this look file and its looks. */
  asked: string[];
  /** Files of the project that the look has handed to its page, by their paths from the root. */
  read: string[];
  /** Pictures, fonts and the like that the look has answered, by their addresses. */
  answered: ReadonlyMap<string, BundledFile>;
  /** What was known of the page at its end; null where nothing was looked for. */
  recalled: Recalled | null;
  /** Null unless it is counted. The next look does not wait for it, nor is the answer touched by what that one does. */
  covered: Promise<Covered | null> | null;
  /** What the browser did meanwhile; null unless it was measured. */
  measured: Measured | null;
};

/** A report of a look that its page could not make itself. */
const brokenReport = (wrong: Problem, stack: string | null): LookReport => ({
  outcome: 'broken',
  problem: wrong,
  stack,
  notes: [],
  left: [],
  audit: null,
});

/**
 * The report of a look whose page was ended by something after so many milliseconds: what the page has done when the
 * look itself was over says nothing about it.
 */
export function endedBy(wrong: Problem, stack: string | null, gathered: Gathered, after: number): LookReport {
  const { concluded, trace } = gathered;
  if (concluded) {
    const note = `When Tab was tried on its page at the end: ${wrong.message}`;
    return { ...concluded, left: [wrong.message], notes: [...concluded.notes, note] };
  }
  breakOff(trace, wrong, after);
  return brokenReport(wrong, stack);
}

/** The execution of a look that came to nothing. */
export function brokenBy(wrong: Problem, stack: string | null = null): Execution {
  const trace = emptyTrace();
  breakOff(trace, wrong, 0);
  const nothing = {
    shots: [],
    asked: [],
    read: [],
    answered: new Map(),
    recalled: null,
    covered: null,
    measured: null,
  };
  return { report: brokenReport(wrong, stack), trace, ...nothing };
}
