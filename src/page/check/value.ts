/** What is said of a value. */
import { fail } from '../../core/problem/problem.ts';
import { blobsIn, type Contents, equal, matches } from '../../core/value/equal.ts';
import { show } from '../../core/value/show.ts';
import type { ValueClaim } from '../../language/command.ts';
import { recordingNow } from '../record/recording.ts';
import { keepTime, nobody } from '../session/clock.ts';
import type { Finding } from './check.ts';

// Taken before a component can replace it.
const read = Blob.prototype.arrayBuffer;

/** The bytes of every blob and file in a value. */
export async function contentsOf(value: unknown): Promise<Contents> {
  const found = [...blobsIn(value)] as Blob[];
  const bytes = await Promise.all(found.map(async (blob) => new Uint8Array(await read.call(blob))));
  return new Map(found.map((blob, i) => [blob, bytes[i]!]));
}

/**
 * What to add when a value reads like the one that was wanted: files differ in what they hold, and objects of a
 * project's own classes are equal only to themselves.
 */
export function unlike(actual: unknown, wanted: unknown): string {
  if (show(actual) !== show(wanted)) return '';
  return blobsIn([actual, wanted]).size > 0 ? ', with other content' : ', which reads the same but is another object';
}

/** What a function gives, which may wait for the look's own time. */
async function inTime(given: unknown): Promise<unknown> {
  if (!(given instanceof Promise)) return given;
  void keepTime(given, nobody, () => recordingNow() === null);
  return given;
}

export async function findInValue(subject: unknown, claim: ValueClaim): Promise<Finding> {
  // A function is asked again at every try.
  const actual: unknown = typeof subject === 'function' ? await inTime((subject as () => unknown)()) : subject;
  if (claim.is === 'matching') {
    if (!(claim.pattern instanceof RegExp))
      fail('bad-step', {
        what: `matches(…) needs a pattern, but was given ${show(claim.pattern)}.`,
        remedy: 'Write a regular expression: ensure(text).matches(/moored/)',
      });
    return matches(claim.pattern, String(actual)) ? null : [`it is ${show(actual)}`];
  }
  const contents = await contentsOf([actual, claim.to]);
  return equal(actual, claim.to, contents) ? null : [`it is ${show(actual)}${unlike(actual, claim.to)}`];
}
