/** Budgets: what a look may cost. */
import { type CostKind, type Costs, costKinds, costText, costWords } from './costs.ts';

export type Budget = Partial<Record<CostKind, number>>;

/** True for a budget as a look file may say it: numbers from 0, by the names of costs. */
export const isBudget = (value: unknown): value is Budget =>
  typeof value === 'object' &&
  value !== null &&
  !Array.isArray(value) &&
  Object.entries(value).every(
    ([kind, most]) =>
      (costKinds as readonly string[]).includes(kind) && typeof most === 'number' && most >= 0 && Number.isFinite(most),
  );

/** What was spent beyond a budget, one thing a line; `costs` are the medians of several runs, or of one. */
export const overspent = (budget: Budget, costs: Costs): string[] =>
  costKinds.flatMap((kind) => {
    const most = budget[kind];
    const spent = costs[kind];
    if (most === undefined || spent === null || spent <= most) return [];
    return [`${costWords[kind].title}: ${costText(kind, spent)}, at most ${costText(kind, most)}`];
  });
