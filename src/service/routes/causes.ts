/** Calls about why captures have changed. */
import type { InferType } from 'yup';
import { fail } from '../../core/problem/problem.ts';
import { failureStory } from '../failures.ts';
import type { Routes } from './context.ts';
import { schemas } from './schemas.ts';

export const causeRoutes: Routes = (app, { store, root, explainer, culprits }) => {
  const summary =
    'Why captures have changed that are not approved, by cause: of one run, or of what looks stand at now';
  app.get<{ Querystring: InferType<typeof schemas.ofRun> }>(
    '/api/causes',
    { schema: { summary, querystring: schemas.ofRun } },
    ({ query: { run } }) => {
      if (run !== null && !store.runs.get(run)) return fail('not-found', { what: `run ${run}` });
      return explainer.list(run === null ? store.results.latest() : store.results.ofRun(run));
    },
  );

  app.get<{ Params: InferType<typeof schemas.id> }>(
    '/api/results/:id/since',
    {
      schema: {
        summary: 'Where a failing look parts from the last time that it passed, and what was committed since',
        params: schemas.id,
      },
    },
    ({ params: { id } }) => failureStory(store, root, id),
  );

  const edits = 'Which edits of the source did what a capture changed by, or without one that its look fails';
  app.get<{ Querystring: InferType<typeof schemas.edits> }>(
    '/api/causes/edits',
    { schema: { summary: edits, querystring: schemas.edits } },
    ({ query: { result, capture } }) => culprits.find(result, capture),
  );
};
