/** What is said of the calls of a spy, or of the requests that an answer was given. */
import {
  type Comparison,
  type Difference,
  differences,
  differencesInWords,
  equalEntries,
  type Path,
  pathInWords,
} from '../../core/value/difference.ts';
import { isRecord, matchesLoosely } from '../../core/value/equal.ts';
import { show } from '../../core/value/show.ts';
import { counted } from '../../core/text/counted.ts';
import type { Answer, Received } from '../../language/answer.ts';
import type { Asked, CallClaim } from '../../language/command.ts';
import { isSpy, type Spy } from '../../language/spy.ts';
import type { Finding } from './check.ts';
import { contentsOf, unlike } from './value.ts';

/** A request as it is compared with what is wanted of it. */
const asked = ({ json, body, headers, query, params }: Received): Asked => ({
  body: json !== undefined ? json : body,
  headers: Object.fromEntries(Object.entries(headers).map(([name, value]) => [name.toLowerCase(), value])),
  query,
  params,
});

/** Header names are the same in any letter case. */
const wantedOf = (what: Asked): Asked => ({
  ...what,
  ...(what?.headers && {
    headers: Object.fromEntries(Object.entries(what.headers).map(([name, value]) => [name.toLowerCase(), value])),
  }),
});

/** What the calls of a subject are compared as: arguments, or requests. */
const callsOf = (subject: Spy | Answer): unknown[] => (isSpy(subject) ? subject.calls : subject.calls.map(asked));

/** Arguments beyond those that are wanted are nobody's concern. */
const asFar = (actual: unknown, wanted: unknown): unknown =>
  Array.isArray(actual) && Array.isArray(wanted) ? actual.slice(0, wanted.length) : actual;

const inWords = (call: unknown): string =>
  Array.isArray(call) ? `(${call.map((one) => show(one)).join(', ')})` : show(call);

/** `argument 2 .berth`; `body.berth`. */
function placeInCall(path: Path, isSpied: boolean): string {
  const [first, ...rest] = path;
  if (first === undefined) return '';
  return isSpied ? `argument ${Number(first) + 1}${pathInWords(rest)}` : pathInWords(path).replace(/^\./, '');
}

/** `call 3, argument 1 .berth`. */
const placeInTurn = ([call, ...path]: Path, isSpied: boolean): string =>
  [...(call === undefined ? [] : [`call ${call}`]), ...(path.length > 0 ? [placeInCall(path, isSpied)] : [])].join(
    ', ',
  );

const mostCalls = 6;

/** How much is as wanted, as a line of its own. */
const same = (wanted: unknown, found: readonly Difference[]): string[] => {
  const words = equalEntries(wanted, found);
  return words === null ? [] : [words];
};

/** Of a request only what is spoken of. */
const asWanted = (call: unknown, wanted: unknown): unknown =>
  isRecord(call) && isRecord(wanted)
    ? Object.fromEntries(Object.entries(call).filter(([key]) => Object.hasOwn(wanted, key)))
    : call;

/** The calls of which none is as wanted, the nearest one first, entry by entry. */
function noneOf(calls: readonly unknown[], wanted: unknown, how: Comparison, isSpied: boolean): string[] {
  const compared = calls.map((call, n) => ({ call, n, found: differences(asFar(call, wanted), wanted, how) }));
  const [nearest, ...others] = compared.toSorted((a, b) => a.found.length - b.found.length || b.n - a.n);
  if (!nearest) return ['it was not called'];
  const nearby = differencesInWords(nearest.found, (path) => placeInCall(path, isSpied));
  const twin = unlike(nearest.call, wanted);
  const of = calls.length > 1 ? `, the nearest of ${calls.length},` : '';
  return [
    `call ${nearest.n}${of} was ${inWords(asWanted(nearest.call, wanted))}${twin}`,
    ...nearby,
    ...same(wanted, nearest.found),
    ...others.slice(0, mostCalls).map(({ call, n }) => `call ${n} was ${inWords(asWanted(call, wanted))}`),
    ...(others.length > mostCalls ? [`and ${counted(others.length - mostCalls, 'more call')}`] : []),
  ];
}

/** What differs from a sequence of calls, call by call. */
function notInTurn(calls: readonly unknown[], wanted: readonly unknown[], how: Comparison, isSpied: boolean): string[] {
  const far = calls.map((call, n) => asFar(call, wanted[n] ?? call));
  const found: Difference[] = differences(far, wanted, how);
  return [
    `it was called ${counted(calls.length, 'time')}`,
    ...differencesInWords(found, (path) => placeInTurn(path, isSpied)),
    ...same(wanted, found),
  ];
}

const listed = (calls: readonly unknown[]): string[] =>
  calls.length === 0
    ? ['it was not called']
    : [`it was called ${counted(calls.length, 'time')}`, ...calls.slice(-mostCalls).map(inWords)];

async function compare(calls: readonly unknown[], claim: CallClaim, isSpied: boolean): Promise<Finding> {
  if (claim.is === 'called') return calls.length > 0 ? null : ['it was not called'];
  if (claim.is === 'called times') return calls.length === claim.n ? null : listed(calls);
  const isTurn = claim.is === 'called in turn';
  const wanted: unknown = isTurn
    ? isSpied
      ? claim.calls
      : claim.calls.map((one) => wantedOf(one as Asked))
    : claim.is === 'called with'
      ? claim.args
      : wantedOf(claim.what);
  const how = { contents: await contentsOf([calls, wanted]), loose: true };
  const isAs = (call: unknown, one: unknown): boolean => matchesLoosely(asFar(call, one), one, how.contents);
  if (isTurn) {
    const list = wanted as readonly unknown[];
    const holds = calls.length === list.length && list.every((one, i) => isAs(calls[i], one));
    return holds ? null : notInTurn(calls, list, how, isSpied);
  }
  return calls.some((call) => isAs(call, wanted)) ? null : noneOf(calls, wanted, how, isSpied);
}

/** What a check of calls finds, among the first `limit` of them when only those are meant. */
export async function findInCalls(
  subject: Spy | Answer,
  claim: CallClaim,
  isNot: boolean,
  limit = Number.POSITIVE_INFINITY,
): Promise<Finding> {
  const calls = callsOf(subject).slice(0, limit);
  const found = await compare(calls, claim, isSpy(subject));
  if (!isNot) return found;
  return found ? null : listed(calls);
}
