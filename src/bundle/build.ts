/** Builds look files with the project's Vite, as pages that are loaded from memory. */
import { createHash } from 'node:crypto';
import { join, relative, sep } from 'node:path';
import type { BuildEnvironmentOptions, Plugin, Rolldown } from 'vite';
import type { Behind } from '../core/run/graph.ts';
import { standIns } from './blame.ts';
import { beginCompiling, keepCompiled } from './compiled.ts';
import { refuseDecorators } from './decorators.ts';
import { keepEffects } from './effects.ts';
import { basePrefix, entries, entryPrefix, inputsOf, type Sources, takenInstead } from './entries.ts';
import { followBuild } from './graph.ts';
import { frameworkPackages } from './kinds.ts';
import { lazyInOrder } from './lazy.ts';
import { settleMarkers } from './markers.ts';
import { languageAlias } from './own.ts';
import { ownPages, ownPagesIn } from './ownPages.ts';
import { type Prepared, preparedIn } from './prepared.ts';
import { refuseTemplates } from './templates.ts';
import { viteOf } from './vite.ts';
import { viteIn } from './viteRoot.ts';

const outFolder = '.sguardo-bundle';

/** Where bundled scripts would lie if they were written: what their source maps are relative to. */
export const bundleFolder = (root: string): string => join(root, outFolder);

/** What comes of a build. */
export type Built = {
  output: Rolldown.RolldownOutput['output'];
  publicFolder: string | null;
  behind: Behind;
  /** Files behind the Vite configuration. */
  configuration: string[];
  /** What was put together before, and is imported by what was built; null when nothing is. */
  prepared: Prepared | null;
};

/** How look files are built, whatever the project says of building itself: as pages that are loaded from memory. */
const buildOptions = (
  root: string,
  inputs: Record<string, string>,
  plugins: unknown,
  shimMissingExports: boolean,
): BuildEnvironmentOptions => ({
  write: false,
  minify: false,
  cssMinify: false,
  sourcemap: 'hidden',
  target: 'esnext',
  outDir: bundleFolder(root),
  emptyOutDir: false,
  copyPublicDir: false,
  reportCompressedSize: false,
  modulePreload: false,
  chunkSizeWarningLimit: 100_000,
  rollupOptions: {
    input: inputs,
    shimMissingExports,
    plugins: plugins as [],
    // White space and comments make up half of what every document has to parse; names stay as they are.
    output: { minify: { compress: false, mangle: false, codegen: { removeWhitespace: true } }, comments: false },
  },
});

/**
 * Names of classes in CSS modules, unless the project has its own way. Vite's carry a hash of the whole file and the
 * line: a new rule would rename every other class, and change the markup of looks that it does not touch.
 */
const steadyNames =
  (root: string) =>
  (name: string, file: string): string => {
    const path = relative(root, file.split('?')[0]!).split(sep).join('/');
    return `_${name}_${createHash('sha256').update(path).digest('hex').slice(0, 6)}`;
  };

/**
 * Takes the place of the project's way of building: a library's entries, outputs and externals are not what a look
 * needs.
 */
function pages(
  root: string,
  version: string,
  inputs: Record<string, string>,
  shimMissingExports: boolean,
  found: (publicFolder: string | null) => void,
): Plugin {
  return {
    name: 'sguardo:pages',
    enforce: 'post',
    config: {
      order: 'post',
      handler(config) {
        const { plugins } = config.build?.rolldownOptions ?? config.build?.rollupOptions ?? {};
        config.build = buildOptions(root, inputs, plugins, shimMissingExports);
        delete config.environments?.client?.build;
        delete config.experimental?.renderBuiltUrl;
        const modules = config.css?.modules ?? {};
        if (modules) config.css = { ...config.css, modules: { generateScopedName: steadyNames(root), ...modules } };
      },
    },
    configResolved(config) {
      beginCompiling(root, version, config.configFileDependencies);
      found(config.publicDir || null);
    },
  };
}

/**
 * Builds look files with the project's own Vite; something empty stands for the modules that are `broken`, given by
 * their full paths.
 */
export async function build(root: string, sources: Sources, broken: ReadonlySet<string> = new Set()): Promise<Built> {
  const vite = await viteOf(root);
  let publicFolder: string | null = null;
  let prepared: Prepared | null = null;
  const files = sources.files.map(({ file }) => file);
  const { plugin, behind, configuration, loaded } = followBuild(root, files, (i) => `\0${entryPrefix}${i}`);
  const building = vite.build({
    ...(await viteIn(root, { command: 'build', mode: 'development' })),
    mode: 'development',
    logLevel: 'silent',
    clearScreen: false,
    base: '/',
    plugins: [
      ...(Object.keys(sources.instead).length > 0 ? [takenInstead(sources.instead)] : []),
      ...(broken.size > 0 ? [standIns(broken)] : []),
      entries(root, sources),
      ownPagesIn(await ownPages()),
      preparedIn(vite, root, (used) => {
        prepared = used;
      }),
      keepEffects(),
      lazyInOrder(),
      pages(root, vite.version, inputsOf(sources), broken.size > 0, (folder) => {
        publicFolder = folder;
      }),
      refuseDecorators(),
      refuseTemplates(root),
      settleMarkers((facade) => facade.startsWith(`\0${basePrefix}`)),
      plugin,
    ],
    resolve: { alias: languageAlias(), dedupe: [...frameworkPackages] },
    // Until Vite 8, JSX wants React imported in every file unless somebody says otherwise.
    ...(Number.parseInt(vite.version, 10) < 8 ? { esbuild: { jsx: 'automatic' as const } } : {}),
  });
  const result = await building.catch((error: Error) => {
    throw Object.assign(error, { loaded: [...loaded] });
  });
  // Whoever waits for the build need not wait for this.
  setImmediate(() => keepCompiled(root));
  const outputs = (Array.isArray(result) ? result : [result]) as Rolldown.RolldownOutput[];
  const output = outputs.flatMap((one) => one.output) as Built['output'];
  return { output, publicFolder, behind, configuration: [...configuration], prepared };
}
