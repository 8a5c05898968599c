/** Which kind of components a look file is of: what it imports says so, or else what the project depends on. */
import { readFileSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { type Kind, kinds } from '../core/look/kind.ts';

/** The package by which a project shows that it uses a framework; the first one that it depends on counts. */
const packages: readonly [string, Kind][] = [
  ['react', 'react'],
  // It stands in for React where its own preset for Vite says so.
  ['preact', 'react'],
  ['vue', 'vue'],
  ['svelte', 'svelte'],
  ['@angular/core', 'angular'],
];

/** Packages of which a page must have only one copy: the project's own. */
export const frameworkPackages = [
  'react',
  'react-dom',
  'preact',
  'vue',
  'svelte',
  '@angular/core',
  '@angular/common',
  '@angular/platform-browser',
];

const imported = new RegExp(`from\\s*['"]sguardo/(${kinds.join('|')})['"]`);

type Package = Partial<Record<'dependencies' | 'devDependencies' | 'peerDependencies', Record<string, string>>>;

function packageIn(folder: string): Package | null {
  try {
    return JSON.parse(readFileSync(join(folder, 'package.json'), 'utf8')) as Package;
  } catch {
    return null;
  }
}

/**
 * What a project is mostly written in; `dom` where it depends on no framework that is known. A package may leave it to
 * one above it to say so: with markup in its code it has to have one.
 */
function usualKind(root: string, hasMarkup: boolean): Kind {
  for (let folder = root; ; folder = dirname(folder)) {
    const { dependencies, devDependencies, peerDependencies } = packageIn(folder) ?? {};
    const names = { ...devDependencies, ...peerDependencies, ...dependencies };
    const found = packages.find(([name]) => name in names);
    if (found) return found[1];
    const isEnough = Object.keys(names).length > 0 && !hasMarkup;
    if (isEnough || folder === dirname(folder)) return 'dom';
  }
}

const endings: Record<string, Kind> = { vue: 'vue', svelte: 'svelte' };

/** The kind of a look file, or of a frame. */
export function kindOf(root: string, file: string): Kind {
  const ending = endings[file.split('.').at(-1)!];
  if (ending) return ending;
  let source = '';
  try {
    source = readFileSync(join(root, file), 'utf8');
  } catch {
    // Whoever builds it says that it is not there.
  }
  return (imported.exec(source)?.[1] as Kind | undefined) ?? usualKind(root, /\.[jt]sx$/.test(file));
}
