/** Baselines: what was approved for a capture. */
import type { Allowance } from '../picture/allowance.ts';
import type { Problem } from '../problem/problem.ts';

/** Which capture of which look, where. */
export type CaptureKey = { component: string; look: string; environment: string; capture: string };

/** A capture as it was taken: the parts that are compared. */
export type Taken = {
  png: Uint8Array;
  /** SHA-256 of the PNG as it was taken; an approved one may show the same in fewer bytes. */
  hash: string;
  fingerprint: string;
  markup: string[];
  /** What of it is compared otherwise. */
  allowances: Allowance[];
  /** SHA-256 of the canonical form of its moment; null where that is not known, or does not say all. */
  moment: string | null;
};

/** An approved moment and the files that it shows: an equal one needs no picture of its own. */
export type ApprovedMoment = {
  /** SHA-256 of its canonical form. */
  moment: string;
  /** Address → hash, for every file that its look has shown. */
  assets: Record<string, string>;
};

/** What has been approved for a capture. */
export type Approved = {
  /** SHA-256 of the PNG as it was taken; an approved one may show the same in fewer bytes. */
  picture: string;
  fingerprint: string;
  /** Null where the moment was not kept, as in format 1 of the folder. */
  shows: ApprovedMoment | null;
};

export type Baseline = Taken & {
  /** The file it was read from; null for one that is kept in the records only. */
  file: string | null;
};

/** A baseline of the folder, as far as it is known without its picture and markup. */
export type FolderBaseline = {
  key: CaptureKey;
  /** SHA-256 of the picture as it was taken: the file may show it in fewer bytes. */
  hash: string;
  /** SHA-256 of its markup, lines as JSON. */
  markup: string;
  fingerprint: string;
  allowances: Allowance[];
  /** Null for format 1, which does not keep the moment. */
  shows: ApprovedMoment | null;
  /** Who approved it; the run is one of the records that it came from. */
  approved: { by: string; at: string; why: string | null; run: number | null } | null;
  /** The picture, relative to the project. */
  file: string;
  /** The group of machines that it is for; null for the project's usual one. */
  family: string | null;
};

/** A baseline whose files were read, with their sizes, times and places on the disk then. */
export type KnownBaseline = { stamp: number[]; baseline: FolderBaseline };

/** A baseline that is there and cannot be used, with what is wrong with it. */
export type Unreadable = { unreadable: Problem };

/** What one side of a merge has approved. */
export type ConflictSide = {
  /** Hash of the picture. */
  hash: string;
  width: number;
  height: number;
  who: string | null;
  at: string | null;
  why: string | null;
  /** The branch or commit. */
  name: string;
};

/** What a merge has left in conflict; null for a side that has no baseline. */
export type ConflictSides = Record<'base' | 'ours' | 'theirs', ConflictSide | null>;

/** A capture of which a merge has left several baselines, of which somebody has to choose one. */
export type Conflicting = { conflict: ConflictSides };

/** Finds the baseline of a capture, or null when nothing has been approved for it. */
export type BaselineOf = (
  component: string,
  look: string,
  environment: string,
  capture: string,
) => Baseline | Unreadable | Conflicting | null;

/** One text for a key, as a name in maps. */
export const keyText = ({ component, look, environment, capture }: CaptureKey): string =>
  JSON.stringify([component, look, environment, capture]);
