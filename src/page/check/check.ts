/** Carries out checks: each is tried until it holds, or says at the end what was there instead. */
import { fail } from '../../core/problem/problem.ts';
import type { Step } from '../../core/timeline/timeline.ts';
import { show } from '../../core/value/show.ts';
import type { Check } from '../../language/command.ts';
import { checkInWords, claimInWords } from '../../language/words.ts';
import { isSpy } from '../../language/spy.ts';
import { retry } from '../act/retry.ts';
import { contextNow } from '../attend/attend.ts';
import { patience } from '../host/settings.ts';
import type { Recording } from '../record/recording.ts';
import { step } from '../record/step.ts';
import { findInCalls } from './calls.ts';
import { heldAtOnce, heldLater } from './doubt.ts';
import { findAtTarget } from './target.ts';
import { findInValue } from './value.ts';

/** What was there instead, one thing a line; null when the check holds. */
export type Finding = string[] | null;

function look(check: Check, current: Step, recording: Recording): Finding | Promise<Finding> {
  switch (check.of) {
    case 'target':
      return findAtTarget({ ...check, words: claimInWords(check) }, current, recording);
    case 'calls':
      return findInCalls(check.subject, check.claim, check.isNot);
    case 'value':
      return findInValue(check.source, check.claim, check.isNot);
    case 'no spy':
      return noSpy(check.given);
  }
}

/** What was to be a spy is none; where it is nothing at all, there are others. */
function noSpy(given: string): never {
  const { props = {} } = contextNow() as { props?: Record<string, unknown> };
  const spies = Object.entries(props).filter(([, value]) => isSpy(value));
  const found = given === 'undefined' ? spies.map(([name]) => `props.${name}`) : [];
  return fail('not-a-spy', { given }, found.length > 0 ? { found } : {});
}

/** How long a check is retried. @throws ProblemError `bad-step` for what is no time */
function patienceOf(check: Check): number {
  const own: unknown = check.patience;
  if (own === null) return patience();
  if (typeof own === 'number' && own >= 0 && own <= 600_000) return own;
  return fail('bad-step', {
    what: `A check was given the patience ${show(own)}.`,
    remedy: 'Use a number of milliseconds from 0 to 600000: ensure(target, { patience: 5000 })',
  });
}

/** What a check saw last before it held is kept with its step; so many lines of it. */
const mostSeen = 20;

async function carryOut(check: Check, statement: string, current: Step, recording: Recording): Promise<void> {
  if (check.of === 'no spy') noSpy(check.given);
  const limit = patienceOf(check);
  await retry(
    current,
    recording,
    async () => {
      const found = await look(check, current, recording);
      if (!found) return;
      current.saw = found.slice(0, mostSeen);
      fail('check-failed', { check: statement, patience: limit }, { found });
    },
    limit,
  );
  if (current.tries !== 1) return heldLater();
  await heldAtOnce(check, current, async (calls) =>
    check.of === 'calls' ? (await findInCalls(check.subject, check.claim, check.isNot, calls)) === null : false,
  );
}

/** Carries out a check as one step of the look that runs. */
export function ensured(check: Check): Promise<void> {
  const statement = checkInWords(check);
  return step('check', `ensure ${statement}`, (current, recording) => carryOut(check, statement, current, recording));
}
