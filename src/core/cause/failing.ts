/** Where a failing look parts from the last time that it passed. */
import { canonicalise } from '../moment/canonical.ts';
import { flatten, type Scene } from '../moment/flat.ts';
import { momentAt } from '../moment/patch.ts';
import { momentsOf } from '../steady/parting.ts';
import type { Mark, Step, Timeline } from '../timeline/timeline.ts';
import { candidatesOf } from './candidates.ts';
import { editsOf } from './edits.ts';
import type { HunkCommit } from './found.ts';
import { pairScenes } from './pair.ts';
import { relevant } from './relevant.ts';

/** A mark that only one of the two has: `then` for the time when it passed. */
export type MarkDifference = { side: 'then' | 'now'; lane: string; title: string };

/** How two times of one look part. */
export type Departure = {
  /** Index of the first step that is not as it was, in both. */
  step: number;
  title: string;
  /** How it is not, in words. */
  what: string;
  /** What the page shows otherwise at that step, in words, the most telling first. */
  differences: string[];
  /** Requests, console messages and calls of spies that differ up to the end. */
  marks: MarkDifference[];
};

export type SincePassed = {
  /** The result in which it passed last, and its run; null where none is kept. */
  passed: { result: number; run: number; at: string; commit: string | null } | null;
  departure: Departure | null;
  /** Commits between the two runs that touch files behind the look, the newest first. */
  commits: HunkCommit[];
  /** Files behind the look that have been edited since, and are not committed. */
  uncommitted: string[];
};

const last = (step: Step): number => step.after ?? step.before;

/** How a step is not what it was, or null. */
function differs(was: Step | undefined, is: Step, isShown: boolean): string | null {
  if (!was) return 'The script had ended here.';
  if (was.title !== is.title) return `The script did something else here: “${was.title}”.`;
  if (!isShown) return 'The page showed something else behind it.';
  return was.outcome === is.outcome ? null : `It ${was.outcome} then.`;
}

/** Lanes whose marks say what a component did. */
const telling: readonly string[] = ['network', 'console', 'spies'];

/** Marks that only one side has, as often as it has them. */
function marksApart(then: readonly Mark[], now: readonly Mark[]): MarkDifference[] {
  const counts = new Map<string, { mark: Mark; count: number }>();
  const count = (marks: readonly Mark[], by: number): void => {
    for (const mark of marks) {
      if (!telling.includes(mark.lane)) continue;
      const key = `${mark.lane} ${mark.title}`;
      const known = counts.get(key) ?? { mark, count: 0 };
      known.count += by;
      counts.set(key, known);
    }
  };
  count(then, -1);
  count(now, 1);
  return [...counts.values()]
    .filter((one) => one.count !== 0)
    .map(({ mark: { lane, title }, count: n }) => ({ side: n > 0 ? 'now' : 'then', lane, title }));
}

/** So many differences are told. */
const most = 8;

/** What two moments show otherwise, in words: what people see first, and where the pointer is last. */
export function differencesBetween(then: Scene, now: Scene): string[] {
  const pair = pairScenes(then, now);
  const edits = editsOf(pair);
  const found = relevant(pair, edits, candidatesOf(pair, edits)).filter(({ title }) => !title.startsWith('animated'));
  const rank = ({ isPerceived, kind }: (typeof found)[number]): number => (kind === 'view' ? 2 : isPerceived ? 0 : 1);
  return found
    .toSorted((one, other) => rank(one) - rank(other))
    .slice(0, most)
    .map(({ title }) => title);
}

/** A moment of a timeline as a scene: with the texts of its sheets. */
export type SceneAt = (timeline: Timeline, moment: number) => Scene;

/** Scenes of timelines; `textOf` gives the text of a file by its hash. */
export const sceneReader =
  (textOf: (hash: string) => string | null): SceneAt =>
  ({ base, patches, assets }, index) => {
    const texts = new Map<string, string>();
    const hash = (text: string): string => {
      texts.set(text, text);
      return text;
    };
    // In this form scripts and addresses, which nobody sees, are left out.
    const recorded = momentAt(base, patches, index);
    const moment = canonicalise(recorded, { hash, assets });
    for (const sheet of Object.values(recorded.sheets)) {
      const file = 'url' in sheet ? assets[sheet.url] : undefined;
      if (file !== undefined) texts.set(file, textOf(file) ?? '');
    }
    return flatten(moment, texts, assets);
  };

/** Finds the first step that is not as it was; null when all are. */
export function departureOf(then: Timeline, now: Timeline, sceneAt: SceneAt): Departure | null {
  const plain = (text: string): string => text;
  const [shownThen, shownNow] = [momentsOf({ ...then, assets: {} }, plain), momentsOf({ ...now, assets: {} }, plain)];
  for (const step of now.steps) {
    const was = then.steps[step.index];
    const isShown = was !== undefined && shownThen[last(was)] === shownNow[last(step)];
    const what = differs(was, step, isShown);
    if (what === null) continue;
    const differences = was && !isShown ? differencesBetween(sceneAt(then, last(was)), sceneAt(now, last(step))) : [];
    return { step: step.index, title: step.title, what, differences, marks: marksApart(then.marks, now.marks) };
  }
  return null;
}
