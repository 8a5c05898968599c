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
      const lines = [
        `import { inOrder } from ${JSON.stringify(own('page/lazy'))};`,
        `${code.replace(exported, 'const preload')};`,
        'export const __vitePreload = (load, ...rest) => inOrder(() => preload(load, ...rest));',
      ];
      return { code: lines.join('\n'), map: null };
    },
  },
});
