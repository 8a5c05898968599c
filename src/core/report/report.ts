/** What reports are made of: a run with its results, as somebody who has to act on them needs it. */
import { type LookName, lookTitle } from '../look/look.ts';
import type { ResultSummary, RunSummary } from '../run/run.ts';
import { hasFailed } from '../run/verdict.ts';
import type { Timeline } from '../timeline/timeline.ts';

export type ReportData = {
  project: string;
  version: string;
  run: RunSummary;
  results: readonly ResultSummary[];
  /** Something that is new counts as wrong. */
  isStrict: boolean;
  /** The address of the console's page for a result. */
  linkOf(result: ResultSummary): string;
  /** The address of a picture; null in reports of a site, whose pages show it. */
  pictureOf(hash: string): string | null;
  /** The line on which a look is written in its file; null when that is not known. */
  lineOf(look: Pick<ResultSummary, 'file' | 'look'>): number | null;
};

/** A timeline with the result that it is of. */
export type Recorded = { result: ResultSummary; timeline: Timeline };

/** True for a result that makes its run fail. */
export const isWrong = (result: ResultSummary, isStrict: boolean): boolean =>
  hasFailed(result) || result.verdict === 'changed' || (result.verdict === 'new' && isStrict);

/** What is wrong with a result, in one line. */
export function reasonOf({ problem, verdict, captures }: ResultSummary): string {
  if (problem) return problem.message.split('\n')[0]!;
  const names = captures.filter(({ state }) => state.kind !== 'same').map(({ name }) => name);
  const what = names.length === 1 && names[0] === 'end' ? 'Its picture' : `The captures ${names.join(', ')}`;
  if (verdict === 'new') return `${what} ${names.length > 1 ? 'have' : 'has'} no baseline yet.`;
  return `${what} ${names.length > 1 ? 'differ' : 'differs'} from what was approved.`;
}

export type ReportPlace = { file: string; line: number | null; column?: number };

/** Where a result went wrong; the look file where no line is known. */
export function placeOf({ problem, file }: ResultSummary): ReportPlace {
  const found = /^(.*?):(\d+)(?::(\d+))?$/.exec(problem?.place ?? '');
  if (!found) return { file, line: null };
  return { file: found[1]!, line: Number(found[2]), ...(found[3] && { column: Number(found[3]) }) };
}

/** Where somebody begins to read about a result: where it went wrong, or where its look is written. */
export function placeIn({ lineOf }: ReportData, result: ResultSummary): ReportPlace {
  const place = placeOf(result);
  return place.line === null ? { ...place, line: lineOf(result) } : place;
}

/** A result's look and environment, for people. */
export const titleOf = (result: LookName & { environment: string }): string =>
  `${lookTitle(result.component, result.look)}, ${result.environment}`;
