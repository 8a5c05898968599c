/**
 * What was found out of elements, for as long as it holds: what follows from the document alone until that changes,
 * and what styles have a say in for one instant.
 */
import { mutationCount } from '../record/roots.ts';
import { sheetChanges } from '../record/sheets.ts';
import { timeNow } from '../time/time.ts';

/** Counts input, which changes what is pointed at, has the focus or is checked. */
let inputs = 0;
export const inputSent = (): void => void inputs++;

type Memo<K extends object, V> = (key: K, find: (key: K) => V) => V;

function memo<K extends object, V>(isStill: () => boolean): Memo<K, V> {
  let known = new WeakMap<K, { value: V }>();
  return (key, find) => {
    if (!isStill()) known = new WeakMap();
    const before = known.get(key);
    if (before) return before.value;
    const value = find(key);
    known.set(key, { value });
    return value;
  };
}

/** Remembers what follows from nodes and attributes, as long as none has changed. */
export function untilChange<K extends object, V>(): Memo<K, V> {
  let at = -1;
  return memo(() => {
    const now = mutationCount();
    const isStill = now === at;
    at = now;
    return isStill;
  });
}

/** Remembers what styles have a say in: they change with nodes, time, input and the focus. */
export function atThisInstant<K extends object, V>(): Memo<K, V> {
  let at: unknown[] = [];
  return memo(() => {
    const now = [mutationCount(), sheetChanges(), timeNow(), inputs, document.activeElement, innerWidth, innerHeight];
    const isStill = now.every((one, i) => one === at[i]);
    at = now;
    return isStill;
  });
}
