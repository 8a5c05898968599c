/** Looks for every combination of values: what `each` makes of one state. */
import { fail } from '../core/problem/problem.ts';
import { show } from '../core/value/show.ts';
import type { LookState } from './looks.ts';

type State = LookState<Record<string, unknown>, string>;
type States = Record<string, State>;

/** More than so many looks of one state are made only when somebody says that they are meant. */
const usualMost = 1000;

/** By these a record says what it is called. */
const callsItself = ['name', 'label', 'title', 'id'] as const;

/** A value as part of a look's name. */
function valueInWords(prop: string, value: unknown, nth: number): string {
  if (value === true) return prop;
  if (value === false) return `not ${prop}`;
  if (value === undefined || value === null) return `no ${prop}`;
  if (typeof value === 'string') return value === '' ? `empty ${prop}` : value.slice(0, 40);
  if (typeof value !== 'object' && typeof value !== 'function') return `${prop} ${String(value)}`;
  const own = callsItself.map((key) => (value as Record<string, unknown>)[key]).find((one) => typeof one === 'string');
  return typeof own === 'string' && own !== '' ? own.slice(0, 40) : `${prop} ${nth + 1}`;
}

type Combination = { props: Record<string, unknown>; words: string[] };

function combinations(each: Record<string, readonly unknown[]>): Combination[] {
  let all: Combination[] = [{ props: {}, words: [] }];
  for (const [prop, values] of Object.entries(each))
    all = all.flatMap(({ props, words }) =>
      values.map((value, nth) => ({
        props: { ...props, [prop]: value },
        words: [...words, valueInWords(prop, value, nth)],
      })),
    );
  return all;
}

/** @throws ProblemError `each-wrong`, `each-many` */
function checkEach(where: string, each: unknown, most: number): asserts each is Record<string, readonly unknown[]> {
  if (typeof each !== 'object' || each === null) fail('each-wrong', { where, what: show(each) });
  const odd = Object.entries(each).find(([, values]) => !Array.isArray(values) || values.length === 0);
  if (odd) fail('each-wrong', { where, what: `${odd[0]}: ${show(odd[1])}` });
  const count = Object.values(each as Record<string, unknown[]>).reduce((product, { length }) => product * length, 1);
  if (count > most) fail('each-many', { where, count, most });
}

/** A name that no other look has: values may read the same. */
function freeName(name: string, taken: States): string {
  if (!Object.hasOwn(taken, name)) return name;
  let nth = 2;
  while (Object.hasOwn(taken, `${name} (${nth})`)) nth++;
  return `${name} (${nth})`;
}

/** States with those that `each` makes in the place of theirs. @throws ProblemError `each-wrong`, `each-many` */
export function combined(states: States | undefined): States {
  const made: States = {};
  for (const [name, state] of Object.entries(states ?? {})) {
    if (state?.each === undefined) {
      made[name] = state;
      continue;
    }
    const { each, most = usualMost, ...rest } = state;
    checkEach(`The look “${name}”`, each, most);
    for (const { props, words } of combinations(each))
      made[freeName(`${name}: ${words.join(', ')}`, made)] = { ...rest, props: { ...rest.props, ...props } };
  }
  return made;
}
