/** Lazy imports of look files come one after the other, whatever file the browser has first. */
import type { Plugin } from 'vite';
import { own } from './own.ts';

/** What Vite has every `import()` of a build go through, and how it exports that. */
const helper = '\0vite/preload-helper.js';
const exported = /\bexport const (__vitePreload)\b/;

/** The helper, with our order in front of it. */
export const ordered = (code: string): string =>
  exported.test(code)
    ? `import { inOrder } from ${JSON.stringify(own('page/lazy'))};\n${code.replace(exported, 'const preload')};\n` +
      'export const __vitePreload = (load, ...rest) => inOrder(() => preload(load, ...rest));'
    : code;

export const lazyInOrder = (): Plugin => ({
  name: 'sguardo:lazy-in-order',
  transform: (code, id) => (id === helper ? { code: ordered(code), map: null } : null),
});
