/** Checks: retried until they hold, or their patience ends with a word on what was there instead. */
import type { Anything } from './anything.ts';
import { type Answer, isAnswer, type Received } from './answer.ts';
import type { Asked, CallClaim, CheckManner, TargetClaim, ValueClaim, ValueSource } from './command.ts';
import { fail } from '../core/problem/problem.ts';
import { show } from '../core/value/show.ts';
import { meantBy } from './meant.ts';
import * as given from './given.ts';
import { withKnown } from './known.ts';
import { portIfAny, portOf } from './port.ts';
import { isSpy, type Spy, spyName } from './spy.ts';
import { isTarget, type Name, type Target } from './target.ts';

/** Checks, and under `not` the same ones negated: `ensure(target).not.reads('Free')`. */
type Negatable<Checks> = Checks & { readonly not: Checks };

/** What a check may be given beside what it is about. */
export type CheckOptions = {
  /** How long it is retried, in milliseconds of the look's own time. */
  patience?: number;
};

/** What can be said of the elements that a target describes. */
export type TargetChecks = {
  /** Exactly one element matches, and a person can see it. */
  isVisible(): Promise<void>;
  /** Nothing matches, or nothing that can be seen. */
  isAbsent(): Promise<void>;
  /** Its text (or a field's value) is this, white space folded; a pattern may match a part. */
  reads(text: Name): Promise<void>;
  /** A field's current value; of one made of other elements, `aria-valuenow` or the text in it. */
  hasValue(value: Name | number): Promise<void>;
  /** It cannot be used now: `disabled`, in a disabled group of fields, or `aria-disabled`. */
  isDisabled(): Promise<void>;
  /** It can be used now. */
  isEnabled(): Promise<void>;
  /** A box, a radio or a switch that is ticked or on, or a button that is pressed and stays so. */
  isChecked(): Promise<void>;
  /** A box, a radio or a switch that is not ticked or on, or a button that is not pressed. */
  isUnchecked(): Promise<void>;
  /** It has the focus. */
  isFocused(): Promise<void>;
  /** The attribute is there, and has this value when one is given. */
  hasAttribute(name: string, value?: Name): Promise<void>;
  /** The computed style: `hasStyle('color', 'tomato')`. Colours in any notation, lengths in any unit, `var(--…)`. */
  hasStyle(property: string, value: Name | number): Promise<void>;
  /** The accessible name. */
  hasName(name: Name): Promise<void>;
  /** The accessible description. */
  hasDescription(text: Name): Promise<void>;
  /** The ARIA role, its own or the one that its element has. */
  hasRole(role: string): Promise<void>;
  /** So many elements match. */
  counts(n: number): Promise<void>;
  /** All of it lies inside another target, or can be seen in the viewport. */
  isWithin(what: Target | 'viewport'): Promise<void>;
  /** It comes before another target in the document. */
  comesBefore(what: Target): Promise<void>;
};

/** A value that may say less than there is: some entries of records, and patterns for texts. */
export type Loose<T> = T extends string
  ? T | RegExp
  : T extends (...args: Anything[]) => unknown
    ? T
    : T extends object
      ? { [K in keyof T]?: Loose<T[K]> }
      : T;

/** The arguments of a call, each as far as it is said; components may give more than a prop's type says. */
type LooseCall<Args extends readonly unknown[]> = [...Partial<{ [K in keyof Args]: Loose<Args[K]> }>, ...unknown[]];

/** What can be said of a spy, or of a prop that was given one. */
export type CallChecks<Args extends readonly unknown[] = readonly unknown[]> = {
  /** It was called this often. */
  calls(n: number): Promise<void>;
  /** It was called at least once. */
  wasCalled(): Promise<void>;
  /** It was never called so far. */
  wasNotCalled(): Promise<void>;
  /** One of its calls had these arguments: the first ones, and of records the entries that are named. */
  wasCalledWith(...args: LooseCall<Args>): Promise<void>;
  /** All of its calls, in their order, each by its arguments: `callsWere([['Alba'], ['Maestro']])`. */
  callsWere(calls: readonly LooseCall<Args>[]): Promise<void>;
  /** The arguments of one call, counted from 0, or from the end with -1. */
  call(n: number): Negatable<ValueChecks>;
};

