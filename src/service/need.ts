/** When a service that a command has started for itself is not needed any more. */
import type { FastifyInstance } from 'fastify';
import { callerHeader } from '../core/api/api.ts';
import type { Conductor } from './conductor.ts';
import type { Live } from './live.ts';

/**
 * How long after a run the one that followed it still asks for its results, in milliseconds; far more than it takes.
 */
const quiet = 1000;

/** Listens for calls to know when the service is not needed any more. */
export function needOf(server: FastifyInstance, conductor: Conductor, live: Live): () => Promise<void> {
  let lastCall = 0;
  // What the command calls that has started this service, and is done now, keeps it no longer.
  const own = String(process.ppid);
  server.addHook('onRequest', async ({ headers }) => {
    if (headers[callerHeader] !== own) lastCall = Date.now();
  });
  return async () => {
    for (;;) {
      const followed = conductor.current !== null && live.count() > 0;
      if (followed) lastCall = Date.now();
      else if (Date.now() - lastCall > quiet) return;
      await new Promise((resolve) => setTimeout(resolve, 50));
    }
  };
}
