/**
 * What the browser does for a page beside its thread, such as reading a file or a database: the page is not at rest
 * before it has come, however long a machine takes for it.
 */
import { native } from './host/natives.ts';

/** So long a piece of work is waited for at most, in real milliseconds: some never end, such as a blocked database. */
const longest = 10_000;

/** When the pieces that are under way began. */
const begun = new Set<{ since: number }>();

let over = 0;

/** How many pieces of work have come to their end: what one has brought is still to be shown. */
export const worksSoFar = (): number => over;

/** A piece of work has begun; the function that is returned tells that it is over. */
export function workBegins(): () => void {
  const piece = { since: native.now() };
  begun.add(piece);
  return () => {
    if (begun.delete(piece)) over++;
  };
}

/** A look begins: what those before it have begun is none of its. */
export const forgetWorks = (): void => begun.clear();

/** True while something is under way that the page will hear of. */
export function isAtWork(): boolean {
  const late = native.now() - longest;
  for (const piece of begun) {
    if (piece.since > late) return true;
    begun.delete(piece);
  }
  return false;
}
