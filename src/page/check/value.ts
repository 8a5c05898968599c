/** What is said of a value. */
import { counted } from '../../core/text/counted.ts';
import { type Comparison, differences, differencesInWords } from '../../core/value/difference.ts';
import { equalEntries, pathInWords } from '../../core/value/difference.ts';
import { blobsIn, type Contents, equal, matchesLoosely } from '../../core/value/equal.ts';
import { show } from '../../core/value/show.ts';
import type { ValueClaim, ValueSource } from '../../language/command.ts';
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

/** The value that is checked now; for a call that has not come, what there is to be said. */
async function currentOf(source: ValueSource): Promise<{ actual: unknown } | { missing: string }> {
  if ('call' in source) {
    const { calls } = source.of;
    const there = calls.length === 0 ? 'it was not called' : `it was called ${counted(calls.length, 'time')}`;
    return -calls.length <= source.call && source.call < calls.length
      ? { actual: calls.at(source.call) }
      : { missing: `there is no call ${source.call}: ${there}` };
  }
  // A function is asked again at every try.
  const { value } = source;
  return { actual: typeof value === 'function' ? await inTime((value as () => unknown)()) : value };
}

/** Everything in which a value is not as wanted, entry by entry. */
function unlikeWanted(actual: unknown, wanted: unknown, how: Comparison): string[] {
  const found = differences(actual, wanted, how);
  const [first] = found;
  if (found.length === 1 && first!.path.length === 0 && typeof actual !== 'string')
    return [`it is ${show(actual)}${unlike(actual, wanted)}`];
  const same = equalEntries(wanted, found);
  return [...differencesInWords(found, pathInWords), ...(same ? [same] : [])];
}

export async function findInValue(source: ValueSource, claim: ValueClaim, isNot: boolean): Promise<Finding> {
  const came = await currentOf(source);
  if ('missing' in came) return [came.missing];
  const { actual } = came;
  const loose = claim.is === 'matching';
  // A pattern is for whatever reads like it.
  const read = claim.to instanceof RegExp && loose ? asText(actual) : actual;
  const how = { contents: await contentsOf([read, claim.to]), loose };
  const holds = (loose ? matchesLoosely : equal)(read, claim.to, how.contents);
  if (holds !== isNot) return null;
  return isNot ? [`it is ${show(actual)}`] : unlikeWanted(read, claim.to, how);
}

const asText = (value: unknown): unknown => (typeof value === 'object' && value !== null ? value : String(value));
