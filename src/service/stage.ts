/** The second origin: documents of look files, and redrawn moments. No call of the interface is answered here. */
import { existsSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import fastify, { type FastifyInstance } from 'fastify';
import { decodePath } from '../core/address/address.ts';
import { fail } from '../core/problem/problem.ts';
import { stageHost } from '../core/wire/stage.ts';
import { type Bundle, fileOf, typeOf } from '../work/index.ts';
import type { Store } from '../store/index.ts';
import { addHeaders, lookHeaders } from './headers.ts';
import { answerProblems, frameworkErrors } from './problems.ts';
import { schemas } from './routes/schemas.ts';
import { guard } from './security.ts';

export type StageOptions = {
  store: Store;
  bundles: () => readonly Bundle[];
  /** Origins that looks may reach for real. */
  network: () => readonly string[];
  port: () => number;
  consoleOrigin: () => string;
  consoleFolder: string;
};

/**
 * The document that a moment is drawn into. Its scripts are off (sandbox), and it may load nothing but recorded
 * files.
 */
const blankPolicy =
  "default-src 'none'; img-src 'self' data:; font-src 'self' data:; style-src 'unsafe-inline' 'self'; sandbox " +
  "allow-same-origin; frame-ancestors 'self'";

const isAsset = (type: string): boolean => /^(image\/|font\/|text\/css)/.test(type);

export function buildStage({
  store,
  bundles,
  network,
  port,
  consoleOrigin,
  consoleFolder,
}: StageOptions): FastifyInstance {
  const app = fastify({ frameworkErrors, forceCloseConnections: true });
  guard(app, port, [stageHost]);
  answerProblems(app, '.sguardo');
  addHeaders(app, () => lookHeaders(network()));

  app.get('/draw', (_request, reply) => {
    const file = join(consoleFolder, 'draw.html');
    if (!existsSync(file)) return fail('not-found', { what: 'drawing page; build the console first: npm run build' });
    const policy =
      "default-src 'none'; script-src 'self'; style-src 'unsafe-inline'; connect-src 'self'; frame-src 'self'; " +
      `frame-ancestors 'self' ${consoleOrigin()}`;
    return reply.type('text/html; charset=utf-8').header('content-security-policy', policy).send(readFileSync(file));
  });

  app.get('/draw/blank', (_request, reply) =>
    reply
      .type('text/html; charset=utf-8')
      .header('content-security-policy', `${blankPolicy} ${consoleOrigin()}`)
      .send('<!doctype html><html><head></head><body></body></html>'),
  );

  app.get<{ Params: { '*': string } }>('/draw/scripts/*', ({ params }, reply) => {
    const name = params['*'];
    if (!/^[\w.-]+\.js$/.test(name) || !existsSync(join(consoleFolder, 'scripts', name)))
      return fail('not-found', { what: `script ${name}` });
    return reply.type(typeOf(name)).send(readFileSync(join(consoleFolder, 'scripts', name)));
  });

  app.get<{ Params: { hash: string } }>('/asset/:hash', ({ params }, reply) => {
    const { hash } = schemas.hash.validateSync(params);
    const blob = store.blobs.get(hash);
    if (!blob || !isAsset(blob.type)) return fail('not-found', { what: 'file with this hash' });
    return reply
      .type(blob.type)
      .header('content-security-policy', "default-src 'none'; style-src 'unsafe-inline'; sandbox")
      .header('cache-control', 'private, max-age=31536000, immutable')
      .send(blob.bytes);
  });

  app.get('/*', async (request, reply) => {
    const path =
      decodePath(request.url.split('?')[0]!) ?? fail('request-wrong', { error: 'The address cannot be decoded.' });
    for (const bundle of bundles()) {
      const file = await fileOf(bundle, path);
      if (file)
        return reply
          .type(file.type)
          .header('cache-control', path.startsWith('/assets/') ? 'max-age=31536000, immutable' : 'no-store')
          .send(file.body);
    }
    return fail('not-found', { what: `file at ${path}` });
  });
  return app;
}
