/**
 * Confirms what a look came to after others had run in its document. The truth of a look is how it comes out alone;
 * that looks share a document only saves time.
 */
import { createHash } from 'node:crypto';
import type { FinishedLook } from '../core/run/finished.ts';
import { partingOf, referenceOf } from '../core/steady/parting.ts';
import type { Ran } from './job.ts';

/** Ways to run a look again. */
export type Tries = {
  /** Alone in a fresh document. */
  alone(): Promise<FinishedLook>;
  /** In a fresh document, after these looks. */
  after(looks: readonly Ran[]): Promise<FinishedLook>;
};

/** What a look came to, as far as two tries can be compared: details of messages may differ from try to try. */
const cameTo = ({ verdict, problem, captures }: FinishedLook): string =>
  // Only at the second try it is found out which of the two it is.
  JSON.stringify([
    verdict,
    problem?.code.replace('look-waits', 'look-endless'),
    captures.map(({ summary }) => [summary.name, summary.state.kind]),
  ]);

const isLike = (a: FinishedLook, b: FinishedLook): boolean => cameTo(a) === cameTo(b);

/** Looks that are tried one by one as what another one depends on, from the last one back. */
const mostSuspects = 12;

/** True when the order was shown to matter: after the others it came out differently twice, and alone never. */
async function orderMatters(alone: FinishedLook, before: readonly Ran[], { after, ...tries }: Tries): Promise<boolean> {
  if (before.length === 0) return false;
  for (let turns = 0; turns < 2; turns++) if (isLike(await after(before), alone)) return false;
  return isLike(await tries.alone(), alone);
}

/** The one look after which it comes out differently; null when it takes several. */
async function culpritOf(alone: FinishedLook, before: readonly Ran[], { after }: Tries): Promise<Ran | null> {
  if (before.length === 1) return before[0]!;
  for (const suspect of before.toReversed().slice(0, mostSuspects))
    if (!isLike(await after([suspect]), alone)) return suspect;
  return null;
}

/** `“empty”`, or for one of another file `“empty” of src/Basket.look.tsx`. */
const nameOf = ({ file, look }: Ran, home: string): string => (file === home ? `“${look}”` : `“${look}” of ${file}`);

const hash = (text: string): string => createHash('sha256').update(text).digest('base64');

/** Where the first try parts from the one alone, as a sentence. */
function partedIn(first: FinishedLook, alone: FinishedLook): string {
  const [then, now] = [alone, first].map((look) => referenceOf(look, hash));
  const parting = partingOf(then!, now!);
  const step = parting?.step == null ? undefined : first.timeline.steps[parting.step];
  return parting ? ` It differed${step ? ` at “${step.title}”` : ''}: ${parting.what}.` : '';
}

/** `failed (Nothing matched the button “Save”).`, or `changed. It differed at “mount Berth”: …` */
const inWords = (first: FinishedLook, alone: FinishedLook): string =>
  first.problem
    ? `${first.verdict} (${first.problem.message.replace(/\.$/, '')}).`
    : `${first.verdict}.${partedIn(first, alone)}`;

/**
 * Runs a look again, alone, and gives back what counts: how it came out then. Where that differs from the first time,
 * it is found out whether the looks before it were the reason.
 */
export async function confirm(first: FinishedLook, before: readonly Ran[], tries: Tries): Promise<FinishedLook> {
  const alone = await tries.alone();
  if (isLike(first, alone)) return alone;
  if (!(await orderMatters(alone, before, tries))) {
    alone.isUnsteady = true;
    alone.notes.push(
      `At the first try it came out as ${inWords(first, alone)} ` +
        'The looks that ran before it were not the reason: it is unsteady.',
    );
    return alone;
  }
  const culprit = await culpritOf(alone, before, tries);
  const reasons = culprit === null ? `the ${before.length} looks before it` : nameOf(culprit, first.info.file);
  alone.orderDependent = true;
  alone.notes.push(
    `After ${reasons} it came out as ${inWords(first, alone)} ` +
      `What counts is how it comes out alone, and from now on it gets a document of its own. ` +
      `Look for a value that a module keeps from one look to the next.`,
  );
  return alone;
}
