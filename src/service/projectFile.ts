/** Files of the project, by paths that somebody else has named. */
import { realpathSync, statSync } from 'node:fs';
import { isAbsolute, join, relative, resolve, sep } from 'node:path';

/** The full path of a file inside the project; null where there is none, or a link leads out. */
export function fileInside(root: string, path: string): string | null {
  try {
    const real = realpathSync(resolve(root, path));
    const inside = relative(realpathSync(root), real);
    const isInside = inside !== '' && !inside.startsWith(`..${sep}`) && inside !== '..' && !isAbsolute(inside);
    const isHidden = inside.split(sep).some((part) => part.startsWith('.') || part === 'node_modules');
    return isInside && !isHidden && statSync(real).isFile() ? join(root, inside) : null;
  } catch {
    return null;
  }
}
