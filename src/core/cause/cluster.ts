/** Captures that changed for one cause, together: what is decided about as one. */
import type { ConflictSides } from '../baseline/baseline.ts';
import type { Comment } from '../api/api.ts';
import type { Box } from '../timeline/timeline.ts';
import type { DecisionNote } from '../run/run.ts';
import type { Cause, CausePlace, Explanation, Proof } from './cause.ts';
import type { Effect, Winner } from './effect.ts';

/** A capture that changed. */
export type ChangedCapture = {
  /** Equal as long as both pictures are the same ones. */
  pair: string;
  result: number;
  run: number;
  file: string;
  component: string;
  look: string;
  environment: string;
  capture: string;
  /** Hashes of the pictures; `difference` is null when only the markup differs. */
  hash: string;
  baseline: string;
  difference: string | null;
  decision: DecisionNote | null;
  /** Why its look failed; null for one that did not. */
  failure: { message: string; place: CausePlace | null } | null;
};

/** A capture with all that was found out about it. */
export type ExplainedCapture = ChangedCapture & {
  /** Null for one of a look that failed. */
  explanation: Explanation | null;
};

/** Who decided what about a cause, and why. */
export type CauseNote = {
  kind: 'approve' | 'reject';
  who: string;
  at: string;
  why: string | null;
  fixer: string | null;
};

/** What a cause does to one capture. */
export type ClusterCapture = ChangedCapture &
  Pick<Cause, 'elements' | 'outlines' | 'pixels' | 'regions'> & {
    /** Null where the look failed, which no drawing can prove. */
    proof: Proof | null;
    /** Keys of the other causes that it has. */
    others: string[];
    /** Places that all causes together leave over, in device pixels. */
    unexplained: Box[];
    /** What else is to be said of how it was explained; null when nothing is. */
    note: string | null;
    /** What was decided about this cause here; null when nobody has decided. */
    decided: CauseNote | null;
    /** Who has looked at it. */
    seenBy: string[];
  };

/** A winning declaration, and where the source has it; null where that is not known. */
export type PlacedWinner = Winner & { place: CausePlace | null };

export type PlacedEffect = Omit<Effect, 'by' | 'wasBy'> & { by: PlacedWinner | null; wasBy: PlacedWinner | null };

export type Cluster = Pick<Cause, 'key' | 'kind' | 'title' | 'before' | 'now'> & {
  /** A short name of its key, for links. */
  id: string;
  /** From 1 on, in the order of the list. */
  number: number;
  /** Where its new value stands in the source; null where that is not known. */
  place: CausePlace | null;
  /** `proved` when it is for every capture; null for looks that failed. */
  proof: Proof | null;
  /** What it does to computed styles in its first capture. */
  effects: PlacedEffect[];
  comments: Comment[];
  captures: ClusterCapture[];
};

/** A capture that is compared with nothing; its pair is of its own picture alone. */
export type CaptureWithoutBaseline = Omit<ChangedCapture, 'baseline' | 'difference' | 'failure'> & {
  comments: Comment[];
  why: 'new' | 'unreadable' | 'conflict';
  /** What a merge has left to choose from; null for other captures. */
  sides: ConflictSides | null;
  seenBy: string[];
};

/** Everything that there is to say of the captures that have changed. */
export type CauseList = {
  causes: Cluster[];
  /** Captures that have changed. */
  changes: number;
  /** Those of them that no cause was found for, each with why. */
  unexplained: (ChangedCapture & { note: string; comments: Comment[] })[];
  /** Captures that are compared with nothing: nobody has approved one, or what was approved cannot be used. */
  withoutBaseline: CaptureWithoutBaseline[];
};

const proofs: readonly Proof[] = ['unexplained', 'drawn', 'proved'];

const worst = (captures: readonly ClusterCapture[]): Proof | null =>
  proofs.find((proof) => captures.some((capture) => capture.proof === proof)) ?? null;

/** A failing look as the cause of what it shows. */
const failureAsCause = (message: string): Cause => ({
  key: JSON.stringify(['failed', message]),
  kind: 'failed',
  title: message,
  before: null,
  now: null,
  elements: 0,
  outlines: [],
  pixels: null,
  regions: [],
  effects: [],
  trace: { property: null, selector: null, texts: [] },
});

