/** Which edits of the source did what was changed. */
import type { Hunk } from './hunks.ts';

/** The commit that brought a hunk; null while it is not committed. */
export type HunkCommit = { id: string; author: string; at: string; summary: string };

export type FoundHunk = Hunk & { commit: HunkCommit | null };

/** What was found for one cause; `key` is the cause's. */
export type FoundEdit = {
  key: string;
  /** Without these the change is gone, which was shown by running without them. */
  proved: FoundHunk[];
  /** The likeliest ones, where nothing could be shown. */
  candidates: FoundHunk[];
  /** Why nothing could be shown; null where it could. */
  note: string | null;
};

/** What was found for a capture, or a look that fails. */
export type FoundEdits = {
  edits: FoundEdit[];
  /** Hunks that were looked through, of files behind the look. */
  hunks: number;
  /** Why there is nothing to look through; null where there is. */
  note: string | null;
};
