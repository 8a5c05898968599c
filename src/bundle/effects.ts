/**
 * What a file of the project imports for its effect alone is kept. A package may say which of its files have any, and
 * mean those of its production build: a development build, which looks are given, would then be left out as a whole.
 */
import type { Plugin } from 'vite';
import { isOfProject, ofProject } from './filters.ts';

/** An import of nothing but what it does. */
const bareImport = /(?:^|[;\n])\s*import\s*(["'])([^"'\n]+)\1/g;

export function keepEffects(): [Plugin, Plugin] {
  /** What each file imports so. */
  const wanted = new Map<string, Set<string>>();
  return [
    {
      name: 'sguardo:effects-wanted',
      // Only what was compiled has imports where they can be told.
      enforce: 'post',
      transform: {
        filter: { id: ofProject, code: /\bimport\s*["']/ },
        handler(code, id) {
          if (isOfProject(id)) wanted.set(id, new Set(Array.from(code.matchAll(bareImport), ([, , from]) => from!)));
        },
      },
    },
    {
      name: 'sguardo:effects-kept',
      enforce: 'pre',
      resolveId: {
        // What begins with a point, a slash or a hash is the project's own.
        filter: { id: /^[^./#\0]/ },
        async handler(source, importer, options) {
          if (!importer || !wanted.get(importer)?.has(source)) return null;
          const resolved = await this.resolve(source, importer, { ...options, skipSelf: true });
          return resolved && !resolved.external ? { ...resolved, moduleSideEffects: true } : null;
        },
      },
    },
  ];
}
