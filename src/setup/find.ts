/** What a project is made of, as far as its looks have to know. */
import { existsSync, readFileSync } from 'node:fs';
import { basename, dirname, join, posix, relative, sep } from 'node:path';
import { globSync } from 'tinyglobby';
import { type Style, styleOf } from '../core/draft/style.ts';
import type { Kind } from '../core/look/kind.ts';
import { kindOf } from '../bundle/kinds.ts';
import { viteIn } from '../bundle/viteRoot.ts';
import { type Around, aroundIn } from './entry.ts';
import { readPackage } from './package.ts';

export type Findings = {
  root: string;
  kind: Kind;
  /** Preact stands in for React. */
  isPreact: boolean;
  /** Package names and versions of the frameworks that it depends on. */
  frameworks: string[];
  dependencies: Record<string, string>;
  isTyped: boolean;
  viteConfig: string | null;
  /** The page of the app, from the root: `index.html`, unless Vite has a root of its own. */
  page: string | null;
  /** The script that starts the app, from the root. */
  entry: string | null;
  around: Around;
  /** The attribute by which its tests find elements, and how often it stands there. */
  mark: { attribute: string; count: number } | null;
  /** Its styles have a dark side. */
  isDark: boolean;
  isInGit: boolean;
  style: Style;
};

const frameworks = ['react', 'preact', 'vue', 'svelte', '@angular/core', 'lit', 'solid-js'];

const firstThere = (root: string, names: readonly string[]): string | null =>
  names.find((name) => existsSync(join(root, name))) ?? null;

/** What apps without a page of their own begin with: an outermost layout, or the root of a router. */
const roots = [
  'src/routes/+layout.svelte',
  ...['app/root', 'app/layout', 'src/app/layout', 'pages/_app', 'src/pages/_app'].flatMap((name) =>
    ['tsx', 'jsx', 'js'].map((end) => `${name}.${end}`),
  ),
];

/** The script of the page, or the one that apps of its kind begin with. */
function entryOf(root: string, folder: string, html: string): string | null {
  const script = /<script[^>]*\bsrc=["']\/?([^"']+)["'][^>]*>/.exec(html)?.[1];
  const found = script && posix.join(folder, script);
  if (found && existsSync(join(root, found))) return found;
  const usual = ['main', 'index'].flatMap((name) => ['tsx', 'jsx', 'ts', 'js'].map((end) => `src/${name}.${end}`));
  return firstThere(root, [...usual, ...roots]);
}

const sources = (root: string, ends: string): string[] =>
  globSync([`**/*.${ends}`], {
    cwd: root,
    ignore: ['**/node_modules/**', '**/dist/**', '**/build/**', '**/coverage/**', '**/.*/**'],
  }).slice(0, 2000);

const read = (path: string): string => {
  try {
    return readFileSync(path, 'utf8');
  } catch {
    return '';
  }
};

/** Attributes that a project marks elements with for its tests; the one that it uses most. */
function markIn(texts: readonly string[]): Findings['mark'] {
  const counts = new Map<string, number>();
  for (const text of texts)
    for (const [, name] of text.matchAll(/[\s"'[](data-(?:test[\w-]*|qa[\w-]*|e2e[\w-]*|automation[\w-]*))=/g))
      counts.set(name!, (counts.get(name!) ?? 0) + 1);
  const [best] = [...counts].sort(([, a], [, b]) => b - a);
  return best ? { attribute: best[0], count: best[1] } : null;
}

function isInGit(root: string): boolean {
  for (let folder = root; ; folder = dirname(folder)) {
    if (existsSync(join(folder, '.git'))) return true;
    if (folder === dirname(folder)) return false;
  }
}

/** Styles that Angular's own configuration lists. */
function stylesOfAngular(root: string): string[] {
  const listed = /"styles"\s*:\s*\[([^\]]*)\]/.exec(read(join(root, 'angular.json')))?.[1] ?? '';
  return [...listed.matchAll(/"([^"]+\.(?:css|scss|sass|less))"/g)].map(([, path]) => path!);
}

/** Looks around in a package. */
export async function findIn(root: string): Promise<Findings> {
  const { dependencies = {}, devDependencies = {}, peerDependencies = {} } = readPackage(root) ?? {};
  const all = { ...peerDependencies, ...devDependencies, ...dependencies };
  const vite = await viteIn(root, { command: 'serve', mode: 'development' });
  const page = firstThere(root, [relative(root, join(vite.root, 'index.html')).split(sep).join('/')]);
  const folder = posix.dirname(page ?? 'index.html');
  const html = page ? read(join(root, page)) : '';
  const entry = entryOf(root, folder, html);
  const code = sources(root, '{tsx,jsx,vue,svelte,ts,js,html}');
  // A name that no file has: it is asked of the project as a whole.
  const kind = kindOf(root, code.some((path) => /\.[jt]sx$/.test(path)) ? 'any.tsx' : '');
  const texts = code.map((path) => read(join(root, path)));
  const linked = [...html.matchAll(/<link[^>]*\bhref=["']\/?([^"']+\.css)["']/g)].map(([, path]) =>
    posix.join(folder, path!),
  );
  const around = aroundIn(root, entry, kind);
  const own = [...linked, ...stylesOfAngular(root)].map((path) => `./${path.split(sep).join('/')}`);
  const styles = [...new Set([...own, ...around.styles])];
  return {
    root,
    kind,
    isPreact: all.preact !== undefined && all.react === undefined,
    frameworks: frameworks.filter((name) => name in all).map((name) => `${name} ${all[name]}`),
    dependencies: all,
    isTyped: existsSync(join(root, 'tsconfig.json')) || code.some((path) => /\.tsx?$/.test(path)),
    viteConfig: vite.configFile ? basename(vite.configFile) : null,
    page,
    entry,
    around: {
      ...around,
      styles: styles.filter((path) => !path.startsWith('.') || existsSync(join(root, path))),
    },
    mark: markIn(texts),
    isDark: sources(root, '{css,scss,less}').some((path) =>
      /prefers-color-scheme:\s*dark/.test(read(join(root, path))),
    ),
    isInGit: isInGit(root),
    style: styleOf(entry ? read(join(root, entry)) : '', true),
  };
}
