/** What each look file depends on: the files that were read when it was built, as the bundler has seen them. */
import { createHash } from 'node:crypto';
import { existsSync } from 'node:fs';
import { isAbsolute, posix, relative, resolve, sep } from 'node:path';
import type { Plugin } from 'vite';
import type { Behind } from '../core/run/graph.ts';
import { pathStoodFor } from './blame.ts';
import { compilingOnce } from './compiled.ts';
import { isOfProject } from './filters.ts';
import { ownFolder } from './own.ts';
import { isSheet, namedIn, referredIn } from './resources.ts';

/** What plugins tell the bundler of: files to watch, and files that it is given, as they were called in the project. */
type Watching = { addWatchFile(file: string): void; emitFile(given: { originalFileName?: unknown }): unknown };
type Hook = (this: Watching, ...args: unknown[]) => unknown;
type Hooks = Record<'load' | 'transform', Hook | { handler: Hook } | undefined> & { name: string };

/** What a plugin reads beside a module, and what of it is shown as it is: pictures that a sheet refers to. */
type Read = { files: string[]; given: string[] };

/** A context that also tells us what a plugin reads beside the module that it works on. */
const overheard = (context: Watching, { files, given }: Read): Watching =>
  new Proxy(context, {
    get(target, key) {
      const value: unknown = Reflect.get(target, key, target);
      if (key === 'addWatchFile')
        return (file: string) => {
          files.push(file);
          target.addWatchFile(file);
        };
      if (key === 'emitFile')
        return (file: Parameters<Watching['emitFile']>[0]) => {
          if (typeof file.originalFileName === 'string') given.push(file.originalFileName);
          return target.emitFile(file);
        };
      return typeof value === 'function' ? value.bind(target) : value;
    },
  });

/** Hooks that listen, with what they stand for: a plugin may be there in one build after the other. */
const originals = new WeakMap<Hook, Hook>();

/** Vite's own plugins know of each other what they have done with a module. */
const isOfVite = (name: string): boolean =>
  /^(builtin:|native:|sguardo:|vite:(?!vue|svelte|react|solid|preact|angular|marko|qwik|lit))/.test(name);

/** Hears what a plugin has read beside a module, and the code that came of it; null when it has changed nothing. */
type Heard = (id: string, read: Read, code: string | null) => void;

/** The code that a hook gives. */
const codeOf = (result: unknown): string | null =>
  typeof result === 'string' ? result : ((result as { code?: string } | null | undefined)?.code ?? null);

/** Lets us hear what a plugin reads beside each module: the bundler tells nobody. */
function overhear(plugin: Hooks, at: 'load' | 'transform', idAt: number, heard: Heard): void {
  const hook = plugin[at];
  if (!hook) return;
  const handler = typeof hook === 'function' ? hook : hook.handler;
  const original = originals.get(handler) ?? handler;
  const asked = at === 'transform' && !isOfVite(plugin.name) ? compilingOnce(plugin.name, original as never) : original;
  const listening: Hook = function (...args) {
    const read: Read = { files: [], given: [] };
    const result = (asked as Hook).apply(overheard(this, read), args);
    const tell = (made: unknown): unknown => {
      if (read.files.length + read.given.length > 0) heard(String(args[idAt]), read, codeOf(made));
      return made;
    };
    return result instanceof Promise ? result.then(tell) : tell(result);
  };
  originals.set(listening, original);
  plugin[at] = typeof hook === 'function' ? listening : { ...hook, handler: listening };
}

