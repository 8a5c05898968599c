/** What builds start from: a module for each look file, and one for all of a kind, which only exist in the build. */
import { join } from 'node:path';
import type { Plugin } from 'vite';
import type { Kind } from '../core/look/kind.ts';
import type { PropTypes } from '../core/props/type.ts';
import { beginningWith } from './filters.ts';
import { own } from './own.ts';
import type { readPropTypes } from './propTypes.ts';

const pageEntry = 'virtual:sguardo-page';
const adapterEntry = 'virtual:sguardo-adapter/';

const moduleOf = (id: string): string | null => {
  if (id === pageEntry) return own('page/start');
  return id.startsWith(adapterEntry) ? own(`page/adapters/${id.slice(adapterEntry.length)}`) : null;
};

/** Before the number of a look file, in the id of its starting module. */
export const entryPrefix = 'virtual:sguardo-entry/';

/**
 * What every look file of a kind starts with. It is an entry as well, so that it becomes a chunk of its own, which is
 * the same for all of them.
 */
export const basePrefix = 'virtual:sguardo-base/';
/** The id of what the look files of a kind start with. */
export const baseEntry = (kind: Kind): string => basePrefix + kind;
const baseCode = (kind: string): string => `export { start } from '${pageEntry}';
export { adapter } from '${adapterEntry}${kind}';`;

/** A look file, and the kind of components that it is of. */
export type Source = { file: string; kind: Kind };

/** What is known of the props of components, by the full paths of look files. */
type PropsRead = ReturnType<typeof readPropTypes>;

/** Texts that files are taken to hold, whatever they hold on the disk; by full path. */
export type Texts = Readonly<Record<string, string>>;

/** What is built: look files, and the frame around those of its kind. */
export type Sources = { files: readonly Source[]; frame: Source | null; props: PropsRead; instead: Texts };

/**
 * One starting module a look file: the page's side first, so that it is in place before anything of the project is
 * evaluated.
 */
export function entries(root: string, { files, frame, props }: Sources): Plugin {
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
    resolveId: {
      filter: { id: beginningWith(basePrefix, entryPrefix, pageEntry, adapterEntry) },
      handler(id) {
        if (id.startsWith(basePrefix) || id.startsWith(entryPrefix)) return `\0${id}`;
        return moduleOf(id);
      },
    },
    load: {
      filter: { id: beginningWith(`\0${basePrefix}`, `\0${entryPrefix}`) },
      async handler(id) {
        if (id.startsWith(`\0${basePrefix}`)) return baseCode(id.slice(basePrefix.length + 1));
        if (!id.startsWith(`\0${entryPrefix}`)) return null;
        const source = files[Number(id.slice(entryPrefix.length + 1))]!;
        const read = (await props)[join(root, source.file)];
        for (const file of read?.files ?? []) this.addWatchFile(file);
        return startOf(source, read?.types ?? null);
      },
    },
  };
}

/** Gives some files other texts than they have on the disk. Parts of a file are made of what is given for the whole. */
export const takenInstead = (instead: Texts): Plugin => ({
  name: 'sguardo:instead',
  enforce: 'pre',
  load: {
    filter: { id: beginningWith(...Object.keys(instead)) },
    handler(id) {
      const [path, query = ''] = id.split('?') as [string, string?];
      return /(^|&)(vue|svelte|type=|raw|url)/.test(query) ? null : (instead[path] ?? null);
    },
  },
});

/** The entries of a build, by the names of their scripts. */
export function inputsOf({ files }: Sources): Record<string, string> {
  const bases = [...new Set(files.map(({ kind }) => kind))].map((kind) => [`base-${kind}`, baseEntry(kind)]);
  return Object.fromEntries([...bases, ...files.map((_, i) => [`look${i}`, `${entryPrefix}${i}`])]);
}
