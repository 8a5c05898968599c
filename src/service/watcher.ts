/** Watches the files of a project while somebody wants to know at once what a change comes to. */
import { sep } from 'node:path';
import { watch } from 'chokidar';

/** Folders whose files are no source, wherever they are. */
const aside = /(^|[\\/])(node_modules|\.git|\.sguardo|dist|build|out|coverage)([\\/]|$)/;

/** Files at the start of whose name a dot stands, but for those that say how a project is built. */
const hidden = /(^|[\\/])\.(?!env|babelrc|browserslistrc|postcssrc|swcrc)[^\\/]*$/;

/** An editor writes in several steps, and several files at once: so long after the last change, in milliseconds. */
const calm = 25;

/** File systems write down times that lie a little behind, in milliseconds. */
const tick = 20;

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
    const tell = (): void => {
      clearTimeout(timer);
      timer = setTimeout(changed, calm);
    };
    // What is saved while the files are still looked through is a change, too.
    const since = Date.now() - tick;
    let isReady = false;
    let isMissed = false;
    watching = watch(root, { ignored: isAside, alwaysStat: true });
    watching.on('all', (_, __, stats) => {
      if (isReady) tell();
      else isMissed ||= stats === undefined || stats.mtimeMs >= since;
    });
    watching.on('ready', () => {
      isReady = true;
      if (isMissed) tell();
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
