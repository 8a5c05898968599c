/** Calls about why captures have changed. */
import type { InferType } from 'yup';
import { fail } from '../../core/problem/problem.ts';
import { sincePassed } from '../failures.ts';
import type { Routes } from './context.ts';
import { schemas } from './schemas.ts';

export const causeRoutes: Routes = (app, { store, root, explainer, culprits }) => {
  const summary = 'Why captures have changed that are not approved, by cause';
  app.get('/api/causes', { schema: { summary } }, () => explainer.list(store.results.latest()));

  app.get<{ Params: InferType<typeof schemas.id> }>(
    '/api/results/:id/since',
    {
      schema: {
        summary: 'Where a failing look parts from the last time that it passed, and what was committed since',
        params: schemas.id,
      },
    },
    ({ params: { id } }) => sincePassed(store, root, id),
  );

  const alone = 'The picture of a baseline with one cause of what changed, and no other';
  app.get<{ Querystring: InferType<typeof schemas.alone> }>(
    '/api/causes/alone',
    { schema: { summary: alone, querystring: schemas.alone } },
    async ({ query: { result: id, capture, cause } }) => {
      const result = store.results.get(id) ?? fail('not-found', { what: `result ${id}` });
      return { hash: await explainer.alone(result, capture, cause) };
    },
  );

  const edits = 'Which edits of the source did what a capture changed by, or without one that its look fails';
  app.get<{ Querystring: InferType<typeof schemas.edits> }>(
    '/api/causes/edits',
    { schema: { summary: edits, querystring: schemas.edits } },
    ({ query: { result, capture } }) => culprits.find(result, capture),
  );
};
