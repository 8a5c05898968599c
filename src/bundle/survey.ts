/** What a project is made of now, without building it: whether what is known of its files still holds. */
import { hash } from 'node:crypto';
import { existsSync } from 'node:fs';
import { readdir } from 'node:fs/promises';
import { dirname, join } from 'node:path';
import { glob } from 'tinyglobby';
import { filesBehind, type Graph } from '../core/run/graph.ts';
import type { Settings } from '../core/settings/config.ts';
import { fullPath, shownPath } from './graph.ts';
import type { Inputs } from './inputs.ts';

export type Survey = {
  /** A hash that changes when files come or go, or when anything that all look files share does. */
  key: string;
  /** A hash of its lock file: of which packages are installed. */
  packages: string;
  /** A hash of the names of all files. */
  paths: string;
  /**
   * A hash of everything that a look file is built from, or null when that is not known: it has to be built to learn
   * so.
   */
  hashOf(file: string): string | null;
  /** The files behind a look file, or null when they are not known. */
  closureOf(file: string): readonly string[] | null;
  /** Files that every look file depends on. */
  shared: readonly string[];
  /** As `hashOf`, but for what came of its style sheets; null when its files are not known. */
  ownHashOf(file: string): string | null;
  /** True when a style sheet of a look file has to be made again to know what comes of it. */
  isStale(file: string): boolean;
};

/** Folders whose files belong to nobody's source. */
const aside = ['node_modules', '.git', '.sguardo', 'dist', 'build', 'out', 'coverage'];

/** Files at the top of a project that say how it is built. */
const isConfiguration = (name: string): boolean =>
  /^(\.env|\.babelrc|\.browserslistrc|\.postcssrc|\.swcrc|\.npmrc)/.test(name) ||
  /\.(json|[cm]?[jt]s|ya?ml|lock|lockb|toml)$/.test(name);

const locks = ['package-lock.json', 'npm-shrinkwrap.json', 'pnpm-lock.yaml', 'yarn.lock', 'bun.lock', 'bun.lockb'];

/** The lock file that holds for a folder: its own, or that of a folder around it. */
function lockOf(root: string): string | null {
  for (let folder = root; ; folder = dirname(folder)) {
    const found = locks.map((name) => join(folder, name)).find(existsSync);
    if (found) return found;
    if (dirname(folder) === folder) return null;
  }
}

/** Files of the folders around a project that tools look for from below: compilers, PostCSS, Babel. */
const isLookedFor = (name: string): boolean =>
  /^(tsconfig.*\.json|(postcss|babel|tailwind)\.config\.\w+|\.(postcss|babel|browserslist)rc.*)$/.test(name);

/** Settings in the folders around a project, up to the one with its lock file. */
async function settingsAround(root: string, lock: string | null): Promise<string[]> {
  const found: string[] = [];
  if (lock === null) return found;
  for (let folder = root; folder !== dirname(lock); ) {
    folder = dirname(folder);
    const names = (await readdir(folder)).filter(isLookedFor).sort();
    found.push(...names.map((name) => join(folder, name)));
  }
  return found;
}

const digest = (parts: readonly string[]): string => hash('sha256', parts.join('\n'), 'base64url').slice(0, 32);

/** A hash of what is in some files now. */
export const hashOfAll = (root: string, inputs: Inputs, files: readonly string[]): string =>
  digest(files.map((file) => `${file} ${inputs.hashOf(fullPath(root, file))}`));

/** Variables of the environment that reach what is built. */
const variables = (): string[] =>
  Object.entries(process.env)
    .filter(([name]) => /^VITE_|^NODE_ENV$/.test(name))
    .map(([name, value]) => `${name}=${value}`)
    .sort();

/** Every file of the project's source, and nothing else that a build could find. */
async function pathsOf(root: string, { baselines }: Settings): Promise<string[]> {
  const ignore = [...aside, ...(baselines === null ? [] : [baselines])].map((name) => `**/${name}/**`);
  return (await glob('**/*', { cwd: root, ignore, dot: false, expandDirectories: false })).sort();
}

/**
 * Looks at a project. `own` stands for Sguardo itself and the bundler: what another version has built is not known.
 */
export async function surveyProject(
  root: string,
  settings: Settings,
  known: Graph | null,
  inputs: Inputs,
  own: string,
): Promise<Survey> {
  const top = (await readdir(root)).filter(isConfiguration).sort();
  const lock = lockOf(root);
  const above = [...(await settingsAround(root, lock)), ...(lock ? [lock] : [])];
  const around = above.map((path) => shownPath(root, path));
  const shared = [...new Set([...top, ...(known?.configuration ?? []), ...around])];
  // Most files are behind many look files.
  const seen = new Map<string, string>();
  const content = (file: string): string => {
    const before = seen.get(file);
    if (before !== undefined) return before;
    const short = digest([file, inputs.hashOf(fullPath(root, file))]);
    seen.set(file, short);
    return short;
  };
  const configuration = digest([own, ...variables(), ...shared.map(content)]);
  const paths = digest(await pathsOf(root, settings));
  const key = digest([configuration, paths]);
  const holds = known?.key === key;
  const hashes = new Map<string, string | null>();
  const graph = holds ? known : null;
  const fresh = new Map<string, boolean>();
  /** True for a style sheet that would come out as it did when it was made. */
  const isFresh = (file: string): boolean => {
    const style = graph?.styles[file];
    const found = fresh.get(file) ?? (!style || hashOfAll(root, inputs, style.files) === style.of);
    fresh.set(file, found);
    return found;
  };
  const isStale = (file: string): boolean => graph?.closures[file]?.every(isFresh) === false;
  return {
    key,
    packages: lock ? inputs.hashOf(lock) : '',
    paths,
    shared,
    closureOf: (file) => filesBehind(graph, file),
    isStale,
    ownHashOf(file) {
      const closure = graph?.closures[file];
      return closure ? digest(closure.map(content)) : null;
    },
    hashOf(file) {
      const before = hashes.get(file);
      if (before !== undefined) return before;
      const closure = graph?.closures[file];
      const made = closure?.map((one) => graph?.styles[one]?.made ?? '') ?? [];
      const isKnown = closure !== undefined && !isStale(file);
      const whole = isKnown ? digest([configuration, ...closure.map(content), ...made]) : null;
      hashes.set(file, whole);
      return whole;
    },
  };
}
