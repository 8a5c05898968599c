/** Ends what tests have started. */

const ends: (() => unknown)[] = [];

/** Has something done when the file's tests are over, however they went; what was started last ends first. */
export const afterwards = (end: () => unknown): void => void ends.push(end);

/** Ends everything that the present file has started. */
export async function endAll(): Promise<void> {
  for (const end of ends.splice(0).reverse()) await end();
}
