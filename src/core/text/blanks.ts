/** Blanks in texts. */

const isBlank = (letter: string | undefined): boolean => letter === ' ';

/**
 * A text with a blank wherever it or another one has one; null when they differ in more than blanks. Both have single
 * blanks only, and none at their ends.
 */
export function withBlanksOf(text: string, other: string): string | null {
  let found = '';
  let [i, j] = [0, 0];
  while (i < text.length || j < other.length) {
    const hasBlank = isBlank(text[i]) || isBlank(other[j]);
    if (isBlank(text[i])) i++;
    if (isBlank(other[j])) j++;
    if (text[i] !== other[j]) return null;
    found += (hasBlank ? ' ' : '') + (text[i++] ?? '');
    j++;
  }
  return found;
}
