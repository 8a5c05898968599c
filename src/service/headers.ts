/** Headers that every response of an origin carries. */
import type { FastifyInstance, FastifyReply } from 'fastify';

/** What browsers may do with what the first origin sends: nothing but the console, and frames of other origins. */
export const apiHeaders = (framed: readonly string[]): Record<string, string> => ({
  'x-content-type-options': 'nosniff',
  'referrer-policy': 'no-referrer',
  'content-security-policy': [
    "default-src 'self'",
    "img-src 'self' data:",
    "style-src 'self' 'unsafe-inline'",
    `frame-src 'self' ${framed.join(' ')}`,
    "frame-ancestors 'none'",
    "base-uri 'none'",
    "form-action 'none'",
  ].join('; '),
});

/**
 * What a look's document may do. Requests of scripts are paused and answered, so they may name any address; everything
 * else stays on the stage, but for `network`, the origins that the project lets through.
 */
export function lookHeaders(network: readonly string[]): Record<string, string> {
  const through = network.join(' ');
  return {
    'x-content-type-options': 'nosniff',
    'referrer-policy': 'no-referrer',
    'content-security-policy': [
      `default-src 'self' data: blob: 'unsafe-inline' 'unsafe-eval' ${through}`,
      `connect-src http: https: data: blob: ${through}`,
      "object-src 'none'",
      "webrtc 'block'",
    ].join('; '),
  };
}

/** Adds headers to every reply that does not set them itself, errors and missing pages included. */
export function addHeaders(app: FastifyInstance, headers: () => Record<string, string>): void {
  app.addHook('onSend', async (_request, reply: FastifyReply) => {
    for (const [name, value] of Object.entries(headers())) if (!reply.hasHeader(name)) reply.header(name, value);
  });
}
