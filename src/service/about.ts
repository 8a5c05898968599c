/** What the sources say of the component that a look file is of: where it is, its props, and words about it. */
import { readFileSync } from 'node:fs';
import { posix } from 'node:path';
import type { Component } from '../core/draft/draft.ts';
import type { FileUsage } from '../core/handbook/usage.ts';
import { shortName } from '../core/look/look.ts';
import { filesBehind } from '../core/run/graph.ts';
import type { Store } from '../store/index.ts';
import { componentsOf, usageOf } from '../work/index.ts';
import { fileInside } from './projectFile.ts';

const endings = [
  '',
  '.tsx',
  '.jsx',
  '.ts',
  '.js',
  '.mts',
  '.mjs',
  '.vue',
  '.svelte',
  '/index.tsx',
  '/index.ts',
  '/index.js',
];

/** The file that a look file means by a module: beside it, or one of those that it depends on. */
function sourceBehind(root: string, file: string, from: string | null, closure: readonly string[]): string | null {
  const own = posix.dirname(file);
  const near = from?.startsWith('.') ? posix.join(own, from) : null;
  const beside = near ?? posix.join(own, shortName(file.replace(/\.look\.[jt]sx?$/, '')));
  const candidates = [beside, beside.replace(/\.[cm]?jsx?$/, '')].flatMap((path) => endings.map((end) => path + end));
  const found = candidates.find((path) => fileInside(root, path) !== null && !path.endsWith('/'));
  if (found || !from || near) return found ?? null;
  // An alias: what it ends with is all that can be told of it.
  const last = from.slice(from.lastIndexOf('/') + 1).replace(/\.\w+$/, '');
  return closure.find((path) => shortName(path).replace(/\.\w+$/, '') === last) ?? null;
}

/** The text of a file of the project; null for one that is not there. */
export const read = (root: string, path: string): string | null => {
  const full = fileInside(root, path);
  return full ? readFileSync(full, 'utf8') : null;
};

/** The words of a component: a Markdown file beside it, or its doc comment. */
function proseOf(root: string, file: string, source: string | null, about: string) {
  const bases = [file.replace(/\.look\.[jt]sx?$/, ''), source?.replace(/\.\w+$/, '')].filter(
    (one) => one !== undefined,
  );
  for (const base of bases) {
    const text = read(root, `${base}.md`);
    if (text !== null) return { prose: text, proseFile: `${base}.md` };
  }
  return { prose: about === '' ? null : about, proseFile: null };
}

/** What is known of a component by its sources. */
export type About = ReturnType<typeof proseOf> & {
  usage: FileUsage;
  source: string | null;
  component: Component | undefined;
};

/** Reads the source and the words of the component that a look file is of. */
export async function aboutOf(root: string, store: Store, file: string): Promise<About> {
  const text = read(root, file);
  const usage: FileUsage = text === null ? { component: null, from: null, usages: {} } : await usageOf(file, text);
  const source = sourceBehind(root, file, usage.from, filesBehind(store.graph.read(), file) ?? []);
  const offered = source === null ? [] : await componentsOf(root, source).catch(() => []);
  const component = offered.find(({ name, tag }) => name === usage.component || tag === usage.component) ?? offered[0];
  const words = proseOf(root, file, source, component?.described.about ?? '');
  return { usage, source, component, ...words };
}
