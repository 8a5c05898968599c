/** What ends a page's work before it could report, and where the work stood. */
import { setTimeout as delay } from 'node:timers/promises';
import { messageOf, problem, type Problem } from '../core/problem/problem.ts';
import { doing, type Trace } from '../core/timeline/trace.ts';
import { type EngineWindow, LostError } from '../engine/engine.ts';

/** Something ended the page before it could report. */
export class Cut extends Error {
  readonly problem: Problem;
  constructor(wrong: Problem) {
    super(wrong.message);
    this.problem = wrong;
  }
}

/** What an error that ended a page's work is to a person. */
export function explain(error: unknown): Problem {
  if (error instanceof Cut) return error.problem;
  if (error instanceof LostError)
    return error.what === 'silent'
      ? problem('page-silent', { limit: error.message })
      : problem(error.what === 'window' ? 'window-closed' : 'page-crashed');
  const text = messageOf(error);
  if (/context was destroyed|navigated|Cannot find context|Promise was collected/i.test(text))
    return problem('page-left');
  return problem('internal', { error: text });
}

/** How long a page that runs no script takes to answer at most, in milliseconds, on a busy machine. */
const answerLimit = 1000;

/**
 * Where a look stands that did not end within its `limit`: in a script that runs on and on, or waiting behind one of
 * its steps. The error it was ended by, or a better one, and the stack of that place.
 */
export async function whereItStands(
  error: unknown,
  trace: Trace,
  limit: number,
  window: EngineWindow | null,
): Promise<{ error: unknown; stack: string | null }> {
  if (!(error instanceof Cut) || error.problem.code !== 'look-endless') return { error, stack: null };
  // A page that answers runs nothing on and on.
  const answer = window?.evaluate('true').catch(() => false);
  const isFree = await Promise.race([answer, delay(answerLimit, false)]);
  const stack = isFree ? null : ((await window?.where().catch(() => null)) ?? null);
  if (stack !== null) return { error, stack };
  const asked = trace.marks.filter(
    ({ lane, took, title }) => lane === 'network' && took === null && !/ → /.test(title),
  );
  const what = asked.length > 0 ? `the reply to ${asked[0]!.title}` : 'something that did not come';
  return {
    error: new Cut(problem('look-waits', { doing: doing(trace), limit, what })),
    stack: trace.stacks.findLast((one) => one !== undefined) ?? null,
  };
}
