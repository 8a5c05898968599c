/**
 * Everything that can go wrong and be told to a person: each entry has a code, a message in plain words and a way
 * out.
 */
import type { Entry } from './entry.ts';
import { lookFiles } from './lookFileProblems.ts';
import { projectProblems } from './projectProblems.ts';
import { steps } from './stepProblems.ts';

export const catalogue = {
  ...steps,
  ...lookFiles,
  ...projectProblems,
} satisfies Record<string, Entry>;

export type ProblemCode = keyof typeof catalogue;

/** Codes of problems that concern a step or the running of one look. */
export const stepCodes: readonly string[] = Object.keys(steps);
/** Codes of problems with a look file. */
export const lookFileCodes: readonly string[] = Object.keys(lookFiles);
