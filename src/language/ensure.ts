/** Checks: retried until they hold, or their patience ends with a word on what was there instead. */
import { type Answer, isAnswer } from './answer.ts';
import type { CallClaim, TargetClaim, ValueClaim } from './command.ts';
import { portOf } from './port.ts';
import { isSpy, type Spy } from './spy.ts';
import { isTarget, type Name, type Target } from './target.ts';

export type TargetChecks = {
  /** Exactly one element matches, and a person can see it. */
  isVisible(): Promise<void>;
  /** Nothing matches, or nothing that can be seen. */
  isAbsent(): Promise<void>;
  /** Its text (or a field's value) is this, white space folded; a pattern may match a part. */
  reads(text: Name): Promise<void>;
  /** A field's current value. */
  hasValue(value: Name | number): Promise<void>;
  isDisabled(): Promise<void>;
  isEnabled(): Promise<void>;
  isChecked(): Promise<void>;
  isUnchecked(): Promise<void>;
  isFocused(): Promise<void>;
  /** The attribute is there, and has this value when one is given. */
  hasAttribute(name: string, value?: Name): Promise<void>;
  /** So many elements match. */
  counts(n: number): Promise<void>;
};

export type CallChecks = {
  /** It was called this often. */
  calls(n: number): Promise<void>;
  /** It was called at least once. */
  wasCalled(): Promise<void>;
  /** One of its calls had exactly these arguments; for an answer: this JSON body. */
  wasCalledWith(...args: unknown[]): Promise<void>;
};

export type ValueChecks = {
  /** Deeply equal to this: what a person would call the same value. */
  equals(value: unknown): Promise<void>;
  /** A text that matches the pattern. */
  matches(pattern: RegExp): Promise<void>;
};

function targetChecks(target: Target): TargetChecks {
  const check = (claim: TargetClaim): Promise<void> => portOf('ensure').check({ of: 'target', target, claim });
  return {
    isVisible: () => check({ is: 'visible' }),
    isAbsent: () => check({ is: 'absent' }),
    reads: (text) => check({ is: 'reads', text }),
    hasValue: (value) => check({ is: 'value', value }),
    isDisabled: () => check({ is: 'disabled' }),
    isEnabled: () => check({ is: 'enabled' }),
    isChecked: () => check({ is: 'checked' }),
    isUnchecked: () => check({ is: 'unchecked' }),
    isFocused: () => check({ is: 'focused' }),
    hasAttribute: (name, value) => check({ is: 'attribute', name, value }),
    counts: (n) => check({ is: 'counted', n }),
  };
}

function callChecks(subject: Spy | Answer | null): CallChecks {
  const check = (claim: CallClaim): Promise<void> =>
    portOf('ensure').check(subject === null ? { of: 'no spy' } : { of: 'calls', subject, claim });
  return {
    calls: (n) => check({ is: 'called times', n }),
    wasCalled: () => check({ is: 'called' }),
    wasCalledWith: (...args) => check({ is: 'called with', args }),
  };
}

function valueChecks(value: unknown): ValueChecks {
  const check = (claim: ValueClaim): Promise<void> => portOf('ensure').check({ of: 'value', value, claim });
  return { equals: (to) => check({ is: 'equal', to }), matches: (pattern) => check({ is: 'matching', pattern }) };
}

// biome-ignore lint/suspicious/noExplicitAny: a prop of any function type may hold a spy
type Callable = (...args: any[]) => any;

/**
 * Begins a check of a target, a spy (or a prop that was given one), an answer, or a value; a function without a spy is
 * asked again at every try.
 */
export function ensure(subject: Target): TargetChecks;
export function ensure(subject: Spy | Answer): CallChecks;
export function ensure(subject: Callable | null | undefined): CallChecks & ValueChecks;
export function ensure(subject: unknown): ValueChecks;
export function ensure(subject: unknown): unknown {
  if (isTarget(subject)) return targetChecks(subject);
  if (isSpy(subject) || isAnswer(subject)) return callChecks(subject);
  return { ...valueChecks(subject), ...callChecks(null) };
}
