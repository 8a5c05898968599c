/** The components of a project: those that a file offers, and those that there are. */
import { existsSync, readFileSync } from 'node:fs';
import { extname, join, relative, sep } from 'node:path';
import { glob } from 'tinyglobby';
import type { ComponentInfo } from '../core/api/api.ts';
import type { Component } from '../core/draft/draft.ts';
import { elementsIn } from '../core/props/manifest.ts';
import type { Prop, PropTypes } from '../core/props/type.ts';
import { kindOf } from './kinds.ts';
import { readComponents, seeComponents } from './propTypes.ts';

/** What nobody would write looks of. */
const aside = [
  ...['node_modules', 'dist', 'build', 'out', 'coverage', '.sguardo', '.git'].map((folder) => `**/${folder}/**`),
  ...['test', 'spec', 'config', 'd'].map((word) => `**/*.${word}.*`),
  ...['**/test/**', '**/tests/**', '**/__tests__/**', '**/__mocks__/**', 'sguardo.*', 'public/**'],
];

/** What a look file beside the component imports. */
const importOf = (file: string): string => {
  const name = `./${file.split('/').at(-1)!}`;
  return /\.(vue|svelte)$/.test(name) ? name : name.replace(/\.[cm]?[jt]sx?$/, '');
};

/** The project's manifest of custom elements; null where it has none that can be read. */
function manifestOf(root: string): unknown {
  const read = (file: string): unknown => {
    try {
      return JSON.parse(readFileSync(join(root, file), 'utf8'));
    } catch {
      return null;
    }
  };
  const { customElements } = (read('package.json') ?? {}) as { customElements?: unknown };
  return read(typeof customElements === 'string' ? customElements : 'custom-elements.json');
}

/** What the source says of an element, and what the manifest says where that says nothing. */
function withManifest(types: PropTypes | null, declared: Record<string, Prop> | undefined): PropTypes | null {
  if (!declared || (types && types.is !== 'object')) return types;
  const entries: Record<string, Prop> = { ...types?.entries };
  for (const [name, prop] of Object.entries(declared))
    if (!entries[name] || entries[name].type.is === 'anything') entries[name] = prop;
  return { is: 'object', name: '', others: null, ...types, entries };
}

/** The components that a file of the project offers, the first one being what it is for. */
export async function componentsOf(root: string, file: string): Promise<Component[]> {
  const path = join(root, file);
  const kind = kindOf(root, file);
  const found = (await readComponents({ root, files: [{ path, kind }] }))[path] ?? [];
  const declared = kind === 'dom' ? elementsIn(manifestOf(root), file) : new Map<string, never>();
  return found.map((one) => {
    const types = withManifest(one.types, declared.get(one.tag ?? '') ?? declared.get(one.name));
    return { ...one, types, kind, from: importOf(file) };
  });
}

/** Where the look file of a component goes, and its source; a look file in JavaScript for one in JavaScript. */
export function draftPlace(
  root: string,
  file: string,
): { path: string; source: string; isTyped: boolean; isThere: boolean } {
  const source = readFileSync(join(root, file), 'utf8');
  const end = extname(file);
  const isSingle = end === '.vue' || end === '.svelte';
  const isTyped = isSingle ? /<script[^>]*\blang=["']ts/.test(source) : /^\.[cm]?tsx?$/.test(end);
  const base = file.slice(0, -end.length);
  const path = `${base}.look.${isTyped ? 'ts' : 'js'}${/x$/.test(end) ? 'x' : ''}`;
  const others = ['tsx', 'jsx', 'ts', 'js'].map((one) => `${base}.look.${one}`);
  return { path, source, isTyped, isThere: others.some((one) => existsSync(join(root, one))) };
}

/** The components that there are, most imported first; those that look files import have looks. */
export async function componentsIn(root: string, lookFiles: readonly string[]): Promise<ComponentInfo[]> {
  const patterns = ['**/*.{tsx,jsx,vue,svelte,ts,js,mts,mjs}'];
  const known = new Set(lookFiles);
  const found = (await glob(patterns, { cwd: root, ignore: aside })).map((one) => one.split(sep).join('/'));
  const files = found
    .filter((one) => !known.has(one))
    .map((one) => ({ path: join(root, one), kind: kindOf(root, one) }));
  const seen = await seeComponents({ root, files, lookFiles: lookFiles.map((one) => join(root, one)) });
  return seen
    .map(({ path, ...one }) => ({ ...one, file: relative(root, path).split(sep).join('/') }))
    .sort((a, b) => b.imports - a.imports || (a.file < b.file ? -1 : 1));
}
