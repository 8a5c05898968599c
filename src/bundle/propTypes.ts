/**
 * The types of the props of components, read from their source in a thread of its own: TypeScript takes its time, and a
 * type that it never gets done with must hold up nobody.
 */
import { Piscina } from 'piscina';
import type { Question, Read } from '../props/thread.ts';
import { programBeside } from './fromSource.ts';

/** How long the thread waits for more to read, in milliseconds: what it knows of a project makes the next time short. */
const idleTimeout = 600_000;

/** A question is given up after so many milliseconds; what it asked of has no types then. */
const longest = 60_000;

let thread: Piscina<Question, Record<string, Read>> | null = null;

function reader(): Piscina<Question, Record<string, Read>> {
  const { file: filename, execArgv } = programBeside(import.meta.url, '../props/thread');
  return new Piscina({ filename, execArgv, minThreads: 0, maxThreads: 1, idleTimeout });
}

/** By the full paths of look files. Those of which nothing could be read are not in it. */
export async function readPropTypes(question: Question): Promise<Record<string, Read>> {
  thread ??= reader();
  try {
    return await thread.run(question, { signal: AbortSignal.timeout(longest) });
  } catch {
    // Looks are run without: props that were not given get no spies, and nothing is held against their types.
    return {};
  }
}
