/** Lazy imports of look files come one after the other, whatever file the browser has first. */
import type { Plugin } from 'vite';
import { beginningWith } from './filters.ts';
import { own } from './own.ts';

/** What Vite has every `import()` of a build go through. */
const helper = '\0vite/preload-helper.js';

/** How it exports that. */
const exported = /\bexport const __vitePreload\b/;

/** Puts our order in front of it. */
export const lazyInOrder = (): Plugin => ({
  name: 'sguardo:lazy-in-order',
  transform: {
    filter: { id: beginningWith(helper) },
    handler(code, id) {
      if (id !== helper || !exported.test(code)) return null;
      return {
        code:
          `import { inOrder } from ${JSON.stringify(own('page/lazy'))};\n${code.replace(exported, 'const preload')};\n` +
          'export const __vitePreload = (load, ...rest) => inOrder(() => preload(load, ...rest));',
        map: null,
      };
    },
  },
});
