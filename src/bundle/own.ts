/** Our own modules for pages, and how look files and builds name them. */
import { join, resolve } from 'node:path';
import { kinds } from '../core/look/kind.ts';

// In a checkout that runs from source they are TypeScript; Vite compiles those too.
const ending = import.meta.url.endsWith('.ts') ? 'ts' : 'js';

/** The folder that they are in. */
export const ownFolder = resolve(import.meta.dirname, '..');

/** The file of a module of ours, by its path in that folder without ending. */
export const own = (path: string): string => join(ownFolder, `${path}.${ending}`);

/** What look files import as `sguardo`, and as `sguardo/` with a kind of component. */
export const languageAlias = (): { find: RegExp; replacement: string }[] => [
  { find: /^sguardo$/, replacement: own('language/index') },
  { find: new RegExp(`^sguardo/(${kinds.join('|')})$`), replacement: own('language/kinds/$1') },
];
