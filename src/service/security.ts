/** Who may talk to the service: requests to its own address, from its own pages or from no page at all. */
import type { FastifyInstance } from 'fastify';
import { ProblemError, problem } from '../core/problem/problem.ts';

/** Names under which a loopback port can be reached. */
const loopbackHosts = (port: number): string[] => [`127.0.0.1:${port}`, `localhost:${port}`, `[::1]:${port}`];

/**
 * Refuses requests whose Host is none of `hosts` (another name that resolves to this machine) and requests that a page
 * of another origin makes.
 */
export function guard(app: FastifyInstance, port: () => number, extraHosts: readonly string[] = []): void {
  app.addHook('onRequest', async (request) => {
    const hosts = [...loopbackHosts(port()), ...extraHosts];
    const host = (request.headers.host ?? '').toLowerCase();
    if (!hosts.includes(host)) throw new ProblemError(problem('host-refused', { host: host || '(none)' }));
    const { origin } = request.headers;
    if (origin && !hosts.includes(origin.replace(/^https?:\/\//, '').toLowerCase()))
      throw new ProblemError(problem('origin-refused', { origin }));
    // Simple requests carry no Origin in some browsers; this header says what they are.
    const site = request.headers['sec-fetch-site'];
    if (site === 'cross-site' && request.headers['sec-fetch-mode'] !== 'navigate')
      throw new ProblemError(problem('origin-refused', { origin: 'another site' }));
  });
}
