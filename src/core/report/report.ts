/** What reports are made of: a run with its results, as somebody who has to act on them needs it. */
import { type LookName, lookTitle } from '../look/look.ts';
import type { ResultSummary, RunSummary } from '../run/run.ts';
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
};

/** A timeline with the result that it is of. */
export type Recorded = { result: ResultSummary; timeline: Timeline };

/** True for a result that makes its run fail. */
export const isWrong = ({ verdict }: ResultSummary, isStrict: boolean): boolean =>
  verdict === 'failed' || verdict === 'broken' || verdict === 'changed' || (verdict === 'new' && isStrict);

/** What is wrong with a result, in one line. */
export function reasonOf({ problem, verdict, captures }: ResultSummary): string {
  if (problem) return problem.message.split('\n')[0]!;
  const names = captures.filter(({ state }) => state.kind !== 'same').map(({ name }) => name);
  const what = names.length === 1 && names[0] === 'end' ? 'Its picture' : `The captures ${names.join(', ')}`;
  if (verdict === 'new') return `${what} ${names.length > 1 ? 'have' : 'has'} no baseline yet.`;
  return `${what} ${names.length > 1 ? 'differ' : 'differs'} from what was approved.`;
}

/** Where a result went wrong, as `file:line`; the look file where no line is known. */
export function placeOf({ problem, file }: ResultSummary): { file: string; line: number | null } {
  const found = /^(.*?):(\d+)(?::\d+)?$/.exec(problem?.place ?? '');
  return found ? { file: found[1]!, line: Number(found[2]) } : { file, line: null };
}

/** A result's look and environment, for people. */
export const titleOf = (result: LookName & { environment: string }): string =>
  `${lookTitle(result.component, result.look)}, ${result.environment}`;
