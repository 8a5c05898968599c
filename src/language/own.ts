/** Words of a project's own: actions and checks that are made of others, each told as one step with those inside. */
import { show } from '../core/value/show.ts';
import * as given from './given.ts';
import { portOf } from './port.ts';
import { isTarget } from './target.ts';

const argument = (value: unknown): string =>
  isTarget(value) ? String(value) : typeof value === 'string' ? `“${value}”` : show(value);

const titled = (name: string, args: readonly unknown[]): string =>
  args.length === 0 ? name : `${name} ${args.map(argument).join(', ')}`;

/** @throws ProblemError `bad-step` */
function needWord(word: 'action' | 'check', name: unknown, body: unknown): void {
  const example =
    word === 'action' ? "action('moor', async (ship) => { … })" : "check('is free', async (berth) => { … })";
  given.need(`${word}(…)`, name, given.text(example));
  given.need(`${word}('${name}')`, body, given.body(example));
}

/** An action of the project's own: `const moor = action('moor', async (ship: string) => { … })`. */
export function action<Args extends unknown[]>(name: string, body: (...args: Args) => Promise<void>) {
  needWord('action', name, body);
  return (...args: Args): Promise<void> => portOf(name).part(titled(name, args), () => body(...args));
}

/** A check of the project's own, made of others: `const isFree = check('is free', async (ship: Target) => { … })`. */
export function check<Args extends unknown[]>(name: string, body: (...args: Args) => Promise<void>) {
  needWord('check', name, body);
  return (...args: Args): Promise<void> => portOf(name).part(`ensure ${titled(name, args)}`, () => body(...args));
}
