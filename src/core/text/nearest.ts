/** The word that somebody may have meant. */
import { distance } from 'fastest-levenshtein';

/** The known word nearest to a mistyped one, if any is near. */
export function nearest(word: string, known: readonly string[]): string | undefined {
  const near = known.map((name) => ({ name, edits: distance(word.toLowerCase(), name.toLowerCase()) }));
  near.sort((a, b) => a.edits - b.edits);
  return near[0] && near[0].edits <= Math.max(2, word.length / 2) ? near[0].name : undefined;
}

const letters = (word: string): string => [...word.toLowerCase()].sort().join('');

/** True for a word that is a known one but for a letter, or for letters in another order. */
export const isSlipOf = (word: string, known: readonly string[]): boolean =>
  known.some((one) => distance(word.toLowerCase(), one.toLowerCase()) < 2 || letters(word) === letters(one));
