/** The project's own Vite, or ours when it has none. */
import { readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import { dirname, join } from 'node:path';
import { pathToFileURL } from 'node:url';

type Vite = typeof import('vite');

/** Where the Vite is that a project's modules would import; null when it has none. */
function homeOf(root: string): string | null {
  try {
    // Not what `require` would find of Vite itself: until Vite 5 that is another, incomplete one.
    return dirname(createRequire(join(root, 'package.json')).resolve('vite/package.json'));
  } catch {
    return null;
  }
}

const mainOf = (home: string): string => join(home, 'dist/node/index.js');

/** The main module of our own Vite. */
export const ourVite = (): string => mainOf(homeOf(import.meta.dirname)!);

/** The version of a project's Vite, without loading it. */
export function viteVersionOf(root: string): string {
  const home = homeOf(root) ?? homeOf(import.meta.dirname);
  return (JSON.parse(readFileSync(join(home!, 'package.json'), 'utf8')) as { version: string }).version;
}

/** The Vite (5 to 8) that a project's modules would import. */
export async function viteOf(root: string): Promise<Vite> {
  // Development builds of React and others explain their errors.
  process.env.NODE_ENV ??= 'development';
  const home = homeOf(root);
  try {
    if (home) return (await import(pathToFileURL(mainOf(home)).href)) as Vite;
  } catch {}
  return import('vite');
}
