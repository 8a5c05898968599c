/**
 * What a file of the project imports for its effect alone is kept. A package may say which of its files have any, and
 * mean those of its production build: a development build, which looks are given, would then be left out as a whole.
 */
import type { Plugin } from 'vite';
import { isOfProject, ofProject } from './filters.ts';

/** An import of nothing but what it does, from a package: all else is the project's own. */
const bareImport = /(?:^|[;\n])\s*import\s*(["'])([^./"'\n][^"'\n]*)\1/g;

/** Has the bundler keep such files. What cannot be resolved is left for it to tell. */
export const keepEffects = (): Plugin => ({
  name: 'sguardo:effects',
  // Only what was compiled has imports where they can be told.
  enforce: 'post',
  transform: {
    filter: { id: ofProject, code: /\bimport\s*["'][^./"']/ },
    async handler(code, id) {
      if (!isOfProject(id)) return;
      for (const [, , source] of code.matchAll(bareImport)) {
        const found = await this.resolve(source!, id).catch(() => null);
        if (found && !found.external && found.moduleSideEffects === false)
          await this.load({ id: found.id, moduleSideEffects: true });
      }
    },
  },
});
