/** A finished look: what a run brings, and what the store keeps of it. */
import type { StoodFinding } from '../accessibility/finding.ts';
import type { LookCoverage } from '../coverage/hits.ts';
import type { LookInfo } from '../look/look.ts';
import type { CanonicalMoment } from '../moment/canonical.ts';
import type { Timeline } from '../timeline/timeline.ts';
import type { CaptureSummary, Outcome } from './run.ts';

/** A file with its media type. */
export type KeptFile = { type: string; body: Uint8Array };

/** A capture's manifest: its picture and its moment, each by content, and what they depend on. */
export type FinishedCapture = {
  summary: CaptureSummary;
  png: Uint8Array;
  differencePng: Uint8Array | null;
  /** The approved moment as this browser draws it, where it was compared with that. */
  redrawn: { png: Uint8Array; hash: string } | null;
  /** The moment that the picture shows, in canonical form. */
  moment: CanonicalMoment;
  markup: string[];
  fingerprint: string;
};

/** One look's result. */
export type FinishedLook = Outcome & {
  info: LookInfo;
  captures: FinishedCapture[];
  timeline: Timeline;
  /** Addresses of everything that its document has asked for so far, for its look file and the looks of it. */
  asked: string[];
  /** Files of the project that it has handed to its page, by their paths from the root. */
  read: string[];
  /** Files that moments show, by hash. */
  files: Map<string, KeptFile>;
  /** What its accessibility lacks, by its weight. */
  findings: StoodFinding[];
  /** What it has run of the project's sources; null where that was not counted. */
  coverage: LookCoverage | null;
};
