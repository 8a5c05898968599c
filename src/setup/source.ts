/** Files of a project that is being set up. */
import { readFileSync } from 'node:fs';
import { join } from 'node:path';

/** The text of a file; null where it cannot be read. */
export function sourceAt(root: string, path: string): string | null {
  try {
    return readFileSync(join(root, path), 'utf8');
  } catch {
    return null;
  }
}
