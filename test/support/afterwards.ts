/** Ends what tests have started. */
import { afterAll } from 'vitest';

const ends: (() => unknown)[] = [];

// Hooks are taken while a file is being read only: one that a running test registers would never be called.
afterAll(async () => {
  for (const end of ends.splice(0).reverse()) await end();
});

/** Has something done when the file's tests are over, however they went; what was started last ends first. */
export const afterwards = (end: () => unknown): void => void ends.push(end);
