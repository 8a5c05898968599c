/** Going through what there is to decide, cause by cause. */
import { useEffect, useMemo, useRef, useState } from 'react';
import type { CauseList } from '../../core/cause/cluster.ts';
import { type Problem, toProblem } from '../../core/problem/problem.ts';
import { counted } from '../../core/text/counted.ts';
import { service } from '../data.ts';
import { type Entry, entriesOf, isOpen, leftIn, type Shot, shotKey } from '../../core/review/entries.ts';
import { personNow } from './usePerson.ts';

/** What a decision says beside its kind. */
export type Said = { why?: string; fixer?: string; unsteady?: boolean; take?: 'base' | 'ours' | 'theirs' };

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
  /** What was done last, in words. */
  said: string | null;
  error: Problem | null;
  dismiss(): void;
};

/** Where to begin: at a cause, or at a capture. */
export type Place = { cause: string | null; result: number | null; capture: string | null };

const isAt =
  ({ result, capture }: Place) =>
  (shot: Shot): boolean =>
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

/** One text for a capture of an entry. */
const nameIn = ({ id }: Entry, shot: Shot): string => `${id} ${shotKey(shot)}`;

/** Entries without some of their captures; one of which none is left is gone. */
function without(entries: readonly Entry[], names: ReadonlySet<string>): Entry[] {
  if (names.size === 0) return [...entries];
  return entries.flatMap((entry) => {
    const shots = entry.shots.filter((shot) => !names.has(nameIn(entry, shot)));
    return shots.length === 0 ? [] : shots.length === entry.shots.length ? [entry] : [{ ...entry, shots }];
  });
}

export function useReview(list: CauseList, place: Place): Review {
  const fresh = useMemo(() => entriesOf(list), [list]);
  /** Captures of entries that are being decided about: they count as decided until the service says what is so. */
  const [pending, setPending] = useState<ReadonlySet<string>>(new Set());
  const entries = useMemo(() => without(fresh, pending), [fresh, pending]);
  const [chosen, setChosen] = useState<{ entry: string; shot: string } | null>(() => {
    const first = firstOf(fresh, place);
    return first && { entry: first.entry.id, shot: shotKey(first.shot) };
  });
  const [leftOut, setLeftOut] = useState<ReadonlySet<string>>(new Set());
  const [said, setSaid] = useState<string | null>(null);
  const [error, setError] = useState<Problem | null>(null);
  const batches = useRef<number[]>([]);
  /** Every entry that was ever open here. */
  const known = useRef(new Set<string>());
  for (const one of fresh) if (isOpen(one)) known.current.add(one.id);
  const entry = entries.find(({ id }) => id === chosen?.entry) ?? entries[0] ?? null;
  const shot = entry?.shots.find((one) => shotKey(one) === chosen?.shot) ?? entry?.shots[0] ?? null;
  const at = entry ? entries.indexOf(entry) : -1;
  const isLeftOut = (one: Shot): boolean => entry !== null && leftOut.has(nameIn(entry, one));

  // What the service says now is what is so.
  useEffect(() => setPending((now) => (now.size === 0 ? now : new Set())), [list]);

  const choose: Review['choose'] = (next, one = next.shots[0]!) => {
    setChosen({ entry: next.id, shot: shotKey(one) });
    setError(null);
  };
  const decide: Review['decide'] = async (kind, options = {}) => {
    if (!entry) return;
    const meant = entry.shots.filter((one) => one.decided === null && !isLeftOut(one));
    if (meant.length === 0) return;
    const isWhole = meant.length === entry.shots.filter(({ decided }) => decided === null).length;
    const next = isWhole ? nextOpen(entries, entry) : undefined;
    setError(null);
    const deciding = meant.map((one) => nameIn(entry, one));
    // What was left out is what is left now.
    setLeftOut((now) => new Set([...now].filter((key) => !key.startsWith(`${entry.id} `))));
    setPending((now) => new Set([...now, ...deciding]));
    if (next) choose(next);
    try {
      const who = personNow();
      const about =
        entry.cluster === null
          ? { captures: meant.map(({ result, capture }) => ({ result, capture })) }
          : { causes: [entry.cluster.key], pairs: meant.map(({ pair }) => pair) };
      const { decided, waiting, batch } = await service.decide({ kind, ...about, ...options, ...(who && { who }) });
      if (batch !== null) batches.current.push(batch);
      setSaid(wordsOf(kind, decided.length, waiting));
    } catch (wrong) {
      setPending((now) => new Set([...now].filter((one) => !deciding.includes(one))));
      choose(entry, shot ?? undefined);
      setError(toProblem(wrong));
    }
  };
  const undo: Review['undo'] = async () => {
    const batch = batches.current.at(-1);
    setError(null);
    if (batch === undefined) return setSaid('You have decided nothing here that could be taken back.');
    try {
      const who = personNow();
      const { captures } = await service.undo({ batch, ...(who && { who }) });
      batches.current.pop();
      setSaid(captures.length > 0 ? `Taken back for ${counted(captures.length, 'capture')}.` : 'Taken back.');
    } catch (wrong) {
      setError(toProblem(wrong));
    }
  };
  const isDone = (id: string): boolean => !entries.some((one) => one.id === id && isOpen(one));
  return {
    entries,
    entry,
    shot,
    at,
    choose,
    step(by) {
      const next = entries[Math.max(0, Math.min(entries.length - 1, at + by))];
      if (next) choose(next);
    },
    stepShot(by) {
      if (!entry || !shot) return;
      const next = entry.shots[Math.max(0, Math.min(entry.shots.length - 1, entry.shots.indexOf(shot) + by))];
      if (next) choose(entry, next);
    },
    isLeftOut,
    leaveOut(one) {
      if (!entry) return;
      const key = nameIn(entry, one);
      setLeftOut((now) => new Set(now.has(key) ? [...now].filter((other) => other !== key) : [...now, key]));
    },
    decide,
    undo,
    done: [...known.current].filter(isDone).length,
    all: known.current.size,
    left: leftIn(entries),
    said,
    error,
    dismiss: () => setError(null),
  };
}

function wordsOf(kind: 'approve' | 'reject', decided: number, waiting: number): string {
  const done = kind === 'approve' ? 'Approved' : 'Rejected';
  const rest = waiting > 0 ? `${counted(waiting, 'capture waits', 'captures wait')} for other causes.` : '';
  if (decided === 0) return rest === '' ? `${done}.` : `${done}: ${rest}`;
  return `${done} ${counted(decided, 'capture')}. ${rest}`.trim();
}
