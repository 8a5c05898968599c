/** Taking down what the browser does for a page, and which of its functions run. */
import { setTimeout as delay } from 'node:timers/promises';
import type { Measured, Profile, TraceEvent } from '../../core/timing/costs.ts';
import type { Hears, Send } from './pipe.ts';

/** How long a profile is without a sample, in microseconds. */
const samplingInterval = 200;

/** How long the browser may take to hand over what it has taken down, in milliseconds. */
const traceLimit = 10_000;

export type Measuring = { begin(): Promise<void>; end(): Promise<Measured>; readonly hears: Hears };

export function measuringOf(send: Send): Measuring {
  let traced: TraceEvent[] = [];
  /** Whoever waits for the rest of it. */
  let complete: (() => void) | null = null;
  return {
    async begin() {
      traced = [];
      await send('Profiler.enable');
      await send('Profiler.setSamplingInterval', { interval: samplingInterval });
      await send('Tracing.start', {
        transferMode: 'ReportEvents',
        traceConfig: {
          includedCategories: ['devtools.timeline', 'disabled-by-default-devtools.timeline', 'loading'],
          recordMode: 'recordUntilFull',
        },
      });
      await send('Profiler.start');
    },
    async end() {
      const stopped = await send<{ profile: Profile }>('Profiler.stop').catch(() => null);
      const rest = new Promise<void>((resolve) => {
        complete = resolve;
      });
      await send('Tracing.end');
      await Promise.race([rest, delay(traceLimit, undefined, { ref: false })]);
      complete = null;
      return { events: traced.splice(0), profile: stopped?.profile ?? null };
    },
    hears: {
      'Tracing.dataCollected'({ value }) {
        for (const event of value as TraceEvent[]) traced.push(event);
      },
      'Tracing.tracingComplete': () => complete?.(),
    },
  };
}
