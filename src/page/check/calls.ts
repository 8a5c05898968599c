/** What is said of the calls of a spy, or of the requests that an answer was given. */
import { equal } from '../../core/value/equal.ts';
import { show } from '../../core/value/show.ts';
import type { Answer } from '../../language/answer.ts';
import type { CallClaim } from '../../language/command.ts';
import { isSpy, type Spy } from '../../language/spy.ts';
import type { Finding } from './check.ts';
import { contentsOf, unlike } from './value.ts';

/** The arguments of each call; a request counts as a call with its body. */
function callsOf(subject: Spy | Answer): unknown[][] {
  if (isSpy(subject)) return subject.calls;
  return subject.calls.map(({ json, body }) => (json !== undefined ? [json] : body !== null ? [body] : []));
}

export async function findInCalls(subject: Spy | Answer, claim: CallClaim): Promise<Finding> {
  const calls = callsOf(subject);
  const holds =
    claim.is === 'called'
      ? calls.length > 0
      : claim.is === 'called times'
        ? calls.length === claim.n
        : await anyEqual(calls, claim.args);
  if (holds) return null;
  if (calls.length === 0) return ['it was not called'];
  const wanted = claim.is === 'called with' ? claim.args : null;
  return calls.slice(-6).map((args) => {
    const difference = wanted && unlike([...args], [...wanted]);
    return `it was called with (${args.map(show).join(', ')})${difference ?? ''}`;
  });
}

async function anyEqual(calls: readonly unknown[][], wanted: readonly unknown[]): Promise<boolean> {
  const contents = await contentsOf([calls, wanted]);
  return calls.some((args) => equal([...args], [...wanted], contents));
}
