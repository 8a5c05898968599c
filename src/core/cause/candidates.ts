/** Edits as people would tell them: what belongs together is one candidate for a cause. */
import type { CauseKind, Trace } from './cause.ts';
import type { Edit, Edits } from './edits.ts';
import { join } from './joining.ts';
import type { Pair } from './pair.ts';
import { tellEdit } from './telling.ts';

export type Candidate = {
  key: string;
  kind: CauseKind;
  title: string;
  before: string | null;
  now: string | null;
  /** Numbers of the edits. */
  edits: number[];
  /** The elements that it is about: as they are now, or as they were when they are gone. */
  nodes: number[];
  /** Selectors of the rules that it is about. */
  selectors: string[];
  /** Somebody would notice it although no pixel changes. */
  isPerceived: boolean;
  trace: Trace;
};

/** One edit by itself. */
export type Told = Omit<Candidate, 'edits'>;

/** All candidates, what is the same in several places told once. */
export function candidatesOf(pair: Pair, edits: Edits): Candidate[] {
  const told = edits.list.map((edit: Edit, at): Candidate => ({ ...tellEdit(pair, edit), edits: [at] }));
  const byKey = new Map<string, Candidate>();
  for (const one of join(pair, edits, told)) {
    const same = byKey.get(one.key);
    if (!same) byKey.set(one.key, { ...one });
    else {
      same.edits = [...same.edits, ...one.edits];
      same.nodes = [...new Set([...same.nodes, ...one.nodes])];
      same.selectors = [...new Set([...same.selectors, ...one.selectors])];
      same.isPerceived ||= one.isPerceived;
    }
  }
  return [...byKey.values()];
}
