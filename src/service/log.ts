/** The service's own log: errors that nobody expected, for whoever is asked about them. */
import { appendFileSync, rmSync, statSync } from 'node:fs';
import type { FastifyServerOptions } from 'fastify';

/** A log that has grown beyond this begins anew, in bytes. */
const largest = 5_000_000;

/** Writes errors to a file. What cannot be written, on a full disk, is lost: the log must not end what it tells of. */
export const errorLog = (file: string): FastifyServerOptions['logger'] => ({
  level: 'error',
  stream: {
    write(line: string): void {
      try {
        if ((statSync(file, { throwIfNoEntry: false })?.size ?? 0) > largest) rmSync(file);
        appendFileSync(file, line, { mode: 0o600 });
      } catch {
        // There is nobody left to tell.
      }
    },
  },
});
