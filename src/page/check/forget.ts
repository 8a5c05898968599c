/** Forgets the calls that a spy or an answer has had. */
import { fail } from '../../core/problem/problem.ts';
import { show } from '../../core/value/show.ts';
import { type Answer, isAnswer } from '../../language/answer.ts';
import { isSpy, type Spy, spyName } from '../../language/spy.ts';

/** What a spy or an answer is called; what is neither is told by the step. */
export const subjectInWords = (subject: unknown): string =>
  isSpy(subject) ? spyName(subject) : isAnswer(subject) ? subject.route : 'a spy';

/** @throws ProblemError `not-a-spy` */
export function forgetCalls(subject: Spy | Answer): void {
  if (!isSpy(subject) && !isAnswer(subject)) fail('not-a-spy', { call: 'reset(…)', given: show(subject) });
  subject.calls.length = 0;
}