/** What can be said of an answer: of the requests that it was given. */
export type AnswerChecks = {
  /** It was asked at least once. */
  wasAsked(): Promise<void>;
  /** It was never asked so far. */
  wasNotAsked(): Promise<void>;
  /** One of its requests had these; each may be left out, and of records the entries that are named count. */
  wasAskedWith(what: Asked): Promise<void>;
  /** It was asked this often. */
  calls(n: number): Promise<void>;
  /** All of its requests, in their order. */
  callsWere(requests: readonly Asked[]): Promise<void>;
  /** One request, counted from 0, or from the end with -1. */
  call(n: number): Negatable<ValueChecks<Received>>;
};

/** What can be said of any value. */
export type ValueChecks<T = unknown> = {
  /** Deeply equal to this: what a person would call the same value. */
  equals(value: unknown): Promise<void>;
  /** As this says, as far as it goes: a pattern for a text, some entries of a record, at any depth. */
  matches(value: Loose<T> | RegExp): Promise<void>;
};

/** Checks and their negation, made of what carries out a claim in a manner. */
const negatable = <Checks extends object>(
  { patience = null }: { patience?: number | null },
  make: (manner: CheckManner) => Checks,
): Negatable<Checks> => {
  const checks = { ...exact(make({ isNot: false, patience })), not: exact(make({ isNot: true, patience })) };
  return onlyChecks(checks, Object.keys(checks.not));
};

/** Checks that take the arguments of a call, as many as there are. */
const takesAll = 'wasCalledWith';

/** What to write instead of a check that was given more than it looks at. */
function betterWith(name: string, value: unknown): string | undefined {
  if (/^was(Called|Asked)$/.test(name)) return `Use calls(2) for how often, or ${name}With(…) for what with.`;
  if (typeof value === 'object' && value !== null && 'patience' in value)
    return `Give it to ensure: ensure(target, { patience: 5000 }).${name}(…).`;
  return value === false ? `For the opposite, use ensure(…).not.${name}().` : undefined;
}

/** Checks that refuse what they would not look at: `isVisible(false)` would hold where the opposite was meant. */
function exact<Checks extends object>(checks: Checks): Checks {
  const refusing = ([name, check]: [string, Methods[string]]): [string, Methods[string]] => [
    name,
    (...args) => {
      if (name !== takesAll) given.needNoMore(`${name}(…)`, args, check.length, betterWith(name, args[check.length]));
      return check(...args);
    },
  ];
  return Object.fromEntries(Object.entries(checks as Methods).map(refusing)) as Checks;
}

/** Checks that say which there are when another one is asked for. */
function onlyChecks<Checks extends { not: object }>(checks: Checks, names: readonly string[]): Checks {
  const tell = (name: string): never =>
    fail('check-unknown', { check: name, near: meantBy(name, names) ?? '', known: names.join(', ') });
  return withKnown({ ...checks, not: withKnown(checks.not, tell) }, tell);
}

const nameFor = (check: string, text: Name): Name => {
  given.need(`${check}(…)`, text, given.name(`${check}('Moored')`));
  return text;
};

const numberFor = (check: string, n: number): number => {
  given.need(`${check}(…)`, n, given.count(`${check}(2)`));
  return n;
};

const valueRule = {
  fits: (value: unknown) => ['string', 'number'].includes(typeof value) || value instanceof RegExp,
  wanted: "a text, a number or a pattern: hasValue('4.2')",
};

const targetChecks = (target: Target, options: CheckOptions): Negatable<TargetChecks> =>
  negatable(options, (manner): TargetChecks => {
    const check = (claim: TargetClaim): Promise<void> =>
      portOf('ensure').check({ of: 'target', target, claim, ...manner });
    return {
      isVisible: () => check({ is: 'visible' }),
      isAbsent: () => check({ is: 'absent' }),
      reads: (text) => check({ is: 'reads', text: nameFor('reads', text) }),
      hasValue(value) {
        given.need('hasValue(…)', value, valueRule);
        return check({ is: 'value', value });
      },
      isDisabled: () => check({ is: 'disabled' }),
      isEnabled: () => check({ is: 'enabled' }),
      isChecked: () => check({ is: 'checked' }),
      isUnchecked: () => check({ is: 'unchecked' }),
      isFocused: () => check({ is: 'focused' }),
      hasAttribute(name, value) {
        given.need('hasAttribute(…)', name, given.text("hasAttribute('aria-invalid', 'true')"));
        if (value !== undefined) given.need('hasAttribute(…)', value, given.name("hasAttribute('rows', '4')"));
        return check({ is: 'attribute', name, value });
      },
      hasStyle(property, value) {
        const example = "hasStyle('color', 'tomato')";
        given.need('hasStyle(…)', property, given.text(example));
        given.need('hasStyle(…)', value, { ...valueRule, wanted: `a text, a number or a pattern: ${example}` });
        return check({ is: 'style', property, value });
      },
      hasName: (text) => check({ is: 'named', text: nameFor('hasName', text) }),
      hasDescription: (text) => check({ is: 'described', text: nameFor('hasDescription', text) }),
      hasRole(role) {
        given.need('hasRole(…)', role, given.text("hasRole('button')"));
        return check({ is: 'role', role });
      },
      counts: (n) => check({ is: 'counted', n: numberFor('counts', n) }),
      isWithin: (what) => check({ is: 'within', what }),
      comesBefore(what) {
        given.need('comesBefore(…)', what, {
          fits: isTarget,
          wanted: "a target: comesBefore(the.row('C-14'))",
        });
        return check({ is: 'before', what });
      },
    };
  });

