/** Observers: what else is found out while a look runs, from its mount to its last capture. */
import type { Evidence } from '../../core/run/evidence.ts';

export type Observer = {
  begin(): void;
  /** Ends the observation; what it found becomes part of the look's report. */
  end(): Promise<Evidence[]> | Evidence[];
};

const observers: Observer[] = [];

/** Adds an observer to every look of this document. */
export const observe = (observer: Observer): void => void observers.push(observer);

export function beginObserving(): void {
  for (const observer of observers) observer.begin();
}

export async function endObserving(): Promise<Evidence[]> {
  const evidence = await Promise.all(observers.map((observer) => observer.end()));
  return evidence.flat();
}
