/** Checks: retried until they hold, or their patience ends with a word on what was there instead. */
import { fail, problem, ProblemError } from '../core/problem.ts';
import type { Step } from '../core/timeline.ts';
import { boxOf, isVisible, only, retry, whyInvisible } from './actionable.ts';
import { type Answer, isAnswer } from './answers.ts';
import { equal } from './equal.ts';
import { findAll, matchesName } from './find.ts';
import { describe, textOf } from './names.ts';
import { type Recording, step } from './record.ts';
import { patience } from './settings.ts';
import { show } from './show.ts';
import { isSpy, type Spy, spyName } from './spy.ts';
import { isTarget, type Name, type Target } from './target.ts';

/** Throws unless it holds; `found` says what was there instead. */
type Attempt = (current: Step, recording: Recording) => void;

function check(statement: string, attempt: Attempt): Promise<void> {
  return step('check', `ensure ${statement}`, (current, recording) => retry(current, () => attempt(current, recording)));
}

function wrong(statement: string, found: string[]): never {
  throw new ProblemError(problem('check-failed', { check: statement, patience: patience() }, { found }));
}

const times = (n: number): string => `${n} ${n === 1 ? 'time' : 'times'}`;

const quoted = (text: Name): string => (typeof text === 'string' ? `“${text}”` : String(text));

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

function targetChecks(target: Target): TargetChecks {
  /** A check of the one element that matches. */
  const one = (statement: string, holds: (element: Element) => true | string): Promise<void> =>
    check(`${target} ${statement}`, (current, recording) => {
      current.target = { node: null, box: null, description: String(target) };
      const element = only(target, patience());
      current.target = { node: recording.idOf(element), box: boxOf(element), description: String(target) };
      const result = holds(element);
      if (result !== true) wrong(`${target} ${statement}`, [result]);
    });
  const valueIn = (element: Element): string | null =>
    element instanceof HTMLInputElement || element instanceof HTMLTextAreaElement || element instanceof HTMLSelectElement ? element.value : null;
  return {
    isVisible: () =>
      one('is visible', (element) => {
        const why = whyInvisible(element);
        return why ? `it is there, but ${why}` : true;
      }),
    isAbsent: () =>
      check(`${target} is absent`, (current, recording) => {
        const seen = findAll(target).filter(isVisible);
        const first = seen[0];
        current.target = { node: first ? recording.idOf(first) : null, box: first ? boxOf(first) : null, description: String(target) };
        if (first)
          wrong(
            `${target} is absent`,
            seen.slice(0, 6).map((element) => `still there: ${describe(element)}`),
          );
      }),
    reads: (text) =>
      one(`reads ${quoted(text)}`, (element) => {
        const actual = valueIn(element) ?? textOf(element);
        return matchesName(actual, text) || `it reads “${actual}”`;
      }),
    hasValue: (value) =>
      one(`has the value ${typeof value === 'number' ? value : quoted(value)}`, (element) => {
        const actual = valueIn(element);
        if (actual === null) return `${describe(element)} has no value: it is not a form field`;
        return (
          (typeof value === 'number' ? actual !== '' && Number(actual) === value : typeof value === 'string' ? actual === value : value.test(actual)) ||
          `its value is “${actual}”`
        );
      }),
    isDisabled: () => one('is disabled', (element) => element.matches(':disabled') || element.closest('[aria-disabled="true"]') !== null || 'it is enabled'),
    isEnabled: () => one('is enabled', (element) => (!element.matches(':disabled') && element.closest('[aria-disabled="true"]') === null) || 'it is disabled'),
    isChecked: () => one('is checked', (element) => isChecked(element) || 'it is not checked'),
    isUnchecked: () => one('is not checked', (element) => !isChecked(element) || 'it is checked'),
    isFocused: () =>
      one('has the focus', (element) => {
        const focused = (element.getRootNode() as Document | ShadowRoot).activeElement;
        return focused === element || `the focus is on ${focused && focused !== document.body ? describe(focused) : 'nothing'}`;
      }),
    hasAttribute: (name, value) =>
      one(`has the attribute ${name}${value === undefined ? '' : ` ${quoted(value)}`}`, (element) => {
        const actual = element.getAttribute(name);
        if (actual === null) return `it has no ${name}; it has: ${element.getAttributeNames().join(', ') || 'no attributes'}`;
        return value === undefined || (typeof value === 'string' ? actual === value : value.test(actual)) || `${name} is “${actual}”`;
      }),
    counts: (n) =>
      check(`${target} is there ${times(n)}`, () => {
        const found = findAll(target);
        if (found.length !== n) wrong(`${target} is there ${times(n)}`, [`${found.length} are there`, ...found.slice(0, 6).map(describe)]);
      }),
  };
}

