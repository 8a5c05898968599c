/** What there is to decide about, as a list of entries: causes, and captures that no cause stands for. */
import type { Comment, CommentOn, DecisionRequest } from '../api/api.ts';
import type {
  CaptureWithoutBaseline,
  CauseList,
  CauseNote,
  ChangedCapture,
  Cluster,
  ClusterCapture,
} from '../cause/cluster.ts';
import { shortName } from '../look/look.ts';

/** A capture of an entry. */
export type Shot = Pick<
  ChangedCapture,
  'pair' | 'result' | 'file' | 'component' | 'look' | 'environment' | 'capture' | 'hash'
> & {
  baseline: string | null;
  /** What was decided about it here; null while nobody has. */
  decided: CauseNote | null;
  seenBy: string[];
  /** What its cause does to it; null where none stands for it. */
  cause: ClusterCapture | null;
};

export type Entry = {
  /** Steady for as long as it is about the same. */
  id: string;
  kind: 'cause' | 'failed' | 'unexplained' | 'conflict' | 'unreadable' | 'new';
  title: string;
  cluster: Cluster | null;
  shots: Shot[];
  /** What people say of it. */
  comments: Comment[];
  /** Why nothing more is known. */
  note: string | null;
};

export const shotKey = ({ result, capture }: Pick<Shot, 'result' | 'capture'>): string => `${result} ${capture}`;

/** True for an entry of which something is left to decide. */
export const isOpen = ({ shots }: Entry): boolean => shots.some(({ decided }) => decided === null);

const noteOf = ({ decision }: Pick<ChangedCapture, 'decision'>): CauseNote | null => {
  if (!decision?.stands || decision.kind === 'adopt') return null;
  const { kind, who, at, why, fixer } = decision;
  return { kind, who, at, why, fixer };
};

const ofCause = (cluster: Cluster): Entry => ({
  id: cluster.id,
  kind: cluster.kind === 'failed' ? 'failed' : 'cause',
  title: cluster.title,
  cluster,
  shots: cluster.captures.map((cause) => ({ ...cause, decided: cause.decided ?? noteOf(cause), cause })),
  comments: cluster.comments,
  note: null,
});

const ofUnexplained = ({ note, comments, ...capture }: CauseList['unexplained'][number]): Entry => ({
  id: `unexplained ${shotKey(capture)}`,
  kind: 'unexplained',
  title: `${shortName(capture.component)} › ${capture.look}`,
  cluster: null,
  shots: [{ ...capture, decided: noteOf(capture), seenBy: [], cause: null }],
  comments,
  note,
});

/** Captures without a baseline, those of a component together; each conflict by itself. */
function withoutBaseline(captures: readonly CaptureWithoutBaseline[]): Entry[] {
  const entries = new Map<string, Entry>();
  for (const capture of captures) {
    const { why: kind, component, look } = capture;
    const id = `${kind} ${kind === 'conflict' ? shotKey(capture) : component}`;
    const title = kind === 'conflict' ? `${shortName(component)} › ${look}` : shortName(component);
    const entry = entries.get(id) ?? { id, kind, title, cluster: null, shots: [], comments: [], note: null };
    entry.shots.push({ ...capture, baseline: null, decided: noteOf(capture), cause: null });
    entry.comments.push(...capture.comments);
    entries.set(id, entry);
  }
  return [...entries.values()];
}

const order: readonly Entry['kind'][] = ['conflict', 'cause', 'unexplained', 'unreadable', 'new', 'failed'];

/** Everything there is to decide about: what is open first, and of that causes before what is merely new. */
export function entriesOf({ causes, unexplained, withoutBaseline: bare }: CauseList): Entry[] {
  const all = [...causes.map(ofCause), ...unexplained.map(ofUnexplained), ...withoutBaseline(bare)];
  const rank = (entry: Entry): number => (isOpen(entry) ? 0 : order.length) + order.indexOf(entry.kind);
  return all.toSorted((one, other) => rank(one) - rank(other));
}

/** What a comment on an entry is about: its cause, or one of its captures. */
export const commentedOn = ({ cluster }: Entry, { result, capture }: Shot): CommentOn =>
  cluster ? { cause: cluster.key } : { capture: { result, capture } };

/** What a decision about some captures of an entry names: them, and their cause. */
export const aboutOf = ({ cluster }: Entry, shots: readonly Shot[]): Pick<DecisionRequest, 'captures' | 'causes'> => ({
  captures: shots.map(({ result, capture }) => ({ result, capture })),
  ...(cluster && { causes: [cluster.key] }),
});

/** How many captures are left to decide about, however many causes each has. */
export const leftIn = (entries: readonly Entry[]): number =>
  new Set(entries.flatMap(({ shots }) => shots.filter(({ decided }) => decided === null).map(shotKey))).size;

/** The causes of one capture, in the order of the list. */
export const causesOf = (entries: readonly Entry[], shot: Shot): Entry[] =>
  entries.filter(({ cluster, shots }) => cluster && shots.some((one) => shotKey(one) === shotKey(shot)));
