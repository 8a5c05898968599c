/**
 * React, put together once: it is larger than what most projects make of it, and bundling it again took most of every
 * build. A build finds a few names in its place, which lead to a script that stays the same until React changes.
 * Whatever else requires it finds the same one.
 */
import { realpathSync, statSync } from 'node:fs';
import { createRequire } from 'node:module';
import { join } from 'node:path';
import type { Plugin } from 'vite';
import { buildAlone } from './alone.ts';
import { oneOf } from './filters.ts';
import { ownPages } from './ownPages.ts';

type Vite = typeof import('vite');

/** What is put together, each by how it is imported, and from where. */
const modules = [
  ...['react', 'react/jsx-runtime', 'react/jsx-dev-runtime', 'react-dom', 'react-dom/client'].map((id) => ({
    id,
    from: null,
  })),
  { id: 'scheduler', from: 'react-dom' },
];

export type Prepared = {
  /** Address path of the one script that has all modules. */
  address: string;
  code: string;
  /** Its source map, as JSON. */
  map: string;
  /** By the full path of a module: what a build finds in its place. */
  standIns: ReadonlyMap<string, string>;
  /** The files that it was made of. */
  behind: readonly string[];
};

/** Files of the modules, by how they are imported; null for a project that has no React of its own, or another one. */
function filesOf(root: string): Map<string, string> | null {
  try {
    const found = new Map<string, string>();
    for (const { id, from } of modules) {
      const near = createRequire(from === null ? join(root, 'package.json') : found.get(from)!);
      found.set(id, realpathSync(near.resolve(id)));
    }
    return found;
  } catch {
    return null;
  }
}

const entry = '\0sguardo:prepared';

/** A module with its names, each with what it is called among all that were put together. */
type Named = { id: string; file: string; all: string; names: Map<string, string> };

/** What was written without names has to be looked at for them: whoever imports one of them has to find it. */
const namedIn = (files: ReadonlyMap<string, string>): Named[] =>
  [...files].map(([id, file], at) => {
    const found = Object.keys(createRequire(file)(file) as object);
    const names = found.filter((name) => /^[A-Za-z_$][\w$]*$/.test(name) && name !== 'default');
    return { id, file, all: `all${at}`, names: new Map(names.map((name, i) => [name, `own${at}_${i}`])) };
  });

/**
 * All modules as one, behind our own side of the page (`start`), whichever script imports it first: React keeps the
 * timers and channels that there are when it is evaluated.
 */
function together(start: string, modules: readonly Named[]): string {
  const each = modules.map(({ id, all, names }) => {
    const own = [...names].map(([name, called]) => `${name}: ${called}`).join(', ');
    const exported = [all, ...names.values()].join(', ');
    return `import ${all} from ${JSON.stringify(id)};\nconst { ${own} } = ${all};\nexport { ${exported} };`;
  });
  return [`import ${JSON.stringify(start)};`, ...each].join('\n');
}

/** What an import finds in place of a module; whoever requires it is given all of it, as by the module itself. */
function standIn({ all, names }: Named, address: string): string {
  const from = JSON.stringify(address);
  const exported = [...names].map(([name, called]) => `${called} as ${name}`).join(', ');
  return `import { ${all} } from ${from};
export { ${exported} } from ${from};
export { ${all} as default, ${all} as 'module.exports' };`;
}

/** Puts React together, as a build of look files would. */
async function prepare(vite: Vite, root: string, files: ReadonlyMap<string, string>): Promise<Prepared> {
  const named = namedIn(files);
  const { start } = await ownPages();
  const [{ fileName, code, map, moduleIds }] = await buildAlone(vite, root, {
    plugins: [
      {
        name: 'sguardo:together',
        enforce: 'pre',
        resolveId(id) {
          if (id === start) return { id, external: 'absolute' };
          return id === entry ? id : (files.get(id) ?? null);
        },
        load: (id) => (id === entry ? together(start, named) : null),
      },
    ],
    sourcemap: 'hidden',
    input: { react: entry },
    output: {
      entryFileNames: 'assets/prepared/[name]-[hash].js',
      // Projects at several places have the same React.
      sourcemapPathTransform: (source, map) => join(map, '..', source),
    },
  });
  const address = `/${fileName}`;
  return {
    address,
    code,
    map: JSON.stringify(map),
    standIns: new Map(named.map((one) => [one.file, standIn(one, address)])),
    behind: moduleIds.filter((id) => !id.startsWith('\0')),
  };
}

/** What was put together, if it could be, and when what it is made of was written last. */
type Made = { prepared: Prepared | null; behind: readonly string[]; written: string };

/** By the files of the modules: projects that have the same ones share it. */
const known = new Map<string, Promise<Made>>();

const writtenLast = (files: readonly string[]): string =>
  files.map((file) => statSync(file, { throwIfNoEntry: false })?.mtimeMs).join();

async function make(vite: Vite, root: string, files: ReadonlyMap<string, string>): Promise<Made> {
  const prepared = await prepare(vite, root, files).catch(() => null);
  const behind = prepared?.behind ?? [...files.values()];
  return { prepared, behind, written: writtenLast(behind) };
}

/** What was put together of these files as they are; null for what cannot be, which is built as all else. */
async function preparedOf(vite: Vite, root: string, files: ReadonlyMap<string, string>): Promise<Prepared | null> {
  const key = [...files.values()].join('\n');
  const last = await known.get(key);
  if (last && last.written === writtenLast(last.behind)) return last.prepared;
  const made = make(vite, root, files);
  known.set(key, made);
  return (await made).prepared;
}

/** Before Vite 8.2 what is required is a copy of a module's names, and not the module itself. */
function givesAll({ version }: Vite): boolean {
  const [major = 0, minor = 0] = version.split('.').map(Number);
  return major > 8 || (major === 8 && minor >= 2);
}

/**
 * Gives a build what was put together in place of React; `used` hears of it when it does. A project that has its
 * packages built for production, or says itself what they are told of their surroundings, has React built as all else,
 * and so has one with an older Vite.
 */
export function preparedIn(vite: Vite, root: string, used: (prepared: Prepared) => void): Plugin | null {
  const files = givesAll(vite) ? filesOf(root) : null;
  if (files === null) return null;
  let isUsable = true;
  /** Asked for once in a build, so that all of it is of the same files. */
  let asked: Promise<Prepared | null> | null = null;
  return {
    name: 'sguardo:prepared',
    enforce: 'pre',
    configResolved({ isProduction, define = {} }) {
      isUsable = !isProduction && !Object.keys(define).some((name) => name.startsWith('process'));
    },
    resolveId: {
      filter: { id: /^\/assets\/prepared\// },
      handler: (id) => ({ id, external: 'absolute' }),
    },
    load: {
      filter: { id: oneOf(...files.values()) },
      async handler(id) {
        asked ??= isUsable ? preparedOf(vite, root, files) : Promise.resolve(null);
        const prepared = await asked;
        const found = prepared?.standIns.get(id);
        if (!prepared || !found) return null;
        used(prepared);
        // Looks depend on all of it.
        for (const file of prepared.behind) this.addWatchFile(file);
        return found;
      },
    },
  };
}
