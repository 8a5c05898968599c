/** What people call by name: a name that is not there is told with those that are, not as “is not a function”. */

/** What may be asked of any value to find out what it is: nobody means a method by it. */
const asked = new Set(['then', 'toJSON', 'nodeType', 'tagName']);

/**
 * The same value, whose unknown methods are functions that call `tell` with their name, which throws. They throw when
 * they are called, not when they are read: whatever looks at the value may read anything.
 */
export function withKnown<T extends object>(value: T, tell: (name: string) => never): T {
  return new Proxy(value, {
    get: (known, key) =>
      key in known || typeof key !== 'string' || asked.has(key) || !/^[a-z]\w*$/i.test(key)
        ? Reflect.get(known, key)
        : () => tell(key),
  });
}
