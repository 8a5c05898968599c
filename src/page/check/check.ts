/** Carries out checks: each is tried until it holds, or says at the end what was there instead. */
import { fail } from '../../core/problem/problem.ts';
import type { Step } from '../../core/timeline/timeline.ts';
import type { Check } from '../../language/command.ts';
import { checkInWords } from '../../language/words.ts';
import { retry } from '../act/retry.ts';
import { patience } from '../host/settings.ts';
import type { Recording } from '../record/recording.ts';
import { step } from '../record/step.ts';
import { findInCalls } from './calls.ts';
import { findAtTarget } from './target.ts';
import { findInValue } from './value.ts';

/** What was there instead, one thing a line; null when the check holds. */
export type Finding = string[] | null;

function look(check: Check, current: Step, recording: Recording): Finding | Promise<Finding> {
  switch (check.of) {
    case 'target':
      return findAtTarget(check.target, check.claim, current, recording);
    case 'calls':
      return findInCalls(check.subject, check.claim);
    case 'value':
      return findInValue(check.value, check.claim);
    case 'no spy':
      return fail('not-a-spy');
  }
}

/** Carries out a check as one step of the look that runs. */
export function ensured(check: Check): Promise<void> {
  const statement = checkInWords(check);
  return step('check', `ensure ${statement}`, (current, recording) => {
    if (check.of === 'no spy') fail('not-a-spy');
    return retry(current, recording, async () => {
      const found = await look(check, current, recording);
      if (found) fail('check-failed', { check: statement, patience: patience() }, { found });
    });
  });
}
