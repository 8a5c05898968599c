/** The service's records: runs, results with their timelines, decisions, and the blobs that they refer to. */
import { mkdirSync } from 'node:fs';
import { dirname } from 'node:path';
import type { LookName } from '../core/look/look.ts';
import { type AccessibilityRecords, accessibilityOf } from './accessibility.ts';
import { type BaselineFiles, baselineFilesOf } from './baselineFiles.ts';
import { type Blobs, blobsOf } from './blobs.ts';
import { type Board, boardIn } from './board.ts';
import { type Catalogue, catalogueOf } from './catalogue.ts';
import { type GraphRecord, graphOf } from './graph.ts';
import { openDatabase } from './database.ts';
import { type Decisions, decisionsOf } from './decisions.ts';
import { type Explanations, explanationsOf } from './explanations.ts';
import { type Engines, enginesOf } from './engines.ts';
import { type Pruned, prunerOf } from './prune.ts';
import { type Remarks, remarksOf } from './remarks.ts';
import { renamerOf } from './rename.ts';
import { type Results, resultsOf } from './results.ts';
import { type Runs, runsOf } from './runs.ts';
import { type Thumbnails, thumbnailsOf } from './thumbnails.ts';

export type Store = {
  blobs: Blobs;
  baselineFiles: BaselineFiles;
  engines: Engines;
  thumbnails: Thumbnails;
  board: Board;
  runs: Runs;
  catalogue: Catalogue;
  graph: GraphRecord;
  results: Results;
  decisions: Decisions;
  explanations: Explanations;
  remarks: Remarks;
  accessibility: AccessibilityRecords;
  /** A look gets another name; to be called within `together`. */
  rename(from: LookName, to: string): void;
  /** Does several things as one transaction: all of them or, when one throws, none. */
  together(work: () => void): void;
  /** Keeps so many of the newest runs, and whatever decisions and the board refer to. */
  prune(keep: number): Pruned;
  close(): void;
};

/** Opens the records in a database file, which is created when it is not there. */
export function openStore(file: string): Store {
  if (file !== ':memory:') mkdirSync(dirname(file), { recursive: true });
  const db = openDatabase(file);
  const blobs = blobsOf(db);
  const decisions = decisionsOf(db);
  const results = resultsOf(db, blobs, decisions);
  const rename = renamerOf(db);
  const prune = prunerOf(db, (hash) => blobs.get(hash)?.bytes ?? null);
  return {
    blobs,
    baselineFiles: baselineFilesOf(db),
    engines: enginesOf(db),
    thumbnails: thumbnailsOf(db),
    board: boardIn(db),
    runs: runsOf(db),
    catalogue: catalogueOf(db),
    graph: graphOf(db),
    results,
    decisions,
    explanations: explanationsOf(db),
    remarks: remarksOf(db),
    accessibility: accessibilityOf(db),
    rename(from, to) {
      rename(from, to);
      results.forget();
    },
    together: (work) => db.transaction(work)(),
    prune(keep) {
      const pruned = prune(keep);
      if (pruned.results > 0) results.forget();
      return pruned;
    },
    close: () => db.close(),
  };
}

export { hashOf } from './blobs.ts';
export type { Decision, DecisionKind, NewDecision } from './decisions.ts';
export { takeLock } from './lock.ts';
export type { StoredCapture } from './results.ts';