/** The file of a module, without what is asked of it; null for one that only exists in memory. */
function fileOfModule(id: string): string | null {
  const stoodFor = pathStoodFor(id);
  if (stoodFor !== null) return stoodFor;
  const path = id.split(/[?#]/, 1)[0]!;
  return isAbsolute(path) && !id.startsWith('\0') && existsSync(path) ? path : null;
}

/** How a path is written in closures: from the root, also to files beside it, such as other packages of a workspace. */
export const shownPath = (root: string, path: string): string => relative(root, path).split(sep).join('/');

/**
 * What is known without what lies in a folder. Plugins that look for classes read every file of a project, approved
 * markup among them; but no look depends on what was approved.
 */
export function behindWithout(folder: string | null, { closures, styles }: Behind): Behind {
  if (folder === null) return { closures, styles };
  const within = `${posix.normalize(folder)}/`;
  const rest = (files: readonly string[]): string[] => files.filter((file) => !file.startsWith(within));
  const each = <T>(all: Record<string, T>, change: (one: T) => T): Record<string, T> =>
    Object.fromEntries(Object.entries(all).map(([name, one]) => [name, change(one)]));
  return {
    closures: each(closures, rest),
    styles: each(styles, (style) => ({ ...style, files: rest(style.files) })),
  };
}

/** What Vite made of a sheet, but for what stands for files that it refers to, which is another in every build. */
const withoutPlaces = (code: string): string => code.replace(/__VITE_ASSET__[\w$]+?__/g, '');

/** True for the module of a style sheet, or of the styles in a component's file. */
const isStyle = (id: string): boolean => /\.(css|less|sass|scss|styl|stylus|pcss|postcss|sss)($|[?&])/.test(id);

export const fullPath = (root: string, shown: string): string => resolve(root, shown);

/** True for a file that people edit: one of the project or its workspace, not of a package that was installed. */
export const isSource = (root: string, shown: string): boolean =>
  !isAbsolute(shown) && !/(^|\/)node_modules\//.test(shown) && !fullPath(root, shown).startsWith(ownFolder + sep);

/** What is read for a module without a word: by its name in a style sheet, or in a component of Angular. */
function untold(root: string, { styles }: Behind, id: string, path: string, imported: readonly string[]): string[] {
  if (isStyle(id)) {
    const made = styles[shownPath(root, path)]?.files.map((file) => resolve(root, file)) ?? [];
    return [path, ...made.filter(isSheet)].flatMap(referredIn);
  }
  const isAngular = imported.some((one) => one.includes('@angular/core'));
  return isAngular && !/[\\/]node_modules[\\/]/.test(path) ? namedIn(path) : [];
}

type ModuleInfo = { importedIds: readonly string[]; dynamicallyImportedIds: readonly string[] };

/** Files that are read for a module, and the modules that it imports. */
type ModuleRead = { files: string[]; next: readonly string[] };

/** Tells what is read for a module; found out once, as many look files have the same ones. */
function moduleReader(
  root: string,
  beside: ReadonlyMap<string, ReadonlySet<string>>,
  behind: Behind,
  infoOf: (id: string) => ModuleInfo | null,
): (id: string) => ModuleRead {
  const known = new Map<string, ModuleRead>();
  const read = (id: string): ModuleRead => {
    const { importedIds = [], dynamicallyImportedIds = [] } = infoOf(id) ?? {};
    const path = fileOfModule(id);
    const own = path ? [path, ...untold(root, behind, id, path, importedIds)] : [];
    const files = [...own.map((file) => shownPath(root, file)), ...(beside.get(id) ?? [])];
    return { files, next: [...importedIds, ...dynamicallyImportedIds] };
  };
  return (id) => {
    const found = known.get(id) ?? read(id);
    known.set(id, found);
    return found;
  };
}

/** Follows a build: `behind` is filled when it ends. `entryOf` names the module that starts a look file. */
export function followBuild(
  root: string,
  files: readonly string[],
  entryOf: (index: number) => string,
): { plugin: Plugin; behind: Behind; configuration: Set<string>; loaded: Set<string> } {
  /** When it fails: full paths of the project's files that were read. */
  const loaded = new Set<string>();
  const behind: Behind = { closures: {}, styles: {} };
  const configuration = new Set<string>();
  const beside = new Map<string, Set<string>>();
  /** Of style sheets: what each plugin has made of them and of the files beside them, in no order of theirs. */
  const made = new Map<string, Set<string>>();
  const shown = (file: string): string => shownPath(root, resolve(root, file));
  const heard: Heard = (id, { files: watched, given }, code) => {
    // Some name patterns of files. What comes or goes is seen by the names of all files.
    const isThere = (file: string): boolean => existsSync(resolve(root, file));
    const read = watched.filter(isThere);
    const path = isStyle(id) && code !== null && read.length > 0 ? fileOfModule(id) : null;
    const direct = [...given.filter(isThere), ...(path === null ? read : [])];
    beside.set(id, new Set([...(beside.get(id) ?? []), ...direct.map(shown)]));
    if (path === null) return;
    const file = shownPath(root, path);
    made.set(file, (made.get(file) ?? new Set()).add(`${id.slice(path.length)}\n${withoutPlaces(code!)}`));
    const before = behind.styles[file]?.files ?? [];
    behind.styles[file] = { files: [...new Set([...before, ...read.map(shown)])].sort(), made: '' };
  };
  const plugin: Plugin = {
    name: 'sguardo:closures',
    enforce: 'post',
    configResolved(config) {
      for (const file of config.configFileDependencies) configuration.add(shownPath(root, file));
      for (const one of config.plugins as unknown as Hooks[]) {
        overhear(one, 'load', 0, heard);
        overhear(one, 'transform', 1, heard);
      }
    },
    buildEnd(error) {
      if (error) {
        for (const id of this.getModuleIds()) {
          const path = isOfProject(id) ? fileOfModule(id) : null;
          if (path !== null) loaded.add(path);
        }
        return;
      }
      const modulesOf = moduleReader(root, beside, behind, (id) => this.getModuleInfo(id));
      files.forEach((file, index) => {
        const found = new Set<string>();
        const seen = new Set<string>();
        const left = [entryOf(index)];
        for (let id = left.pop(); id !== undefined; id = left.pop()) {
          if (seen.has(id)) continue;
          seen.add(id);
          const { files: own, next } = modulesOf(id);
          for (const one of own) found.add(one);
          left.push(...next);
        }
        behind.closures[file] = [...found].sort();
      });
      for (const [file, texts] of made)
        behind.styles[file]!.made = createHash('sha256')
          .update([...texts].sort().join('\n'))
          .digest('base64url');
    },
  };
  return { plugin, behind, configuration, loaded };
}
