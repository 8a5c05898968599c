/** Chunks without styles of their own are spared what Vite does to find out which styles their lazy imports need. */
import type { Plugin } from 'vite';

/** What Vite puts beside a lazy import until it knows; from 8.4 on with a hash behind it. */
const marker = /(["']?)__VITE_PRELOAD__\w*\1/g;

/** Code whose markers have given way to what Vite makes of them, at the same length: its source map stays true. */
export const settled = (code: string): string => code.replace(marker, (found) => 'void 0'.padEnd(found.length));

/**
 * Vite writes each chunk anew that still has markers, and makes a new map of it: of a large one that takes longer than
 * all the rest of its build. `isSettled` is asked with the module that a chunk stands for.
 */
export const settleMarkers = (isSettled: (facade: string) => boolean): Plugin => ({
  name: 'sguardo:settle-markers',
  generateBundle: {
    order: 'pre',
    handler(_, output) {
      for (const item of Object.values(output))
        if (item.type === 'chunk' && item.facadeModuleId && isSettled(item.facadeModuleId))
          item.code = settled(item.code);
    },
  },
});
