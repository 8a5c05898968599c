/** Bundles look files with the project's Vite, in memory. */
import { createHash } from 'node:crypto';
import { existsSync, readFileSync } from 'node:fs';
import { dirname, join, relative, resolve, sep } from 'node:path';
import { fileURLToPath } from 'node:url';
import { glob } from 'tinyglobby';
import type { BuildEnvironmentOptions, Plugin, Rolldown } from 'vite';
import { type Kind, kinds } from '../core/look/kind.ts';
import { componentOf } from '../core/look/look.ts';
import type { PropTypes } from '../core/props/type.ts';
import type { Settings } from '../core/settings/config.ts';
import { fail, type Problem, ProblemError, problem } from '../core/problem/problem.ts';
import { refuseDecorators } from './decorators.ts';
import { type Closures, closuresWithout, followBuild } from './graph.ts';
import { beginCompiling, keepCompiled } from './compiled.ts';
import { because, causesOf, explainBuild } from './failure.ts';
import { frameworkPackages, kindOf } from './kinds.ts';
import { settleMarkers } from './markers.ts';
import { readPropTypes } from './propTypes.ts';
import { refuseTemplates } from './templates.ts';
import { chunksOf, stylesOf } from './styles.ts';
import { typeOf } from './types.ts';
import { viteOf } from './vite.ts';

export type BundledFile = { type: string; body: Buffer };

/** A look file that was bundled. */
export type BundledLooks = {
  file: string;
  /** Address path of the script that starts it. */
  script: string;
  /**
   * Address paths of the scripts of our own side of the page, and of the frame: where they are the same, documents are
   * the same before the look file is evaluated.
   */
  base: string;
  /** Address paths of the style sheets of its document, in their order; null when that is not known. */
  styles: string[] | null;
  source: string;
};

/** Look files ready to be loaded by a page. */
export type Bundle = {
  /** Hash of everything in it. */
  id: string;
  root: string;
  /** By address path, such as `/assets/BerthCard-3f2a.js`. */
  files: Map<string, BundledFile>;
  /** JSON source maps of the scripts, by address path. */
  maps: Map<string, string>;
  /** Look files in it. */
  entries: BundledLooks[];
  /** Look files that could not be bundled. */
  unusable: { file: string; problem: Problem }[];
  /** The project's folder of files served as they are. */
  publicFolder: string | null;
  /** The files behind each of the look files, and those behind the Vite configuration. */
  closures: Closures;
  configuration: string[];
};

const here = dirname(fileURLToPath(import.meta.url));
// In a checkout that runs from source, the page's modules are TypeScript; Vite compiles those too.
const ending = import.meta.url.endsWith('.ts') ? 'ts' : 'js';
const own = (path: string): string => resolve(here, `../${path}.${ending}`);
const languageEntry = own('language/index');
const kindEntry = own('language/kinds/$1');
const pageEntry = 'virtual:sguardo-page';
const adapterEntry = 'virtual:sguardo-adapter/';

const moduleOf = (id: string): string | null => {
  if (id === pageEntry) return own('page/start');
  return id.startsWith(adapterEntry) ? own(`page/adapters/${id.slice(adapterEntry.length)}`) : null;
};

/** The look files of a project, relative to its root, in a stable order. */
export async function findLookFiles(root: string, { looks, baselines }: Settings): Promise<string[]> {
  const aside = ['**/node_modules', '**/dist', '**/.sguardo', ...(baselines === null ? [] : [baselines])];
  const files = await glob(looks, { cwd: root, ignore: aside.map((folder) => `${folder}/**`) });
  return files.map((file) => file.split(sep).join('/')).sort();
}

const entryPrefix = 'virtual:sguardo-entry/';

/**
 * What every look file of a kind starts with. It is an entry as well, so that it becomes a chunk of its own, which is
 * the same for all of them.
 */
const basePrefix = 'virtual:sguardo-base/';
const baseEntry = (kind: Kind): string => basePrefix + kind;
const baseCode = (kind: string): string => `export { start } from '${pageEntry}';
export { adapter } from '${adapterEntry}${kind}';`;

/** A look file, and the kind of components that it is of. */
type Source = { file: string; kind: Kind };

