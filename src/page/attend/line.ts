/** Trying lines on the page of an attended look: as steps of a side branch, right where the script stands. */
import type { TriedLine } from '../../core/sitting/sitting.ts';
import { problem, type Problem, ProblemError } from '../../core/problem/problem.ts';
import { errorInWords, show } from '../../core/value/show.ts';
import * as language from '../../language/index.ts';
import { failUnsaid, forgetBegun } from '../check/begun.ts';
import { recordingNow } from '../record/recording.ts';
import { StepFailed } from '../record/stepFailed.ts';
import { failForsaken } from '../record/waited.ts';
import { contextNow, setTrying } from './attend.ts';

/** Everything that a line can name. */
export const scopeOf = (): Record<string, unknown> => ({ ...language, ...contextNow() });

/** What a line came to, without the line itself. */
export type Tried = Omit<TriedLine, 'text'>;

function wrongWith(error: unknown): Problem {
  if (error instanceof StepFailed || error instanceof ProblemError) return error.problem;
  const said = errorInWords(error);
  const unknown = /^(?:ReferenceError: )?(\w+) is not defined/.exec(said)?.[1];
  const hint = `${unknown} is not known here. Names of the look file are not: use props.${unknown}, or write it out.`;
  return problem('line-wrong', { error: unknown ? hint : said });
}

/** Runs a line, which is given everything that it can name. */
export async function tryLine(line: (scope: Record<string, unknown>) => Promise<unknown>): Promise<Tried> {
  const recording = recordingNow();
  if (!recording) return { value: null, problem: problem('sitting-gone', { why: 'its look has ended.' }), steps: 0 };
  const before = recording.count;
  const steps = (): number => recording.count - before;
  const wasInScript = recording.inScript;
  recording.inScript = false;
  setTrying(true);
  forgetBegun();
  try {
    const value = await line(scopeOf());
    failUnsaid();
    failForsaken(recording, true);
    return { value: value === undefined ? null : show(value), problem: null, steps: steps() };
  } catch (error) {
    return { value: null, problem: wrongWith(error), steps: steps() };
  } finally {
    setTrying(false);
    recording.inScript = wasInScript;
    recording.moment();
    recording.send();
  }
}
