/** Calls about what looks run of the project's sources. */
import type { InferType } from 'yup';
import type { Routes } from './context.ts';
import { schemas } from './schemas.ts';

type OfRun = { Querystring: InferType<typeof schemas.ofRun> };

export const coverageRoutes: Routes = (app, { coverage }) => {
  app.get<OfRun>(
    '/api/coverage',
    {
      schema: {
        summary: 'How much of the sources the looks of a run have run; of the newest run that has counted without one',
        querystring: schemas.ofRun,
      },
    },
    ({ query }) => coverage.report(query.run),
  );

  app.get<{ Querystring: InferType<typeof schemas.source> }>(
    '/api/coverage/file',
    {
      schema: {
        summary: 'One source line by line: how often each was run, by which looks, and what none of them reaches',
        querystring: schemas.source,
      },
    },
    ({ query }) => coverage.file(query.run, query.path),
  );

  app.get<OfRun>(
    '/api/coverage/map',
    { schema: { summary: 'Coverage as Istanbul’s tools read it (coverage.json)', querystring: schemas.ofRun } },
    ({ query }) => coverage.map(query.run),
  );
};
