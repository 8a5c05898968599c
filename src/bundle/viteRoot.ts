/** The folder that a project's Vite takes for its root: its configuration may name another one than it stands in. */
import { existsSync, readFileSync } from 'node:fs';
import { join, resolve } from 'node:path';
import type { ConfigEnv } from 'vite';
import { viteOf } from './vite.ts';

/** In the order in which Vite looks for its configuration. */
const names = ['js', 'mjs', 'ts', 'cjs', 'mts', 'cts'].map((end) => `vite.config.${end}`);

/** Where the configuration of a project's Vite is; undefined where it has none. */
export const configFileOf = (root: string): string | undefined =>
  names.map((name) => join(root, name)).find((path) => existsSync(path));

const known = new Map<string, { text: string; root: string }>();

/**
 * Where Vite looks for its public files, variables and absolute imports. Whoever calls Vite from the folder of the
 * project has to name it, as the root that is given to Vite comes before that of its configuration.
 */
export async function viteRootOf(root: string, env: ConfigEnv): Promise<string> {
  const file = configFileOf(root);
  const text = file ? readFileSync(file, 'utf8') : '';
  // Loading a configuration takes as long as a small build.
  if (!file || !/\broot\b/.test(text)) return root;
  const before = known.get(file);
  if (before?.text === text) return before.root;
  const vite = await viteOf(root);
  // What is wrong with it is told by the build.
  const loaded = await vite.loadConfigFromFile(env, file, root, 'silent').catch(() => null);
  const found = resolve(root, loaded?.config.root ?? '.');
  if (loaded) known.set(file, { text, root: found });
  return found;
}
