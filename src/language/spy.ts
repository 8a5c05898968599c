/** Spies: functions that remember how they were called. */
import type { Anything } from './anything.ts';
import type { Answer } from './answer.ts';
import * as given from './given.ts';
import { portIfAny, portOf } from './port.ts';

/** A function that remembers its calls; it fits any prop that is a function. */
export type Spy = ((...args: Anything[]) => Anything) & {
  readonly isSpy: true;
  /** The arguments of each call, oldest first. */
  readonly calls: unknown[][];
};

type Callable = (...args: Anything[]) => Anything;

type Known = { spy: Spy; calls: unknown[][]; name: string };
const known: Known[] = [];

/** A function that remembers its calls; it returns what `does` returns, or undefined. Forgotten between looks. */
export function spy(does?: (...args: never[]) => unknown): Spy {
  if (does !== undefined) given.need('spy(…)', does, given.body('spy(() => true)'));
  const calls: unknown[][] = [];
  const made = ((...args: unknown[]) => {
    calls.push(args);
    portIfAny()?.called(entry.name, args);
    return (does as ((...args: unknown[]) => unknown) | undefined)?.(...args);
  }) as Spy;
  Object.defineProperties(made, { name: { value: 'spy' }, isSpy: { value: true }, calls: { get: () => calls } });
  const entry: Known = { spy: made, calls, name: 'spy' };
  known.push(entry);
  return made;
}

/** Forgets the calls of a spy, or of a prop that was given one, and the requests of an answer. */
export const reset = (subject: Callable | Answer | null | undefined): Promise<void> =>
  portOf('reset').reset(subject as Spy | Answer);

/** True for what `spy` gives. */
export const isSpy = (value: unknown): value is Spy =>
  typeof value === 'function' && (value as Partial<Spy>).isSpy === true;

/** Every spy that there is. */
export const spies = (): readonly Spy[] => known.map(({ spy: one }) => one);

/** The prop that a spy was given as. */
export const spyName = (value: Spy): string => known.find((entry) => entry.spy === value)?.name ?? 'spy';

/** Forgets all calls, and names each spy after the prop it is given as. */
export function resetSpies(props: Record<string, unknown>): void {
  for (const entry of known) {
    entry.calls.length = 0;
    entry.name = 'spy';
  }
  for (const [name, value] of Object.entries(props)) {
    const entry = known.find((one) => one.spy === value);
    if (entry) entry.name = name;
  }
}
