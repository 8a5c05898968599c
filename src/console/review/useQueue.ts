/** Going through what waits for a decision, one item after the other. */
import { useMemo, useState } from 'react';
import { type Problem, toProblem } from '../../core/problem/problem.ts';
import type { Cluster } from '../../core/cause/cluster.ts';
import type { ResultSummary } from '../../core/run/run.ts';
import { service } from '../data.ts';
import { type Item, itemsOf, keyOf } from './items.ts';

export type Queue = {
  items: Item[];
  /** The place of the chosen item. */
  at: number;
  choose(index: number): void;
  /** Decides on the chosen item and goes on to the next; `unsteady` ones are approved only when that is said. */
  decide(kind: 'approve' | 'reject', options?: { why?: string; unsteady?: boolean }): Promise<void>;
  /** Approves a cause wherever it is found. */
  approveCause(cause: Cluster): Promise<void>;
  /** Chooses a capture by its result and name. */
  choosePair(result: number, capture: string): void;
  /** How many were decided since the page was opened. */
  decided: number;
  /** Why the last decision could not be carried out. */
  error: Problem | null;
};

/** Where to begin: at a result, and a capture of it unless the first one is meant. */
export type Place = { result: number; capture: string | null };

const isAt =
  ({ result: id, capture: name }: Place) =>
  ({ result, capture }: Item): boolean =>
    result.id === id && (name === null || capture.name === name);

export function useQueue(results: readonly ResultSummary[], first: Place | null): Queue {
  const items = useMemo(() => itemsOf(results), [results]);
  const [chosen, setChosen] = useState<string | null>(() => {
    const item = first && items.find(isAt(first));
    return item ? keyOf(item) : null;
  });
  const [error, setError] = useState<Problem | null>(null);
  const [decided, setDecided] = useState(0);
  const found = items.findIndex((item) => keyOf(item) === chosen);
  const at = Math.max(0, found);

  const choose = (index: number): void => {
    const next = items[Math.max(0, Math.min(items.length - 1, index))];
    setError(null);
    if (next) setChosen(keyOf(next));
  };
  const decide: Queue['decide'] = async (kind, options = {}) => {
    const item = items[at];
    if (!item) return;
    const next = items[at + 1] ?? items[at - 1];
    try {
      await service.decide({ kind, captures: [{ result: item.result.id, capture: item.capture.name }], ...options });
      setError(null);
      setDecided((n) => n + 1);
      if (next) setChosen(keyOf(next));
    } catch (wrong) {
      setError(toProblem(wrong));
    }
  };
  const approveCause: Queue['approveCause'] = async ({ key }) => {
    try {
      const { decided: done } = await service.decide({ kind: 'approve', causes: [key] });
      setError(null);
      setDecided((n) => n + done.length);
    } catch (wrong) {
      setError(toProblem(wrong));
    }
  };
  const choosePair = (result: number, capture: string): void => setChosen(`${result} ${capture}`);
  return { items, at, choose, decide, approveCause, choosePair, decided, error };
}
