/** What scripts a window has run, as its engine counts them. */
import { addressOf, decodePath } from '../../core/address/address.ts';
import type { CoveredScript } from '../../core/coverage/hits.ts';
import type { Send } from './pipe.ts';

/** What a script has run (DevTools protocol, Profiler.ScriptCoverage). */
type ScriptCoverage = Pick<CoveredScript, 'functions'> & { url: string };

export type Counting = {
  /** Has what scripts run counted, or not; false when a document has been loaded otherwise before. */
  cover(isCovered: boolean): boolean;
  /** A document is about to be loaded. */
  loading(): void;
  /** A document has been loaded: counting begins with the first one. */
  loaded(): Promise<void>;
  /** What was run of an origin since it was last asked for. */
  covered(origin: string): Promise<CoveredScript[]>;
};

/** Counts through a window's session. */
export function countingOf(send: Send): Counting {
  let isWanted = false;
  let isCounting = false;
  let hasLoaded = false;
  return {
    cover(isCovered) {
      if (isCovered === isWanted) return true;
      if (hasLoaded) return false;
      isWanted = isCovered;
      return true;
    },
    loading() {
      hasLoaded = true;
    },
    async loaded() {
      if (!isWanted || isCounting) return;
      isCounting = true;
      await send('Profiler.enable');
      await send('Profiler.startPreciseCoverage', { callCount: true, detailed: true });
    },
    async covered(origin) {
      if (!isCounting) return [];
      const { result } = await send<{ result: ScriptCoverage[] }>('Profiler.takePreciseCoverage');
      return result.flatMap(({ url, functions }) => {
        // What the host has evaluated has no address, and is most of the scripts.
        const address = url === '' ? null : addressOf(url);
        const path = address?.origin === origin ? decodePath(address.pathname) : null;
        return path === null ? [] : [{ path, functions }];
      });
    },
  };
}