/** Something that has no calls, shown, where a spy was meant. */
type NoSpy = { given: string };

/** What spies and answers have in common. */
function inTurn(subject: Spy | Answer | NoSpy, options: CheckOptions, manner: CheckManner) {
  const check = (claim: CallClaim): Promise<void> =>
    portOf('ensure').check(
      'given' in subject ? { of: 'no spy', ...subject, ...manner } : { of: 'calls', subject, claim, ...manner },
    );
  return {
    check,
    calls: (n: number) => check({ is: 'called times', n: numberFor('calls', n) }),
    callsWere: (calls: readonly unknown[]) => check({ is: 'called in turn', calls }),
    call(n: number) {
      given.need('call(…)', n, given.whole('call(0) is the first one, call(-1) the last'));
      return valueChecks({ call: n, of: subject as Spy | Answer }, options);
    },
  };
}

const not = (manner: CheckManner): CheckManner => ({ ...manner, isNot: !manner.isNot });

const callChecks = (subject: Spy | NoSpy, options: CheckOptions): Negatable<CallChecks> =>
  negatable(options, (manner): CallChecks => {
    const { check, ...rest } = inTurn(subject, options, manner);
    return {
      ...rest,
      wasCalled: () => check({ is: 'called' }),
      wasNotCalled: () => inTurn(subject, options, not(manner)).check({ is: 'called' }),
      wasCalledWith: (...args) => check({ is: 'called with', args }),
    };
  });

const answerChecks = (subject: Answer, options: CheckOptions): Negatable<AnswerChecks> =>
  negatable(options, (manner): AnswerChecks => {
    const { check, ...rest } = inTurn(subject, options, manner);
    return {
      ...rest,
      wasAsked: () => check({ is: 'called' }),
      wasNotAsked: () => inTurn(subject, options, not(manner)).check({ is: 'called' }),
      wasAskedWith: (what) => check({ is: 'asked with', what }),
    };
  });

const valueChecks = (source: ValueSource, options: CheckOptions): Negatable<ValueChecks> =>
  negatable(options, (manner): ValueChecks => {
    const check = (claim: ValueClaim): Promise<void> =>
      portOf('ensure').check({ of: 'value', source, claim, ...manner });
    return { equals: (to) => check({ is: 'equal', to }), matches: (to) => check({ is: 'matching', to }) };
  });

/** @throws ProblemError `bad-step`, `look-entry` */
const checkOptions = (options: CheckOptions): void =>
  given.needOptions('ensure(…)', options, ['patience'], 'ensure(target, { patience: 5000 })');

type Callable = (...args: Anything[]) => Anything;

type SpyChecks<F extends Callable> = Negatable<CallChecks<Parameters<F>> & ValueChecks<Awaited<ReturnType<F>>>>;

/**
 * Begins a check of a target, a spy (or a prop that was given one), an answer, or a value; a function without a spy is
 * asked again at every try.
 */
