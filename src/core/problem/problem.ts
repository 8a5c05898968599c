/**
 * Problems: what went wrong, ready to be shown. Errors that cross a boundary (page → host, service → client) travel
 * as these.
 */
import { errorInWords } from '../value/show.ts';
import { catalogue, type ProblemCode } from './catalogue.ts';
import type { Details } from './entry.ts';
import { unbuiltPackage } from './unbuilt.ts';

export type { ProblemCode } from './catalogue.ts';

export type Problem = {
  code: ProblemCode;
  message: string;
  /** What to do about it. */
  remedy: string;
  /** What was there instead, one thing a line. */
  found?: string[];
  /** The lines of source around the place, with a pointer to it. */
  frame?: string;
  /** `file:line:column` of the place. */
  place?: string;
  /** The look that it is about, of a file that cannot be used for it; where that is written becomes the place. */
  look?: string;
};

type More = Pick<Problem, 'found' | 'frame' | 'place'>;

/** Fills in a catalogue entry. */
export function problem(code: ProblemCode, details: Details = {}, more: More = {}): Problem {
  const { message, remedy } = catalogue[code];
  // Targets are described in lower case, and often come first; what others say of an error seldom ends like a sentence.
  const sentence = message(details)
    .replace(/^(the|what|it) /, (word) => word[0]!.toUpperCase() + word.slice(1))
    .replace(/[\p{L}\p{N}”"'`)\]]$/u, '$&.');
  const way = typeof remedy === 'string' ? remedy : (remedy as (d: Details) => string)(details);
  return { code, message: sentence, remedy: way, ...more };
}

/** A problem on its way to whoever can tell a person about it. */
export class ProblemError extends Error {
  readonly problem: Problem;
  constructor(value: Problem) {
    super(value.message);
    this.name = 'ProblemError';
    this.problem = value;
  }
}

/** Throws a catalogue entry. */
export function fail(code: ProblemCode, details: Details = {}, more: More = {}): never {
  throw new ProblemError(problem(code, details, more));
}

/** What an error says: its message, or the thing thrown in one line. */
export const messageOf = (error: unknown): string =>
  error instanceof Error ? error.message || error.name : errorInWords(error);

/** Any thrown thing as a problem: ours as it is, everything else as `code`, by default `internal`. */
export function toProblem(error: unknown, code: ProblemCode = 'internal', details: Details = {}): Problem {
  const name = code === 'internal' ? unbuiltPackage(error) : null;
  if (name !== null) return problem('package-unbuilt', { name });
  return error instanceof ProblemError ? error.problem : problem(code, { error: messageOf(error), ...details });
}
