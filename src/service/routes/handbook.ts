/** Calls about the handbook: components with their props, looks and words, and the tokens of the project. */
import type { InferType } from 'yup';
import { buildStages } from '../../work/index.ts';
import type { Routes } from './context.ts';
import { schemas } from './schemas.ts';

/** Pictures and PDFs of a project may be made by anybody: nothing in them is run. */
const inert = "default-src 'none'; style-src 'unsafe-inline'; img-src data:; sandbox";

export const handbookRoutes: Routes = (app, { handbook, root, settings }) => {
  const contents = 'The components of the handbook, with what each is found by';
  app.get('/api/handbook', { schema: { summary: contents } }, () => handbook.contents());

  app.get<{ Querystring: InferType<typeof schemas.component> }>(
    '/api/handbook/component',
    {
      schema: { summary: 'All there is to say of a component', querystring: schemas.component },
    },
    ({ query }) => handbook.page(query.component),
  );

  const stages = 'Look files as live pages that need no service: files in base64, and the page of each look file';
  app.post('/api/stages', { schema: { summary: stages } }, async () => buildStages(root, await settings()));

  const tokens = 'The custom properties of the project’s style sheets, with their values, and contrasts of colours';
  app.get('/api/handbook/tokens', { schema: { summary: tokens } }, () => handbook.tokens());

  app.get<{ Querystring: InferType<typeof schemas.path> }>(
    '/api/handbook/file',
    { schema: { summary: 'A picture or PDF of the project that the handbook shows', querystring: schemas.path } },
    ({ query }, reply) => {
      const { bytes, type } = handbook.file(query.path);
      // Browsers show no PDF in a sandbox; the handbook lays one over a look.
      const policy = type === 'application/pdf' ? "frame-ancestors 'self'" : inert;
      reply.header('content-security-policy', policy);
      return reply.type(type).header('cache-control', 'no-cache').send(bytes);
    },
  );
};
