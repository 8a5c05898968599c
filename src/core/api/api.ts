/** What the service and its clients say to one another; the calls themselves are described by /api/openapi.json. */
import type { Comparison } from '../picture/compare.ts';
import type { Progress } from '../run/progress.ts';
import type { DecisionNote, ResultSummary, RunSummary } from '../run/run.ts';

/** The header by which a command says which process it is: one that has started the service knows its own calls. */
export const callerHeader = 'x-caller-process';

export type ProjectInfo = {
  name: string;
  root: string;
  version: string;
  url: string;
  /** Origin of stages and moments: another one than the API's. */
  stage: string;
  /** Origin of looks as live pages. */
  live: string;
  environments: {
    name: string;
    viewport: [number, number];
    ratio: number;
    scheme: 'light' | 'dark';
    motion: 'reduce' | 'no-preference';
    contrast: 'more' | 'no-preference';
  }[];
  engine: string | null;
  /** Who decides when nobody says: git's name for the person, or the account. */
  person: string;
  /** Which decisions need a reason. */
  reasons: 'rejections' | 'all';
  /** The folder of approved baselines, or null when they are kept in the service only. */
  baselines: string | null;
  /** The attribute by which `the.marked(…)` finds elements. */
  markAttribute: string;
  /** Captures that nobody has decided about. */
  undecided: number;
  /** The run that goes on now. */
  run: RunSummary | null;
  /** How far that is. */
  progress: Progress;
  /** Runs that wait for it to end, the next one first. */
  queued: RunSummary[];
};

/** A decision about captures: those named, or all undecided ones of the looks that the patterns mean. */
export type DecisionRequest = {
  kind: 'approve' | 'reject';
  captures?: { result: number; capture: string }[];
  patterns?: string[];
  all?: boolean;
  /**
   * Keys of causes: their captures, as far as all causes of each are approved; with `captures` those of them that
   * somebody has seen, and no others.
   */
  causes?: string[];
  /** Patterns of looks that are left out of that. */
  except?: string[];
  /** For captures that a merge has left in conflict: what one side has approved, in place of what is shown now. */
  take?: 'base' | 'ours' | 'theirs';
  /** Approve captures that came out differently from time to time, too. */
  unsteady?: boolean;
  why?: string;
  who?: string;
  /** Who is to fix what is rejected. */
  fixer?: string;
};

/** What a decision is taken back by: the number of its batch, or the last one without. */
export type UndoRequest = { batch?: number; who?: string };

/** What was taken back. */
export type Undone = {
  batch: number;
  kind: 'approve' | 'reject';
  who: string;
  /** Captures whose decision was taken back; none when it was only about causes of captures that wait. */
  captures: Decided['decided'];
};

/** What a comment is about: a cause by its key, or a capture. */
export type CommentOn = { cause: string } | { capture: { result: number; capture: string } };

export type Comment = { id: number; at: string; who: string; text: string };

export type Decided = {
  /** Captures decided about now. */
  decided: { component: string; look: string; environment: string; capture: string }[];
  /** How many that were meant had been decided so before. */
  already: number;
  /** Looks that were meant and whose captures cannot be approved, because they did not finish. */
  unfinished: string[];
  /** Captures that have other causes as well, which nobody has approved yet. */
  waiting: number;
  /** By this number it can be taken back as a whole; null when nothing was decided. */
  batch: number | null;
};

/** How two pictures differ, with the hash of a picture of it where any pixel does. */
export type PictureComparison = { picture: Comparison; difference: string | null };

/**
 * Baselines of looks that there are no more, and files that baselines shared and none does any more; `removed` when
 * they have been taken away.
 */
export type Tidied = { files: string[]; unshared: string[]; removed: boolean };

/** A record of a decision about a capture; `undo` takes back an earlier one. */
export type HistoryEntry = Omit<DecisionNote, 'stands' | 'kind'> & {
  kind: DecisionNote['kind'] | 'undo';
  id: number;
  capture: string;
  run: number | null;
  hash: string;
  commit: string | null;
  branch: string | null;
  /** What it was decided with; null for what was not decided by a person here. */
  batch: number | null;
  /** The record that it takes back. */
  undoes: number | null;
  /** It is the baseline now. */
  isBaseline: boolean;
};

export type LookHistory = { results: ResultSummary[]; decisions: HistoryEntry[] };

/** A component of the project: its file, how many files import that, and whether it has looks. */
export type ComponentInfo = { file: string; component: string; imports: number; hasLooks: boolean };

/** Lines of a file that gave way to others; lines count from 1. */
export type Change = { line: number; removed: string[]; added: string[] };

/**
 * Props of a stage to be kept in a look file: over those of a look, or with `as` as a look of its own. `seen` is the
 * hash of the file that the change was shown for; null when nobody has seen one. Without `write` it is only shown.
 */
export type KeepRequest = {
  file: string;
  look: string;
  as: string | null;
  props: Record<string, unknown>;
  seen: string | null;
  write: boolean;
};

/**
 * Lines to be kept in the script of a look, before what stands on a line of the file or at the script's end; or with
 * `as` in that of a look of its own, which begins as that look does, or where it has ended.
 */
export type KeepLinesRequest = Omit<KeepRequest, 'props'> & {
  lines: string[];
  before: number | null;
  from: 'start' | 'end';
};

/** What changes in a look file, or has changed, and the hash of the file as it is now. */
export type KeptFile = { file: string; change: Change; hash: string; isWritten: boolean };

/** A look file that was drafted, and whether it was written. */
export type Draft = { file: string; component: string; text: string; isWritten: boolean };