const isChecked = (element: Element): boolean => (element instanceof HTMLInputElement ? element.checked : element.getAttribute('aria-checked') === 'true');

export type CallChecks = {
  /** It was called this often. */
  calls(n: number): Promise<void>;
  /** It was called at least once. */
  wasCalled(): Promise<void>;
  /** One of its calls had exactly these arguments; for an answer: this JSON body. */
  wasCalledWith(...args: unknown[]): Promise<void>;
};

function callChecks(name: string, calls: () => unknown[][]): CallChecks {
  const list = (): string[] => {
    const all = calls();
    return all.length === 0 ? ['it was not called'] : all.slice(-6).map((args) => `it was called with (${args.map(show).join(', ')})`);
  };
  const called = (statement: string, holds: () => boolean): Promise<void> =>
    check(`${name} ${statement}`, () => void (holds() || wrong(`${name} ${statement}`, list())));
  return {
    calls: (n) => called(`was called ${times(n)}`, () => calls().length === n),
    wasCalled: () => called('was called', () => calls().length > 0),
    wasCalledWith: (...args) => called(`was called with (${args.map(show).join(', ')})`, () => calls().some((one) => equal(one, args))),
  };
}

export type ValueChecks = {
  /** Deeply equal to this. */
  equals(value: unknown): Promise<void>;
  /** A text that matches the pattern. */
  matches(pattern: RegExp): Promise<void>;
};

function valueChecks(value: unknown): ValueChecks {
  const read = (): unknown => (typeof value === 'function' ? (value as () => unknown)() : value);
  return {
    equals: (wanted) =>
      check(`the value equals ${show(wanted)}`, () => void (equal(read(), wanted) || wrong(`the value equals ${show(wanted)}`, [`it is ${show(read())}`]))),
    matches: (pattern) =>
      check(`the value matches ${pattern}`, () => void (pattern.test(String(read())) || wrong(`the value matches ${pattern}`, [`it is ${show(read())}`]))),
  };
}

// biome-ignore lint/suspicious/noExplicitAny: a prop of any function type may hold a spy
type Callable = (...args: any[]) => any;

/** Begins a check of a target, a spy (or a prop that was given one), an answer, or a value; a function without a spy is asked again at every try. */
export function ensure(subject: Target): TargetChecks;
export function ensure(subject: Spy | Answer): CallChecks;
export function ensure(subject: Callable | null | undefined): CallChecks & ValueChecks;
export function ensure(subject: unknown): ValueChecks;
export function ensure(subject: unknown): unknown {
  if (isTarget(subject)) return targetChecks(subject);
  if (isSpy(subject)) return callChecks(spyName(subject), () => subject.calls);
  if (isAnswer(subject))
    return callChecks(subject.route, () => subject.calls.map((call) => (call.json === undefined ? (call.body === null ? [] : [call.body]) : [call.json])));
  const notSpy = (): Promise<void> => step('check', 'ensure a spy was called', () => fail('not-a-spy'));
  return { ...valueChecks(subject), calls: notSpy, wasCalled: notSpy, wasCalledWith: notSpy };
}
