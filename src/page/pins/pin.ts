/** A pin holds one thing still that would make two runs of a look differ, and takes back what a look did with it. */
import type { LookRequest } from '../../core/wire/wire.ts';

/** Tells what a look did that its author should know. */
export type Report = (level: 'warning' | 'error', text: string) => void;

export type Pin = {
  /** Puts the pin in place, once, before anything of the project is evaluated. */
  install(): void;
  /** A look begins: everything is where it is for every look. */
  begin?(request: LookRequest, report: Report): void;
  /** Everything before the look file has been evaluated: what is there now belongs to every look of the document. */
  settle?(): void;
  /** A look file is about to be evaluated: everything is where it is for every file. */
  evaluate?(): void;
  /**
   * True when something was done since `settle` that outlives every look and is never taken back: the document is none
   * for other look files.
   */
  isMarked?(): boolean;
  /**
   * A look has ended: takes back what it did. What cannot be taken back is returned in words; the document is replaced
   * then.
   */
  end?(): string[];
};