/** What is known of the props of components, by the full paths of look files. */
type PropsRead = ReturnType<typeof readPropTypes>;

/** What is built: look files, and the frame around those of its kind. */
/** Texts that files are taken to hold, whatever they hold on the disk; by full path. */
type Texts = Readonly<Record<string, string>>;

type Sources = { files: readonly Source[]; frame: Source | null; props: PropsRead; instead: Texts };

/**
 * One starting module a look file: the page's side first, so that it is in place before anything of the project is
 * evaluated.
 */
function entries(root: string, { files, frame, props }: Sources): Plugin {
  const load = (path: string): string => `() => import(${JSON.stringify(join(root, path))})`;
  const startOf = ({ file, kind }: Source, types: PropTypes | null): string => {
    const own = frame?.kind === kind ? frame.file : null;
    return `import { start, adapter } from '${baseEntry(kind)}';
start({
  script: import.meta.url, file: ${JSON.stringify(file)}, looks: ${load(file)}, adapter,
  frame: ${own ? load(own) : 'null'}, frameFile: ${JSON.stringify(own)}, types: ${JSON.stringify(types)},
});`;
  };
  return {
    name: 'sguardo:entries',
    enforce: 'pre',
    resolveId(id) {
      if (id.startsWith(basePrefix) || id.startsWith(entryPrefix)) return `\0${id}`;
      return moduleOf(id);
    },
    async load(id) {
      if (id.startsWith(`\0${basePrefix}`)) return baseCode(id.slice(basePrefix.length + 1));
      if (!id.startsWith(`\0${entryPrefix}`)) return null;
      const source = files[Number(id.slice(entryPrefix.length + 1))]!;
      const read = (await props)[join(root, source.file)];
      for (const file of read?.files ?? []) this.addWatchFile(file);
      return startOf(source, read?.types ?? null);
    },
  };
}

/** Gives some files other texts than they have on the disk. Parts of a file are made of what is given for the whole. */
const takenInstead = (instead: Texts): Plugin => ({
  name: 'sguardo:instead',
  enforce: 'pre',
  load(id) {
    const [path, query = ''] = id.split('?') as [string, string?];
    return /(^|&)(vue|svelte|type=|raw|url)/.test(query) ? null : (instead[path] ?? null);
  },
});

/**
 * What every look file starts with is compiled as a whole when it is loaded (V8, explicit compile hints): so it is
 * compiled by the time that anything is counted, and coverage tells little of it.
 */
const compiledAtOnce = '//# allFunctionsCalledOnLoad\n';

const outFolder = '.sguardo-bundle';

type Built = {
  output: Rolldown.RolldownOutput['output'];
  publicFolder: string | null;
  closures: Closures;
  /** Files behind the Vite configuration. */
  configuration: string[];
};