function begin(subject: Target, options?: CheckOptions): Negatable<TargetChecks>;
function begin(subject: Answer, options?: CheckOptions): Negatable<AnswerChecks>;
function begin<F extends Callable>(subject: F | null | undefined, options?: CheckOptions): SpyChecks<F>;
function begin<T>(subject: T, options?: CheckOptions): Negatable<ValueChecks<T>>;
function begin(...args: [subject: unknown, options?: CheckOptions]): unknown {
  given.needNoMore('ensure(…)', args, 2);
  const [subject, options = {}] = args;
  checkOptions(options);
  const said = portIfAny()?.begun(subject) ?? (() => {});
  const checks = saying(said, checksOf(subject, options));
  const { not: others, ...misuses } = misused(subject, said);
  const not = (checks as { not: object }).not;
  return onlyChecks({ ...misuses, ...checks, not: { ...others, ...not } }, Object.keys(not));
}

function checksOf(subject: unknown, options: CheckOptions): object {
  if (isTarget(subject)) return targetChecks(subject, options);
  if (isAnswer(subject)) return answerChecks(subject, options);
  if (isSpy(subject)) return callChecks(subject, options);
  const [value, calls] = [valueChecks({ value: subject }, options), callChecks({ given: show(subject) }, options)];
  return { ...calls, ...value, not: { ...calls.not, ...value.not } };
}

type Methods = Record<string, (...args: unknown[]) => unknown>;

/** Checks that tell, when one of them is asked for, that something is said of the subject. */
function saying(said: () => void, checks: object): object {
  const told = (methods: object): object =>
    Object.fromEntries(
      Object.entries(methods as Methods).map(([name, check]) => [
        name,
        name === 'not'
          ? told(check)
          : (...args: unknown[]) => {
              said();
              return check(...args);
            },
      ]),
    );
  return told(checks);
}

/** What each kind of check can be said of, in words. */
const kindsOfChecks: Record<string, readonly string[]> = {
  'a target': Object.keys(targetChecks(null as never, {})).filter((name) => name !== 'not'),
  'a spy': ['wasCalled', 'wasNotCalled', 'wasCalledWith'],
  'an answer': ['wasAsked', 'wasNotAsked', 'wasAskedWith'],
};

/** The names of all checks of a kind of subject. */
export const checkNames = (of: 'target' | 'spy' | 'answer' | 'value'): string[] => {
  const none = null as never;
  const made = { target: targetChecks, spy: callChecks, answer: answerChecks, value: valueChecks }[of](none, {});
  return [...Object.keys(made).filter((name) => name !== 'not'), 'not'];
};

/** What a check was given, in words that fit into a message. */
function inShort(subject: unknown): string {
  if (isTarget(subject)) return String(subject);
  if (isAnswer(subject)) return `the answer to ${subject.route}`;
  if (!isSpy(subject)) return show(subject);
  const name = spyName(subject);
  return name === 'spy' ? 'a spy' : `the spy ${name}`;
}

/** What is checked of an answer as the calls of a spy are, and the other way round. */
function insteadOf(check: string, subject: unknown): { instead?: string } {
  if (!check.startsWith('was')) return {};
  const isWith = check.endsWith('With');
  if (isAnswer(subject))
    return { instead: isWith ? 'wasAskedWith({ body: … })' : `${check.replace('Called', 'Asked')}()` };
  if (isSpy(subject)) return { instead: isWith ? 'wasCalledWith(…)' : `${check.replace('Asked', 'Called')}()` };
  return {};
}

/** Checks of other things than this, which say so. */
function misused(subject: unknown, said: () => void): { not: object } {
  const tell = (name: string, of: string) => (): Promise<void> => {
    said();
    return fail('check-of-other', { check: name, of, given: inShort(subject), ...insteadOf(name, subject) });
  };
  const all = Object.entries(kindsOfChecks).flatMap(([of, names]) => names.map((name) => [name, tell(name, of)]));
  const own = Object.fromEntries(all) as Record<string, unknown>;
  return { ...own, not: own };
}

/** Begins a check of what a function gives, which is asked again at every try. */
function eventually<T>(ask: () => T | Promise<T>, options: CheckOptions = {}): Negatable<ValueChecks<Awaited<T>>> {
  given.need('ensure.eventually(…)', ask, given.body('ensure.eventually(() => sent.length).equals(2)'));
  checkOptions(options);
  return valueChecks({ value: ask }, options) as Negatable<ValueChecks<Awaited<T>>>;
}

/**
 * Begins a check, which is retried until it holds: of a target, of a spy or a prop that was given one, of an answer, of
 * a value. `ensure(…).not` turns it round; `ensure.eventually(() => …)` asks a function again at every try.
 */
export const ensure = Object.assign(begin, { eventually });
