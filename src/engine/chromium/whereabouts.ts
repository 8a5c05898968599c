/** Where the script of a page is that runs just now: it is paused for a moment, and goes on. */
import { setTimeout as delay } from 'node:timers/promises';
import type { Hears, Params, Send } from './pipe.ts';

/** How long a running script takes to be paused at most, in milliseconds, on a busy machine. */
const pauseLimit = 2000;

type CallFrame = {
  functionName: string;
  location: { scriptId: string; lineNumber: number; columnNumber: number };
};

/** Call frames as an error's stack writes them. */
const stackOf = ({ callFrames }: Params, scripts: ReadonlyMap<string, string>): string =>
  (callFrames as CallFrame[])
    .map(({ functionName, location: { scriptId, lineNumber, columnNumber } }) => {
      const place = `${scripts.get(scriptId) ?? ''}:${lineNumber + 1}:${columnNumber + 1}`;
      return `    at ${functionName || '<anonymous>'} (${place})`;
    })
    .join('\n');

export type Whereabouts = {
  /** Whether anything can be told from now on, which costs every script some of its speed. */
  watch(isWatched: boolean): Promise<void>;
  /** The stack of the script that runs; null when none does, or nobody watches. */
  now(): Promise<string | null>;
  readonly hears: Hears;
};

export function whereaboutsOf(send: Send, post: (method: string) => void): Whereabouts {
  let isOn = false;
  /** Addresses of the scripts of a watched page, by the protocol's ids. */
  const scripts = new Map<string, string>();
  /** Hears where a script stands that was paused for that. */
  let paused: ((stack: string) => void) | null = null;
  return {
    async watch(isWatched) {
      scripts.clear();
      await send(isWatched ? 'Debugger.enable' : 'Debugger.disable');
      isOn = isWatched;
    },
    async now() {
      if (!isOn) return null;
      const stands = new Promise<string>((resolve) => {
        paused = resolve;
      });
      // Nothing is paused while no script runs.
      const stack = send('Debugger.pause').then(() => stands);
      return Promise.race([stack, delay(pauseLimit, null)]).catch(() => null);
    },
    hears: {
      'Debugger.scriptParsed': ({ scriptId, url }) => void scripts.set(scriptId, url),
      'Debugger.paused'(params) {
        // A statement of the project's own that pauses is passed over.
        if (paused) paused(stackOf(params, scripts));
        else post('Debugger.resume');
      },
    },
  };
}
