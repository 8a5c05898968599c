/** The place of a stage where a component stands: another look is mounted anew, and the same one is updated. */
import type { Adapter, FrameModule, Mountable } from '../adapters/adapter.ts';

export type Place = {
  /** Puts a look there; `prepare` makes its surroundings ready when it has to be mounted, and says what frames it. */
  put(adapter: Adapter, look: string, what: Mountable, prepare: () => Promise<FrameModule | null>): Promise<void>;
  /** Takes away what stands there. */
  clear(): void;
};

/** The place that an element makes; `failed` hears what goes wrong in a component that was mounted. */
export function placeOf(root: HTMLElement, failed: (error: unknown) => void): Place {
  let mounted: { instance: unknown; adapter: Adapter; look: string } | null = null;
  /** What is there could not be mounted: the next one is mounted anew, and says so again. */
  let isBroken = false;
  const onError = (error: unknown): void => {
    isBroken = true;
    failed(error);
  };

  function clear(): void {
    const before = mounted;
    mounted = null;
    try {
      before?.adapter.unmount(before.instance);
    } catch (error) {
      // What could not be mounted may be no more fit to be taken away.
      if (!isBroken) throw error;
    } finally {
      root.replaceChildren();
    }
  }

  return {
    clear,
    async put(adapter, look, what, prepare) {
      const isSame = mounted?.adapter === adapter && mounted.look === look;
      if (mounted && isSame && !isBroken) return adapter.update(mounted.instance, what);
      clear();
      const frame = await prepare();
      await adapter.warm();
      isBroken = false;
      mounted = { instance: await adapter.mount(root, what, frame, onError), adapter, look };
    },
  };
}
