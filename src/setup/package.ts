/** Packages: the one that a folder belongs to, and those of a monorepo. */
import { existsSync, readFileSync } from 'node:fs';
import { dirname, join, relative, resolve } from 'node:path';
import { globSync } from 'tinyglobby';
import { fail } from '../core/problem/problem.ts';

type Dependencies = Record<string, string>;

export type Package = {
  name?: string;
  workspaces?: unknown;
  dependencies?: Dependencies;
  devDependencies?: Dependencies;
  peerDependencies?: Dependencies;
};

/** What a folder's `package.json` says; null where there is none that can be read. */
export function readPackage(folder: string): Package | null {
  try {
    return JSON.parse(readFileSync(join(folder, 'package.json'), 'utf8')) as Package;
  } catch {
    return null;
  }
}

/** Patterns of the folders in which a monorepo has its packages. */
function workspacesOf(folder: string): string[] {
  const listed = readPackage(folder)?.workspaces as { packages?: unknown } | null | undefined;
  const patterns = [listed, listed?.packages].flat().filter((one) => typeof one === 'string');
  const other = join(folder, 'pnpm-workspace.yaml');
  if (!existsSync(other)) return patterns;
  const found = [...readFileSync(other, 'utf8').matchAll(/^\s*-\s*['"]?([^'"\n#]+?)['"]?\s*$/gm)];
  return [...patterns, ...found.map(([, pattern]) => pattern!)];
}

const frameworks = ['react', 'preact', 'vue', 'svelte', '@angular/core', 'lit', 'solid-js'];

/** True for a package that has components: it depends on a framework, or is built with Vite. */
function hasComponents(folder: string): boolean {
  const { dependencies, devDependencies, peerDependencies } = readPackage(folder) ?? {};
  const all = { ...dependencies, ...devDependencies, ...peerDependencies };
  return frameworks.some((name) => name in all) || globSync(['vite.config.*'], { cwd: folder }).length > 0;
}

/**
 * The package that looks are set up in: that of a folder, or the only one with components in a monorepo.
 * @throws ProblemError `setup-where`, `setup-which`
 */
export function packageFor(folder: string): string {
  for (let at = resolve(folder); ; at = dirname(at)) {
    if (existsSync(join(at, 'package.json'))) return within(at);
    if (at === dirname(at)) return fail('setup-where', { folder });
  }
}

function within(folder: string): string {
  const patterns = workspacesOf(folder);
  if (patterns.length === 0 || hasComponents(folder)) return folder;
  const files = patterns.map((pattern) => `${pattern.replace(/\/$/, '')}/package.json`);
  const found = globSync(files, { cwd: folder, ignore: ['**/node_modules/**'], absolute: true })
    .map((file) => dirname(file))
    .filter(hasComponents)
    .sort();
  if (found.length === 1) return found[0]!;
  if (found.length === 0) return folder;
  return fail('setup-which', { folder, packages: found.map((one) => relative(folder, one)).join(', ') });
}
