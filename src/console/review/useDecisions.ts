/** Deciding, and taking back what was decided here. */
import { useEffect, useRef, useState } from 'react';
import type { CauseList } from '../../core/cause/cluster.ts';
import { type Problem, toProblem } from '../../core/problem/problem.ts';
import { aboutOf, type Entry, type Shot, shotKey } from '../../core/review/entries.ts';
import { counted } from '../../core/text/counted.ts';
import { service } from '../data.ts';
import { personNow } from './usePerson.ts';

/** What a decision says beside its kind. */
export type Said = { why?: string; fixer?: string; unsteady?: boolean; take?: 'base' | 'ours' | 'theirs' };

/** One text for a capture of an entry. */
export const nameIn = ({ id }: Entry, shot: Shot): string => `${id} ${shotKey(shot)}`;

export type Decisions = {
  /** Captures of entries that are being decided about: they count as decided until the service says what is so. */
  pending: ReadonlySet<string>;
  /** What was done last, in words, and why it could not be. */
  said: string | null;
  error: Problem | null;
  dismiss(): void;
  /** False when it was refused. */
  decide(entry: Entry, meant: readonly Shot[], kind: 'approve' | 'reject', said?: Said): Promise<boolean>;
  undo(): Promise<void>;
};

const by = (): { who?: string } => {
  const who = personNow();
  return who === null ? {} : { who };
};

export function useDecisions(list: CauseList): Decisions {
  const [pending, setPending] = useState<ReadonlySet<string>>(new Set());
  const [said, setSaid] = useState<string | null>(null);
  const [error, setError] = useState<Problem | null>(null);
  const batches = useRef<number[]>([]);
  // What the service says now is what is so.
  useEffect(() => setPending((now) => (now.size === 0 ? now : new Set())), [list]);
  return {
    pending,
    said,
    error,
    dismiss: () => setError(null),
    async decide(entry, meant, kind, options = {}) {
      const deciding = new Set(meant.map((one) => nameIn(entry, one)));
      setError(null);
      setPending((now) => new Set([...now, ...deciding]));
      try {
        const { decided, waiting, batch } = await service.decide({
          kind,
          ...aboutOf(entry, meant),
          ...options,
          ...by(),
        });
        if (batch !== null) batches.current.push(batch);
        setSaid(wordsOf(kind, decided.length, waiting));
        return true;
      } catch (wrong) {
        setPending((now) => new Set([...now].filter((one) => !deciding.has(one))));
        setError(toProblem(wrong));
        return false;
      }
    },
    async undo() {
      const batch = batches.current.at(-1);
      setError(null);
      if (batch === undefined) return setSaid('You have decided nothing here that could be taken back.');
      try {
        const { captures } = await service.undo({ batch, ...by() });
        batches.current.pop();
        setSaid(captures.length > 0 ? `Taken back for ${counted(captures.length, 'capture')}.` : 'Taken back.');
      } catch (wrong) {
        setError(toProblem(wrong));
      }
    },
  };
}

function wordsOf(kind: 'approve' | 'reject', decided: number, waiting: number): string {
  const done = kind === 'approve' ? 'Approved' : 'Rejected';
  const rest = waiting > 0 ? `${counted(waiting, 'capture waits', 'captures wait')} for other causes.` : '';
  if (decided === 0) return rest === '' ? `${done}.` : `${done}: ${rest}`;
  return `${done} ${counted(decided, 'capture')}. ${rest}`.trim();
}
