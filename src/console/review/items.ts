/** What waits for a decision, in the order in which it is shown. */
import { type CaptureSummary, isUndecided, type ResultSummary } from '../../core/run/run.ts';
import { compareResults } from '../../core/run/board.ts';

/** A capture that waits, with the result that it belongs to. */
export type Item = { result: ResultSummary; capture: CaptureSummary };

/** Tells items apart, and finds one again after others are gone. */
export const keyOf = ({ result, capture }: Item): string => `${result.id} ${capture.name}`;

/** Changes first, then what is new; each in the order of the board. */
export function itemsOf(results: readonly ResultSummary[]): Item[] {
  const all = [...results]
    .sort(compareResults)
    .flatMap((result) => result.captures.filter(isUndecided).map((capture) => ({ result, capture })));
  return [
    ...all.filter(({ capture }) => capture.state.kind !== 'new'),
    ...all.filter(({ capture }) => capture.state.kind === 'new'),
  ];
}

/** Whether an item is new or differs from its baseline. */
export const kindOf = ({ capture }: Item): 'new' | 'changed' => (capture.state.kind === 'new' ? 'new' : 'changed');
