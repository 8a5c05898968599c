/** The project's own Vite, or ours when it has none. */
import { createRequire } from 'node:module';
import { join } from 'node:path';
import { pathToFileURL } from 'node:url';

type Vite = typeof import('vite');

export async function viteOf(root: string): Promise<Vite> {
  // Development builds of React and others explain their errors.
  process.env.NODE_ENV ??= 'development';
  try {
    const path = createRequire(join(root, 'package.json')).resolve('vite');
    return (await import(pathToFileURL(path).href)) as Vite;
  } catch {
    return import('vite');
  }
}
