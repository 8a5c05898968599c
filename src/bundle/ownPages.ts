/**
 * Our own side of pages, put together once: what a project's Vite builds only names it, so that no build of look files
 * has to read two hundred modules of ours again. What a framework is needed for is built with the project's own.
 */
import { createHash } from 'node:crypto';
import { readFile, writeFile } from 'node:fs/promises';
import type { Plugin } from 'vite';
import { kinds } from '../core/look/kind.ts';
import { buildAlone } from './alone.ts';
import { beginningWith } from './filters.ts';
import { isFromSource, own, ownFile } from './own.ts';
import { viteOf } from './vite.ts';

/** Scripts that were put together, by name. */
export type OwnScripts = Record<string, { code: string; exports: string[] }>;

/** What look files and builds of them import of ours. */
const language = ['language/index', ...kinds.map((kind) => `language/kinds/${kind}`)];
const adapters = kinds.map((kind) => `page/adapters/${kind}`);
const modules = ['page/start', 'page/lazy', ...language, ...adapters];

const nameOf = (module: string): string => module.replaceAll('/', '-');

/** What the project has. */
const framework = /^(react|react-dom|vue|svelte|@angular)(\/|$)/;

/** Our component that the project's Svelte compiles: what the adapter imports, and where it is then. */
const component = 'Framed.svelte';
const componentLeft = `sguardo:${component}`;

/**
 * What every look file starts with is compiled as a whole when it is loaded (V8, explicit compile hints): so it is
 * compiled by the time that anything is counted, and coverage tells little of it.
 */
export const compiledAtOnce = '//# allFunctionsCalledOnLoad\n';

/** Puts our modules together, as they are in the folder that this one is in. */
export async function putTogether(): Promise<OwnScripts> {
  const chunks = await buildAlone(await viteOf(import.meta.dirname), import.meta.dirname, {
    plugins: [
      {
        name: 'sguardo:left-to-the-project',
        enforce: 'pre',
        resolveId: (id) => (id === `./${component}` ? { id: componentLeft, external: 'absolute' } : null),
      },
    ],
    input: Object.fromEntries(modules.map((module) => [nameOf(module), own(module)])),
    external: framework,
    output: {
      entryFileNames: '[name].js',
      chunkFileNames: '[name].js',
      codeSplitting: { groups: [{ name: 'shared', minShareCount: 2 }] },
    },
  });
  return Object.fromEntries(chunks.map(({ fileName, code, exports }) => [fileName, { code, exports }]));
}

/** Our side of pages as a bundle holds it. */
export type OwnPages = {
  /** Bodies of scripts by address path, which says what they hold. */
  files: ReadonlyMap<string, Buffer>;
  /** Address path of what has to be evaluated before anything of the project. */
  start: string;
  /** What a build finds in place of a module of ours, by its full path; null for any other file. */
  standInFor(path: string): string | null;
  /** Where a build finds what one of them imports; null for what is none of ours. */
  resolve(id: string, importer: string | undefined): { id: string; external?: 'absolute' } | null;
  /** What there may be an answer for: modules of ours, and what they import. */
  filters: { module: RegExp; imported: RegExp };
};

function pagesOf(scripts: OwnScripts): OwnPages {
  const hash = createHash('sha256').update(JSON.stringify(scripts)).digest('hex').slice(0, 8);
  const addressOf = (name: string): string => `/assets/sguardo-${hash}/${name}`;
  const served = Object.entries(scripts).filter(([name]) => !adapters.some((one) => name === `${nameOf(one)}.js`));
  const reexport = (name: string): string =>
    `export { ${scripts[name]!.exports.join(', ')} } from ${JSON.stringify(addressOf(name))};`;
  const standIns = new Map(
    modules.map((module) => {
      const name = `${nameOf(module)}.js`;
      return [own(module), adapters.includes(module) ? scripts[name]!.code : reexport(name)];
    }),
  );
  return {
    files: new Map(served.map(([name, { code }]) => [addressOf(name), Buffer.from(compiledAtOnce + code)])),
    start: addressOf(`${nameOf('page/start')}.js`),
    standInFor: (path) => standIns.get(path) ?? null,
    filters: {
      module: beginningWith(...standIns.keys()),
      imported: beginningWith(addressOf(''), componentLeft, ...Object.keys(scripts).map((name) => `./${name}`)),
    },
    resolve(id, importer) {
      if (id.startsWith(addressOf(''))) return { id, external: 'absolute' };
      if (id === componentLeft) return { id: ownFile(`page/adapters/${component}`) };
      if (importer === undefined || !standIns.has(importer) || !id.startsWith('./')) return null;
      return { id: addressOf(id.slice(2)), external: 'absolute' };
    },
  };
}

/** Where they are written when Sguardo is built. */
const built = ownFile('pages.json');

let pages: Promise<OwnPages> | null = null;

/** Our side of pages: as it was built, or put together in a checkout that runs from source. */
export function ownPages(): Promise<OwnPages> {
  pages ??= (
    isFromSource ? putTogether() : readFile(built, 'utf8').then((text) => JSON.parse(text) as OwnScripts)
  ).then(pagesOf);
  return pages;
}

/** Writes them where what was built reads them. */
export const writePages = async (): Promise<void> => writeFile(built, JSON.stringify(await putTogether()));

/** Gives a build what was put together in place of our modules. */
export const ownPagesIn = (pages: OwnPages): Plugin => ({
  name: 'sguardo:own-pages',
  enforce: 'pre',
  resolveId: {
    filter: { id: pages.filters.imported },
    handler: (id, importer) => pages.resolve(id, importer),
  },
  load: {
    filter: { id: pages.filters.module },
    handler(id) {
      const code = pages.standInFor(id);
      // Looks depend on all of it.
      if (code !== null && !isFromSource) this.addWatchFile(built);
      return code;
    },
  },
});
