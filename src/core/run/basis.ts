/** What a result rests on: while all of it is as it was, the look would come out the same. */
import { addressOf, decodePath } from '../address/address.ts';
import type { Verdict } from './verdict.ts';

export type Basis = {
  /** Hash of what the look is built from, its settings, its environment and the browser. */
  key: string;
  /** Hash of what its captures were compared with. */
  baselines: string;
  /**
   * Hashes of files beside it: of public ones that it has asked for, by their path (`/flag.svg`), and of those that it
   * says it depends on, by their pattern. Empty for what was not there.
   */
  files: Record<string, string>;
};

/** A result as far as it matters for taking it over. */
export type Resting = Omit<Basis, 'key'> & {
  id: number;
  component: string;
  look: string;
  verdict: Verdict;
  isUnsteady: boolean;
  /** It came out differently from an earlier one, although nothing that either rests on had changed. */
  isContradiction: boolean;
  /** Every capture was photographed. */
  isPhotographed: boolean;
  /** It is known what it has run. */
  isCovered: boolean;
  /** Milliseconds. */
  took: number;
};

/** Addresses of Sguardo's own: what they hold is known by other means. */
const own = /^\/(assets|look)\//;

/**
 * Paths of files among the addresses that a look's document has asked for, that are its `origin`'s own and that no
 * bundle holds, with or without success; null when it has asked the real network, which `network` lets it reach.
 */
export function publicPathsOf(asked: readonly string[], origin: string, network: readonly string[]): string[] | null {
  const paths = new Set<string>();
  for (const address of asked) {
    const url = addressOf(address);
    if (url && network.includes(url.origin)) return null;
    const path = url?.origin === origin ? decodePath(url.pathname) : null;
    if (path !== null && !own.test(path)) paths.add(path);
  }
  return [...paths].sort();
}
