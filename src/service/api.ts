/** The first origin: the HTTP interface and the console. */
import { existsSync } from 'node:fs';
import { join } from 'node:path';
import compress from '@fastify/compress';
import fastifyStatic from '@fastify/static';
import swagger from '@fastify/swagger';
import fastify, { type FastifyInstance, type FastifyReply, type FastifyServerOptions } from 'fastify';
import type { Schema } from 'yup';
import { answerProblems, frameworkErrors, mostMegabytes } from './problems.ts';
import { addHeaders, apiHeaders } from './headers.ts';
import type { ApiContext } from './routes/context.ts';
import { addRoutes } from './routes/routes.ts';
import { readPart, toJsonSchema } from './routes/schemas.ts';
import { guard } from './security.ts';

export type ApiOptions = {
  context: ApiContext;
  port: () => number;
  /** Origins whose pages the console shows in frames. */
  framed: () => readonly string[];
  consoleFolder: string;
  logger: FastifyServerOptions['logger'];
  version: string;
};

/** What is sent packed, from how many bytes on: a board of ten thousand looks is a third then. */
const packed = /^(application\/json|text\/(html|css|javascript))/;
const worthPacking = 4096;

const parts = ['body', 'params', 'querystring'] as const;

export async function buildApi({
  context,
  port,
  framed,
  consoleFolder,
  logger,
  version,
}: ApiOptions): Promise<FastifyInstance> {
  const app = fastify({ logger, frameworkErrors, forceCloseConnections: true, bodyLimit: mostMegabytes * 1024 * 1024 });
  guard(app, port);
  const hasConsole = existsSync(consoleFolder);
  const page = (reply: FastifyReply): unknown => reply.type('text/html; charset=utf-8').sendFile('index.html');
  answerProblems(app, join(context.root, '.sguardo'), hasConsole ? page : null);
  app.setValidatorCompiler<Schema>(({ schema, httpPart }) => (data) => ({ value: readPart(schema, data, httpPart) }));
  addHeaders(app, () => apiHeaders(framed()));
  // Events are not among these: they would wait for one another.
  await app.register(compress, { encodings: ['gzip', 'identity'], threshold: worthPacking, customTypes: packed });
  await app.register(swagger, {
    openapi: {
      openapi: '3.1.0',
      info: {
        title: 'Sguardo',
        version,
        description: 'Every error is answered as problem details (RFC 9457) with a code and a remedy.',
      },
    },
    transform: ({ schema, url }) => {
      const converted: Record<string, unknown> = { ...schema };
      for (const part of parts) if (schema?.[part]) converted[part] = toJsonSchema(schema[part] as Schema);
      return { schema: converted as typeof schema, url };
    },
  });
  addRoutes(app, context);
  app.get('/api/openapi.json', { schema: { hide: true } as object }, () => app.swagger());
  if (hasConsole) {
    await app.register(fastifyStatic, {
      root: consoleFolder,
      index: false,
      wildcard: false,
      globIgnore: ['draw*', '**/*.br'],
      // As the build has packed them.
      preCompressed: true,
      cacheControl: false,
      setHeaders: (reply, path) =>
        // Names in there carry a hash.
        void reply.setHeader('cache-control', path.includes('/assets/') ? 'max-age=31536000, immutable' : 'no-cache'),
    });
    // Addresses of the console's pages all show the same document, which knows what to do with them.
    for (const path of ['/', '/bench/*', '/stage', '/live/*', '/review', '/review/*'])
      app.get(path, { schema: { hide: true } as object }, (_request, reply) => page(reply));
  }
  return app;
}
