/** Which look files cannot be built because of one module: those that it is behind. */
import type { Plugin } from 'vite';
import { beginningWith } from './filters.ts';

/** Before the path of a module that something else stands for. */
const prefix = '\0sguardo:broken:';

/** The path of the module that something else stands for; null for any other module. */
export const pathStoodFor = (id: string): string | null => (id.startsWith(prefix) ? id.slice(prefix.length) : null);

/**
 * Has something empty stand for modules that cannot be built, given by their full paths, so that a build tells what
 * they are behind. Missing exports have to be shimmed.
 */
export const standIns = (broken: ReadonlySet<string>): Plugin => ({
  name: 'sguardo:stand-ins',
  enforce: 'pre',
  resolveId: {
    order: 'pre',
    async handler(source, importer, options) {
      if (pathStoodFor(source) !== null) return source;
      const found = await this.resolve(source, importer, { ...options, skipSelf: true }).catch(() => null);
      const path = found?.id.split('?', 1)[0];
      return path !== undefined && broken.has(path) ? prefix + path : null;
    },
  },
  load: {
    filter: { id: beginningWith(prefix) },
    handler: (id) => (pathStoodFor(id) === null ? null : 'export default undefined;'),
  },
});
