/**
 * The types of the props of components, read from their source in a thread of its own: TypeScript takes its time, and a
 * type that it never gets done with must hold up nobody.
 */
import { Piscina } from 'piscina';
import type { Offered } from '../props/offered.ts';
import type { Seen } from '../props/overview.ts';
import type { Question, Read } from '../props/thread.ts';
import { programBeside } from './fromSource.ts';

/** How long the thread waits for more to read, in milliseconds: what it knows makes the next time short. */
const idleTimeout = 600_000;

/** A question is given up after so many milliseconds; what it asked of has no types then. */
const longest = 60_000;

let thread: Piscina | null = null;

function reader(): Piscina {
  const { file: filename, execArgv } = programBeside(import.meta.url, '../props/thread');
  return new Piscina({ filename, execArgv, minThreads: 0, maxThreads: 1, idleTimeout });
}

const ask = (question: object, name?: string): Promise<unknown> => {
  thread ??= reader();
  return thread.run(question, { signal: AbortSignal.timeout(longest), ...(name && { name }) });
};

/** By the full paths of look files. Those of which nothing could be read are not in it. */
export const readPropTypes = (question: Question): Promise<Record<string, Read>> =>
  // Looks are run without: props that were not given get no spies, and nothing is held against their types.
  ask(question).then(
    (found) => found as Record<string, Read>,
    () => ({}),
  );

/** The components that files offer, with the types of their props, by the paths of the files. */
export const readComponents = async (question: Question): Promise<Record<string, Offered[]>> =>
  (await ask(question, 'components')) as Record<string, Offered[]>;

/** The components among files at a glance. */
export const seeComponents = async (question: Question & { lookFiles: readonly string[] }): Promise<Seen[]> =>
  (await ask(question, 'seen')) as Seen[];
