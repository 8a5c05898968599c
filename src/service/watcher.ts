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
  /** Somebody wants to know of changes; returns a function that says that they no longer do. */
  want(): () => void;
  close(): Promise<void>;
};

/** Calls `changed` a moment after files have changed, for as long as somebody wants to know. */
export function watcherOf(root: string, baselines: () => string | null, changed: () => void): Watcher {
  let wanted = 0;
  let watching: ReturnType<typeof watch> | null = null;
  let timer: NodeJS.Timeout | undefined;
  const isAside = (path: string): boolean => {
    const inside = path.slice(root.length);
    const folder = baselines();
    if (folder !== null && `${inside}${sep}`.startsWith(`${sep}${folder}${sep}`)) return true;
    return aside.test(inside) || hidden.test(inside);
  };
  const begin = (): void => {
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
    want() {
      if (++wanted === 1) begin();
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
