/** Our own modules for pages, and how look files and builds name them. */
import { join, resolve } from 'node:path';
import { kinds } from '../core/look/kind.ts';

/** True in a checkout that runs from source, where they are TypeScript. */
export const isFromSource = import.meta.url.endsWith('.ts');
const ending = isFromSource ? 'ts' : 'js';

/** The folder that they are in. */
export const ownFolder = resolve(import.meta.dirname, '..');

/** A file of ours, by its path in that folder. */
export const ownFile = (path: string): string => join(ownFolder, path);

/** The file of a module of ours, by its path in that folder without ending. */
export const own = (path: string): string => join(ownFolder, `${path}.${ending}`);

/** What look files import as `sguardo`, and as `sguardo/` with a kind of component. */
export const languageAlias = (): { find: RegExp; replacement: string }[] => [
  { find: /^sguardo$/, replacement: own('language/index') },
  { find: new RegExp(`^sguardo/(${kinds.join('|')})$`), replacement: own('language/kinds/$1') },
];
