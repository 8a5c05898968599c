/** What people call by name: a name that is not there is told with those that are, not as “is not a function”. */
import { fail } from '../core/problem/problem.ts';
import { nearest } from '../core/text/nearest.ts';

/** What may be asked of any value to find out what it is: nobody means a method by it. */
const asked = new Set(['then', 'toJSON', 'nodeType', 'tagName']);

/** True for what somebody means as a method of a value that does not have it. */
const isMeant = (value: object, key: string | symbol): key is string =>
  !(key in value) && typeof key === 'string' && !asked.has(key) && /^[a-z]\w*$/i.test(key);

/**
 * A method that is not there, and whatever is asked of it in turn (`is.visible()`): both tell of it when called. What
 * functions have of their own (`is.length(2)`) is no exception.
 */
const unknown = (tell: () => never): (() => never) =>
  new Proxy(tell, { get: (known, key) => (isMeant({}, key) ? unknown(tell) : Reflect.get(known, key)) });

/**
 * The same value, whose unknown methods are functions that call `tell` with their name, which throws. They throw when
 * they are called, not when they are read: whatever looks at the value may read anything.
 */
export function withKnown<T extends object>(value: T, tell: (name: string) => never): T {
  return new Proxy(value, {
    get: (known, key) => (isMeant(known, key) ? unknown(() => tell(key)) : Reflect.get(known, key)),
  });
}

/**
 * The same value, which says what methods it has when another one is called. `what` is the value in words, such as
 * “A target”; `instead` is what is written in the place of a name, or nothing.
 * @throws ProblemError `method-unknown` when one is called that is not there
 */
export function withMethods<T extends object>(
  value: T,
  what: string,
  methods: readonly (keyof T & string)[],
  instead: (name: string) => string = () => '',
): T {
  return withKnown(value, (name) =>
    fail('method-unknown', {
      what,
      name,
      instead: instead(name),
      near: nearest(name, methods) ?? '',
      known: methods.join(', '),
    }),
  );
}
