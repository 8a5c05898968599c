/** Watches the files of a project while somebody wants to know at once what a change comes to. */
import { sep } from 'node:path';
import { watch } from 'chokidar';

/** Folders whose files are no source, wherever they are. */
const aside = /(^|[\\/])(node_modules|\.git|\.sguardo|dist|build|out|coverage)([\\/]|$)/;

/** Files at the start of whose name a dot stands, but for those that say how a project is built. */
const hidden = /(^|[\\/])\.(?!env|babelrc|browserslistrc|postcssrc|swcrc)[^\\/]*$/;

/** An editor writes in several steps, and several files at once: so long after the last change, in milliseconds. */
const calm = 25;

export type Watcher = {
  /**
   * Somebody wants to know of changes outside the folder of baselines; returns a function that says that they no longer
   * do.
   */
  want(baselines: string | null): () => void;
  close(): Promise<void>;
};

/** Calls `changed` a moment after files have changed, for as long as somebody wants to know. */
export function watcherOf(root: string, changed: () => void): Watcher {
  let wanted = 0;
  let watching: ReturnType<typeof watch> | null = null;
  let timer: NodeJS.Timeout | undefined;
  const begin = (baselines: string | null): void => {
    const isAside = (path: string): boolean => {
      const inside = path.slice(root.length);
      const isBaseline = baselines !== null && `${inside}${sep}`.startsWith(`${sep}${baselines}${sep}`);
      return isBaseline || aside.test(inside) || hidden.test(inside);
    };
    watching = watch(root, { ignored: isAside, ignoreInitial: true });
    watching.on('all', () => {
      clearTimeout(timer);
      timer = setTimeout(changed, calm);
    });
    // A folder that cannot be read is not watched; the rest is.
    watching.on('error', () => {});
  };
  const end = async (): Promise<void> => {
    clearTimeout(timer);
    const before = watching;
    watching = null;
    await before?.close();
  };
  return {
    want(baselines) {
      if (++wanted === 1) begin(baselines);
      let isOver = false;
      return () => {
        if (isOver) return;
        isOver = true;
        if (--wanted === 0) void end();
      };
    },
    close: end,
  };
}
