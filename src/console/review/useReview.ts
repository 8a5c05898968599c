/** Going through what there is to decide, cause by cause. */
import { useMemo, useRef, useState } from 'react';
import type { CauseList } from '../../core/cause/cluster.ts';
import type { Problem } from '../../core/problem/problem.ts';
import { type Entry, entriesOf, isOpen, leftIn, type Shot, shotKey } from '../../core/review/entries.ts';
import { nameIn, type Said, useDecisions } from './useDecisions.ts';

export type Review = {
  entries: Entry[];
  /** The chosen entry, and the capture of it that is shown; null when there is nothing at all. */
  entry: Entry | null;
  shot: Shot | null;
  at: number;
  choose(entry: Entry, shot?: Shot): void;
  step(by: number): void;
  stepShot(by: number): void;
  /** Captures of the chosen entry that are not decided about. */
  isLeftOut(shot: Shot): boolean;
  leaveOut(shot: Shot): void;
  decide(kind: 'approve' | 'reject', said?: Said): Promise<void>;
  undo(): Promise<void>;
  /** Entries decided since the page was opened, and those there were. */
  done: number;
  all: number;
  /** Captures that are left. */
  left: number;
  /** A decision is being carried out. */
  isDeciding: boolean;
  /** What was done last, in words. */
  said: string | null;
  error: Problem | null;
  dismiss(): void;
};

/** Where to begin: at a cause, or at a capture. */
export type Place = { cause: string | null; result: number | null; capture: string | null };

/** True for a capture at a place. */
export const isAt =
  ({ result, capture }: Place) =>
  (shot: Pick<Shot, 'result' | 'capture'>): boolean =>
    shot.result === result && (capture === null || shot.capture === capture);

function firstOf(entries: readonly Entry[], place: Place): { entry: Entry; shot: Shot } | null {
  const entry =
    entries.find(({ id }) => id === place.cause) ??
    (place.result === null ? undefined : entries.find(({ shots }) => shots.some(isAt(place)))) ??
    entries[0];
  if (!entry) return null;
  return { entry, shot: entry.shots.find(isAt(place)) ?? entry.shots[0]! };
}

/** The next entry that is open, behind one or before it. */
const nextOpen = (entries: readonly Entry[], { id }: Entry): Entry | undefined => {
  const at = entries.findIndex((one) => one.id === id);
  const others = [...entries.slice(at + 1), ...entries.slice(0, at)];
  return others.find(isOpen);
};

/** Entries without some of their captures; one of which none is left is gone. */
function without(entries: readonly Entry[], names: ReadonlySet<string>): Entry[] {
  if (names.size === 0) return [...entries];
  return entries.flatMap((entry) => {
    const shots = entry.shots.filter((shot) => !names.has(nameIn(entry, shot)));
    return shots.length === 0 ? [] : shots.length === entry.shots.length ? [entry] : [{ ...entry, shots }];
  });
}

/** Which entry is chosen, and which capture of it. */
function useChosen(entries: readonly Entry[], place: Place) {
  const [chosen, setChosen] = useState<{ entry: string; shot: string } | null>(() => {
    const first = firstOf(entries, place);
    return first && { entry: first.entry.id, shot: shotKey(first.shot) };
  });
  const entry = entries.find(({ id }) => id === chosen?.entry) ?? entries[0] ?? null;
  const shot = entry?.shots.find((one) => shotKey(one) === chosen?.shot) ?? entry?.shots[0] ?? null;
  const choose = (next: Entry, one = next.shots[0]!): void => setChosen({ entry: next.id, shot: shotKey(one) });
  return { entry, shot, choose };
}

/** The neighbour of one in a list, at most the first or the last. */
const neighbour = <T>(list: readonly T[], one: T, by: number): T =>
  list[Math.max(0, Math.min(list.length - 1, list.indexOf(one) + by))]!;

/** How many entries were ever open here, and how many of them are decided. */
function useProgress(fresh: readonly Entry[], entries: readonly Entry[]): Pick<Review, 'done' | 'all' | 'left'> {
  const known = useRef(new Set<string>());
  for (const one of fresh) if (isOpen(one)) known.current.add(one.id);
  const open = new Set(entries.filter(isOpen).map(({ id }) => id));
  const done = [...known.current].filter((id) => !open.has(id)).length;
  return { done, all: known.current.size, left: leftIn(entries) };
}

export function useReview(list: CauseList, place: Place): Review {
  const fresh = useMemo(() => entriesOf(list), [list]);
  const decisions = useDecisions(list);
  const { pending, said, error } = decisions;
  const entries = useMemo(() => without(fresh, pending), [fresh, pending]);
  const [leftOut, setLeftOut] = useState<ReadonlySet<string>>(new Set());
  const { entry, shot, choose: chooseOnly } = useChosen(entries, place);
  const isLeftOut = (one: Shot): boolean => entry !== null && leftOut.has(nameIn(entry, one));
  const choose: Review['choose'] = (next, one) => {
    decisions.dismiss();
    chooseOnly(next, one);
  };
  return {
    entries,
    entry,
    shot,
    at: entry ? entries.indexOf(entry) : -1,
    choose,
    step: (by) => entry && choose(neighbour(entries, entry, by)),
    stepShot: (by) => entry && shot && choose(entry, neighbour(entry.shots, shot, by)),
    isLeftOut,
    leaveOut(one) {
      if (!entry) return;
      const key = nameIn(entry, one);
      setLeftOut((now) => new Set(now.has(key) ? [...now].filter((other) => other !== key) : [...now, key]));
    },
    async decide(kind, options) {
      if (!entry) return;
      const open = entry.shots.filter(({ decided }) => decided === null);
      const meant = open.filter((one) => !isLeftOut(one));
      if (meant.length === 0) return;
      const next = meant.length === open.length ? nextOpen(entries, entry) : undefined;
      // What was left out is what is left now.
      setLeftOut((now) => new Set([...now].filter((key) => !key.startsWith(`${entry.id} `))));
      if (next) choose(next);
      if (!(await decisions.decide(entry, meant, kind, options))) chooseOnly(entry, shot ?? undefined);
    },
    undo: decisions.undo,
    ...useProgress(fresh, entries),
    isDeciding: pending.size > 0,
    said,
    error,
    dismiss: decisions.dismiss,
  };
}