const byFailure = ({ failure }: ChangedCapture): Explanation => ({
  causes: [failureAsCause(failure?.message ?? 'The look failed.')],
  proof: 'unexplained',
  unexplained: [],
  note: null,
});

/** What is told of a cluster beside its captures. */
export type About = {
  placeOf(cause: Cause, capture: ChangedCapture): CausePlace | null;
  placeOfWinner(winner: Winner, capture: ChangedCapture): CausePlace | null;
  decisionOf(key: string, pair: string): CauseNote | null;
  commentsOf(key: string): Comment[];
  commentsOn(capture: ChangedCapture): Comment[];
  seenBy(pair: string): string[];
  idOf(key: string): string;
};

type Told = ClusterCapture & { title: string };

/** What a cause is told as for all its captures: their own words where these are the same. */
function titleOf(captures: readonly Told[], { kind, before, now, title }: Cause): string {
  if (captures.every((one) => one.title === title)) return title;
  return kind === 'style' && before !== null && now !== null ? `${before} → ${now}, in several rules` : title;
}

/** Effects with the places of declarations: those that won before may stand nowhere any more. */
function placed(effects: readonly Effect[], placeOf: (winner: Winner) => CausePlace | null): PlacedEffect[] {
  const place = (winner: Winner | null): PlacedWinner | null => winner && { ...winner, place: placeOf(winner) };
  return effects.map((effect) => ({ ...effect, by: place(effect.by), wasBy: place(effect.wasBy) }));
}

/** Which of two captures comes first: environment by environment, whichever was done sooner. */
const byEnvironment = (one: ChangedCapture, other: ChangedCapture): number =>
  one.environment === other.environment ? 0 : one.environment < other.environment ? -1 : 1;

/** Puts captures together by their causes: those with the most captures first. */
export function clusters(
  captures: readonly ExplainedCapture[],
  { placeOf, placeOfWinner, decisionOf, commentsOf, commentsOn, seenBy, idOf }: About,
): Pick<CauseList, 'causes' | 'changes' | 'unexplained'> {
  const byKey = new Map<string, { cause: Cause; captures: Told[] }>();
  const unexplained: CauseList['unexplained'] = [];
  for (const { explanation, ...capture } of captures.toSorted(byEnvironment)) {
    const { causes, proof, note, unexplained: left } = explanation ?? byFailure(capture);
    if (causes.length === 0)
      unexplained.push({ ...capture, note: note ?? 'No cause was found.', comments: commentsOn(capture) });
    for (const cause of causes) {
      const { elements, outlines, pixels, regions } = cause;
      const others = causes.filter(({ key }) => key !== cause.key).map(({ key }) => key);
      const cluster = byKey.get(cause.key) ?? { cause, captures: [] };
      const sure = explanation === null ? null : proof;
      const decided = decisionOf(cause.key, capture.pair);
      const drawn = { elements, outlines, pixels, regions, proof: sure, unexplained: left, note };
      const about = { ...drawn, others, decided, seenBy: seenBy(capture.pair) };
      cluster.captures.push({ ...capture, ...about, title: cause.title });
      byKey.set(cause.key, cluster);
    }
  }
  const sorted = [...byKey.values()].sort(
    (one, other) =>
      // Failures come last: they are for the developer, not for whoever decides.
      Number(one.cause.kind === 'failed') - Number(other.cause.kind === 'failed') ||
      other.captures.length - one.captures.length ||
      (one.cause.title < other.cause.title ? -1 : 1),
  );
  const causes = sorted.map(({ cause, captures: list }, i): Cluster => {
    const { key, kind, before, now } = cause;
    const title = titleOf(list, cause);
    const place = list[0]!.failure?.place ?? placeOf(cause, list[0]!);
    const captures = list.map(({ title: _, ...capture }) => capture);
    const effects = placed(cause.effects, (winner) => placeOfWinner(winner, list[0]!));
    const about = { id: idOf(key), number: i + 1, key, kind, title, before, now, place };
    return { ...about, proof: worst(captures), effects, comments: commentsOf(key), captures };
  });
  return { causes, changes: captures.length, unexplained };
}