/** How look files are built, whatever the project says of building itself: as pages that are loaded from memory. */
const buildOptions = (inputs: Record<string, string>, plugins: unknown): BuildEnvironmentOptions => ({
  write: false,
  minify: false,
  cssMinify: false,
  sourcemap: 'hidden',
  target: 'esnext',
  outDir: outFolder,
  emptyOutDir: false,
  copyPublicDir: false,
  reportCompressedSize: false,
  modulePreload: false,
  chunkSizeWarningLimit: 100_000,
  rollupOptions: {
    input: inputs,
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
  found: (publicFolder: string | null) => void,
): Plugin {
  return {
    name: 'sguardo:pages',
    enforce: 'post',
    config: {
      order: 'post',
      handler(config) {
        config.build = buildOptions(inputs, (config.build?.rolldownOptions ?? config.build?.rollupOptions)?.plugins);
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

/** The entries that are built. */
function inputsOf({ files }: Sources): Record<string, string> {
  const bases = [...new Set(files.map(({ kind }) => kind))].map((kind) => [`base-${kind}`, baseEntry(kind)]);
  return Object.fromEntries([...bases, ...files.map((_, i) => [`look${i}`, `${entryPrefix}${i}`])]);
}

async function build(root: string, sources: Sources): Promise<Built> {
  const vite = await viteOf(root);
  let publicFolder: string | null = null;
  const files = sources.files.map(({ file }) => file);
  const { plugin, closures, configuration } = followBuild(root, files, (i) => `\0${entryPrefix}${i}`);
  const result = await vite.build({
    root,
    mode: 'development',
    logLevel: 'silent',
    clearScreen: false,
    base: '/',
    plugins: [
      ...(Object.keys(sources.instead).length > 0 ? [takenInstead(sources.instead)] : []),
      entries(root, sources),
      pages(root, vite.version, inputsOf(sources), (folder) => {
        publicFolder = folder;
      }),
      refuseDecorators(),
      refuseTemplates(root),
      settleMarkers((facade) => facade.startsWith(`\0${basePrefix}`)),
      plugin,
    ],
    resolve: {
      alias: [
        { find: /^sguardo$/, replacement: languageEntry },
        { find: new RegExp(`^sguardo/(${kinds.join('|')})$`), replacement: kindEntry },
      ],
      dedupe: [...frameworkPackages],
    },
    // Until Vite 8, JSX wants React imported in every file unless somebody says otherwise.
    ...(Number.parseInt(vite.version, 10) < 8 ? { esbuild: { jsx: 'automatic' as const } } : {}),
  });
  // Whoever waits for the build need not wait for this.
  setImmediate(() => keepCompiled(root));
  const outputs = (Array.isArray(result) ? result : [result]) as Rolldown.RolldownOutput[];
  const output = outputs.flatMap((one) => one.output) as Built['output'];
  return { output, publicFolder, closures, configuration: [...configuration] };
}

/** Configurations of Vite, in the order in which it looks for them. */
const viteConfigs = ['js', 'mjs', 'ts', 'cjs', 'mts', 'cts'].map((end) => `vite.config.${end}`);

/**
 * What all look files share is looked at first when they could not be built together.
 * @throws ProblemError `config-threw`, `frame-failed`
 */
async function checkShared(root: string, { frame, props, instead }: Omit<Sources, 'files'>): Promise<void> {
  const vite = await viteOf(root);
  try {
    await vite.resolveConfig({ root, logLevel: 'silent' }, 'build', 'development');
  } catch (error) {
    const file = viteConfigs.find((name) => existsSync(join(root, name))) ?? 'vite.config.ts';
    fail('config-threw', { file, error: causesOf(error).join(because) });
  }
  if (!frame) return;
  try {
    await build(root, { files: [frame], frame: null, props, instead });
  } catch (error) {
    throw new ProblemError(explainBuild(root, frame.file, error, 'frame-failed'));
  }
}

/** Builds the files, or halves of them until those that cannot be built stand alone. */
async function findUnusable(root: string, { files, ...around }: Sources): Promise<Bundle['unusable']> {
  try {
    await build(root, { files, ...around });
    return [];
  } catch (error) {
    const [{ file }] = files as [Source];
    if (files.length === 1) return [{ file, problem: explainBuild(root, file, error) }];
    const half = Math.ceil(files.length / 2);
    return [
      ...(await findUnusable(root, { files: files.slice(0, half), ...around })),
      ...(await findUnusable(root, { files: files.slice(half), ...around })),
    ];
  }
}

/**
 * Look files that describe one component, as `X.look.tsx` and `X.look.jsx`: their looks would share names and
 * baselines.
 */
function twinsAmong(files: readonly string[]): Bundle['unusable'] {
  return files.flatMap((file) => {
    const other = files.find((one) => one !== file && componentOf(one) === componentOf(file));
    return other === undefined ? [] : [{ file, problem: problem('looks-twice', { file, other }) }];
  });
}

const nothing: Built = {
  output: [] as unknown as Built['output'],
  publicFolder: null,
  closures: new Map(),
  configuration: [],
};

type Usable = { built: Built; usable: readonly Source[]; unusable: Bundle['unusable'] };

/** Builds the files that can be built. @throws ProblemError `config-threw`, `frame-failed` */
async function buildUsable(
  root: string,
  files: readonly string[],
  frame: Source | null,
  instead: Texts,
): Promise<Usable> {
  const twins = twinsAmong(files);
  const single = files
    .filter((file) => !twins.some((one) => one.file === file))
    .map((file) => ({ file, kind: kindOf(root, file) }));
  if (single.length === 0) return { built: nothing, usable: [], unusable: twins };
  const props = readPropTypes({ root, files: single.map(({ file, kind }) => ({ path: join(root, file), kind })) });
  const around = { frame, props, instead };
  try {
    return { built: await build(root, { files: single, ...around }), usable: single, unusable: twins };
  } catch (error) {
    await checkShared(root, around);
    const [only, ...others] = single;
    const wrong =
      others.length === 0
        ? [{ file: only!.file, problem: explainBuild(root, only!.file, error) }]
        : await findUnusable(root, { files: single, ...around });
    const usable = single.filter(({ file }) => !wrong.some((one) => one.file === file));
    const built = usable.length > 0 ? await build(root, { files: usable, ...around }) : nothing;
    return { built, usable, unusable: [...twins, ...wrong] };
  }
}

/** Names of the scripts that every look file starts with, and of all that they import. */
function baseChunksOf(output: Built['output']): Set<string> {
  const chunks = output.filter((item) => item.type === 'chunk');
  const found = new Set<string>();
  const visit = (name: string): void => {
    if (found.has(name)) return;
    found.add(name);
    for (const next of chunks.find(({ fileName }) => fileName === name)?.imports ?? []) visit(next);
  };
  for (const { fileName, facadeModuleId } of chunks) if (facadeModuleId?.startsWith(`\0${basePrefix}`)) visit(fileName);
  return found;
}

/**
 * Bundles look files. Those that cannot be understood are left out and told in `unusable`; the others come through.
 * `instead` has texts that files are taken to hold, by their full paths.
 * @throws ProblemError `looks-missing` when there is no file at all; `config-threw`, `frame-failed` when what they
 * share is unusable
 */
export async function buildLooks(
  root: string,
  settings: Settings,
  files: readonly string[],
  instead: Texts = {},
): Promise<Bundle> {
  if (files.length === 0) return fail('looks-missing', { folder: root, pattern: settings.looks.join(', ') });
  const around = settings.frame === null ? null : { file: settings.frame, kind: kindOf(root, settings.frame) };
  const { built, usable, unusable } = await buildUsable(root, files, around, instead);
  const bundle: Bundle = {
    id: '',
    root,
    files: new Map(),
    maps: new Map(),
    entries: [],
    unusable,
    publicFolder: built.publicFolder,
    closures: closuresWithout(settings.baselines, built.closures),
    configuration: built.configuration,
  };
  const hash = createHash('sha256').update(JSON.stringify(unusable));
  const frameOf = (kind: Kind): string[] => (around?.kind === kind ? [join(root, around.file)] : []);
  const baseOf = (kind: Kind): string => chunksOf(built.output, [`\0${baseEntry(kind)}`, ...frameOf(kind)]).join(' ');
  const bases = baseChunksOf(built.output);
  for (const item of built.output) {
    const path = `/${item.fileName}`;
    const isBase = bases.has(item.fileName);
    const body = Buffer.from(item.type === 'chunk' ? (isBase ? compiledAtOnce : '') + item.code : item.source);
    if (item.fileName.endsWith('.map')) bundle.maps.set(path.slice(0, -4), body.toString('utf8'));
    else bundle.files.set(path, { type: typeOf(path), body });
    hash.update(path).update(body);
    if (item.type !== 'chunk') continue;
    if (item.isEntry && item.facadeModuleId?.includes(entryPrefix)) {
      const index = Number(item.facadeModuleId.slice(item.facadeModuleId.indexOf(entryPrefix) + entryPrefix.length));
      const { file, kind } = usable[index]!;
      bundle.entries.push({
        file,
        script: path,
        base: baseOf(kind),
        styles: stylesOf(built.output, [...frameOf(kind), join(root, file)]),
        source: instead[join(root, file)] ?? readFileSync(join(root, file), 'utf8'),
      });
    }
  }
  for (const name of bases) {
    const path = `/${name}`;
    const map = bundle.maps.get(path);
    // One line more stands before it.
    if (map) bundle.maps.set(path, map.replace('"mappings":"', '"mappings":";'));
  }
  bundle.entries.sort((a, b) => (a.file < b.file ? -1 : 1));
  bundle.id = hash.digest('hex').slice(0, 16);
  return bundle;
}

/** Where bundled scripts would lie if they were written: what their source maps are relative to. */
export const bundleFolder = (root: string): string => join(root, outFolder);
