/** The folder that a project's Vite takes for its root: its configuration may name another one than it stands in. */
import { existsSync, readFileSync } from 'node:fs';
import { join, resolve } from 'node:path';
import type { ConfigEnv } from 'vite';
import { viteOf } from './vite.ts';

/** In the order in which Vite looks for its configuration. */
const names = ['js', 'mjs', 'ts', 'cjs', 'mts', 'cts'].map((end) => `vite.config.${end}`);

/** Where the configuration of a project's Vite is; undefined where it has none. */
const configFileOf = (root: string): string | undefined =>
  names.map((name) => join(root, name)).find((path) => existsSync(path));

/** Where Vite works: what it is called with for that. */
type Place = { root: string; configFile: string | undefined };

const known = new Map<string, { text: string; root: string }>();

/**
 * The root that Vite has by itself, where it looks for public files, variables and absolute imports. It has to be
 * named whenever Vite is called, as a root that is given to it comes before that of its configuration.
 */
export async function viteIn(root: string, env: ConfigEnv): Promise<Place> {
  const configFile = configFileOf(root);
  const text = configFile ? readFileSync(configFile, 'utf8') : '';
  // Loading a configuration takes as long as a small build.
  if (!configFile || !/\broot\b/.test(text)) return { root, configFile };
  const key = JSON.stringify([configFile, env]);
  const before = known.get(key);
  if (before?.text === text) return { root: before.root, configFile };
  const vite = await viteOf(root);
  // What is wrong with it is told by the build.
  const loaded = await vite.loadConfigFromFile(env, configFile, root, 'silent').catch(() => null);
  const found = resolve(root, loaded?.config.root ?? '.');
  if (loaded) known.set(key, { text, root: found });
  return { root: found, configFile };
}
