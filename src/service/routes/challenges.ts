/** Calls about challenging looks: would their checks notice if something went wrong? */
import type { InferType } from 'yup';
import type { Routes } from './context.ts';
import { schemas } from './schemas.ts';

type ById = { Params: InferType<typeof schemas.id> };

export const challengeRoutes: Routes = (app, { challenger }) => {
  app.post<{ Body: InferType<typeof schemas.challenge> }>(
    '/api/challenges',
    {
      schema: {
        summary: 'Run looks with one thing after the other made wrong in their pages, to see which checks notice it',
        body: schemas.challenge,
      },
    },
    ({ body: { patterns, most } }) => challenger.begin({ patterns: patterns as string[], most }),
  );

  app.get<ById>(
    '/api/challenges/:id',
    {
      schema: {
        summary: 'How far a challenge is, and what came of it; one that nobody asks for is stopped',
        params: schemas.id,
      },
    },
    ({ params }) => challenger.get(params.id),
  );

  app.post<ById>(
    '/api/challenges/:id/stop',
    { schema: { summary: 'Stop a challenge after the looks that are under way', params: schemas.id } },
    ({ params }) => challenger.stop(params.id),
  );
};
