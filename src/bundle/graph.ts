/** What each look file depends on: the files that were read when it was built, as the bundler has seen them. */
import { existsSync } from 'node:fs';
import { isAbsolute, posix, relative, resolve, sep } from 'node:path';
import type { Plugin } from 'vite';
import { compilingOnce } from './compiled.ts';

/** The files behind each look file, sorted, relative to the project where they lie in it. */
export type Closures = Map<string, string[]>;

type Watching = { addWatchFile(file: string): void };
type Hook = (this: Watching, ...args: unknown[]) => unknown;
type Hooks = Record<'load' | 'transform', Hook | { handler: Hook } | undefined> & { name: string };

/** A context that also tells us what a plugin reads beside the module that it works on. */
const overheard = (context: Watching, heard: (file: string) => void): Watching =>
  new Proxy(context, {
    get(target, key) {
      const value: unknown = Reflect.get(target, key, target);
      if (key === 'addWatchFile')
        return (file: string) => {
          heard(file);
          target.addWatchFile(file);
        };
      return typeof value === 'function' ? value.bind(target) : value;
    },
  });

/** Hooks that listen, with what they stand for: a plugin may be there in one build after the other. */
const originals = new WeakMap<Hook, Hook>();

/** Vite's own plugins know of each other what they have done with a module. */
const isOfVite = (name: string): boolean =>
  /^(builtin:|native:|sguardo:|vite:(?!vue|svelte|react|solid|preact|angular|marko|qwik|lit))/.test(name);

/** Lets us hear what a plugin reads beside each module: the bundler tells nobody. */
function overhear(
  plugin: Hooks,
  at: 'load' | 'transform',
  idAt: number,
  heard: (id: string, file: string) => void,
): void {
  const hook = plugin[at];
  if (!hook) return;
  const handler = typeof hook === 'function' ? hook : hook.handler;
  const original = originals.get(handler) ?? handler;
  const asked = at === 'transform' && !isOfVite(plugin.name) ? compilingOnce(plugin.name, original as never) : original;
  const listening: Hook = function (...args) {
    return (asked as Hook).apply(
      overheard(this, (file) => heard(String(args[idAt]), file)),
      args,
    );
  };
  originals.set(listening, original);
  plugin[at] = typeof hook === 'function' ? listening : { ...hook, handler: listening };
}

/** The file of a module, without what is asked of it; null for one that only exists in memory. */
function fileOfModule(id: string): string | null {
  const path = id.split(/[?#]/, 1)[0]!;
  return isAbsolute(path) && !id.startsWith('\0') && existsSync(path) ? path : null;
}

/** How a path is written in closures. */
export function shownPath(root: string, path: string): string {
  const inside = relative(root, path);
  return (inside.startsWith('..') || isAbsolute(inside) ? path : inside).split(sep).join('/');
}

/**
 * Closures without what lies in a folder. Plugins that look for classes read every file of a project, approved markup
 * among them; but no look depends on what was approved.
 */
export function closuresWithout(folder: string | null, closures: Closures): Closures {
  if (folder === null) return closures;
  const within = `${posix.normalize(folder)}/`;
  return new Map([...closures].map(([look, files]) => [look, files.filter((file) => !file.startsWith(within))]));
}

export const fullPath = (root: string, shown: string): string => resolve(root, shown);

/** Follows a build: `closures` is filled when it ends. `entryOf` names the module that starts a look file. */
export function followBuild(
  root: string,
  files: readonly string[],
  entryOf: (index: number) => string,
): { plugin: Plugin; closures: Closures; configuration: Set<string> } {
  const closures: Closures = new Map();
  const configuration = new Set<string>();
  const beside = new Map<string, Set<string>>();
  const heard = (id: string, file: string): void => {
    beside.set(id, (beside.get(id) ?? new Set()).add(file));
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
      if (error) return;
      files.forEach((file, index) => {
        const found = new Set<string>();
        const seen = new Set<string>();
        const left = [entryOf(index)];
        for (let id = left.pop(); id !== undefined; id = left.pop()) {
          if (seen.has(id)) continue;
          seen.add(id);
          const path = fileOfModule(id);
          if (path) found.add(shownPath(root, path));
          for (const other of beside.get(id) ?? []) found.add(shownPath(root, resolve(root, other)));
          const info = this.getModuleInfo(id);
          left.push(...(info?.importedIds ?? []), ...(info?.dynamicallyImportedIds ?? []));
        }
        closures.set(file, [...found].sort());
      });
    },
  };
  return { plugin, closures, configuration };
}
