/** The project's own Vite, or ours when it has none. */
import { createRequire } from 'node:module';
import { dirname, join } from 'node:path';
import { pathToFileURL } from 'node:url';

type Vite = typeof import('vite');

/** The Vite (5 to 8) that a project's modules would import. */
export async function viteOf(root: string): Promise<Vite> {
  // Development builds of React and others explain their errors.
  process.env.NODE_ENV ??= 'development';
  try {
    // Not what `require` would find: until Vite 5 that is another, incomplete one.
    const home = dirname(createRequire(join(root, 'package.json')).resolve('vite/package.json'));
    return (await import(pathToFileURL(join(home, 'dist/node/index.js')).href)) as Vite;
  } catch {
    return import('vite');
  }
}
