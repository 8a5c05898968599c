/** Words of a project's own: actions and checks that are made of others, each told as one step with those inside. */
import { show } from '../core/value/show.ts';
import { portOf } from './port.ts';
import { isTarget } from './target.ts';

const given = (value: unknown): string =>
  isTarget(value) ? String(value) : typeof value === 'string' ? `“${value}”` : show(value);

const titled = (name: string, args: readonly unknown[]): string =>
  args.length === 0 ? name : `${name} ${args.map(given).join(', ')}`;

/** An action of the project's own: `const moor = action('moor', async (ship: string) => { … })`. */
export const action =
  <Args extends unknown[]>(name: string, body: (...args: Args) => Promise<void>) =>
  (...args: Args): Promise<void> =>
    portOf(name).part(titled(name, args), () => body(...args));

/** A check of the project's own, made of others: `const isFree = check('is free', async (ship: Target) => { … })`. */
export const check =
  <Args extends unknown[]>(name: string, body: (...args: Args) => Promise<void>) =>
  (...args: Args): Promise<void> =>
    portOf(name).part(`ensure ${titled(name, args)}`, () => body(...args));
