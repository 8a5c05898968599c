/** Calls about runs and their results. */
import type { InferType } from 'yup';
import { markupRows } from '../../core/moment/markupRows.ts';
import { fail } from '../../core/problem/problem.ts';
import type { Routes } from './context.ts';
import { schemas } from './schemas.ts';

type Id = { Params: InferType<typeof schemas.id> };

export const runRoutes: Routes = (app, { store, conductor, closeWindows }) => {
  const run = (id: number) => store.runs.get(id) ?? fail('not-found', { what: `run ${id}` });
  const withId = (summary: string) => ({ schema: { summary, params: schemas.id } });

  app.get<{ Querystring: InferType<typeof schemas.limit> }>(
    '/api/runs',
    { schema: { summary: 'Runs, newest first', querystring: schemas.limit } },
    ({ query }) => store.runs.list(query.limit),
  );

  app.post<{ Body: InferType<typeof schemas.run> }>(
    '/api/runs',
    { schema: { summary: 'Run looks, after the runs that were asked for before', body: schemas.run } },
    ({ body }, reply) => reply.code(202).send(conductor.start(body)),
  );

  app.get<Id>('/api/runs/:id', withId('One run'), ({ params }) => run(params.id));

  app.get<Id & { Querystring: InferType<typeof schemas.own> }>(
    '/api/runs/:id/results',
    {
      schema: {
        summary: 'The results of a run; with “own” without those that it has taken over from earlier runs',
        params: schemas.id,
        querystring: schemas.own,
      },
    },
    ({ params, query }) => store.results.ofRun(run(params.id).id, query.own),
  );

  app.post<Id>('/api/runs/:id/stop', withId('Stop a run after the looks that are under way'), ({ params }) =>
    conductor.stop(params.id),
  );

  app.post(
    '/api/windows/close',
    { schema: { summary: 'Close the windows that headed runs have left on the screen' } },
    async () => {
      await closeWindows();
      return {};
    },
  );

  app.get<Id>(
    '/api/results/:id',
    withId('One result'),
    ({ params }) => store.results.get(params.id) ?? fail('not-found', { what: `result ${params.id}` }),
  );

  app.get<Id & { Querystring: InferType<typeof schemas.captureName> }>(
    '/api/results/:id/markup',
    {
      schema: {
        summary: 'The markup of a capture and of its baseline, as one tree of lines',
        params: schemas.id,
        querystring: schemas.captureName,
      },
    },
    ({ params: { id }, query }) => {
      const capture =
        store.results.captures(id).find(({ name }) => name === query.capture) ??
        fail('not-found', { what: `capture “${query.capture}” of result ${id}` });
      const { component, look, environment, name, markup } = capture;
      const baseline = store.decisions.baseline({ component, look, environment, capture: name });
      const lines = (hash: string | undefined): string[] => {
        const blob = hash === undefined ? null : store.blobs.get(hash);
        return blob ? (JSON.parse(blob.bytes.toString('utf8')) as string[]) : [];
      };
      return markupRows(lines(baseline?.markup), lines(markup));
    },
  );

  app.get<Id>(
    '/api/results/:id/timeline',
    withId('The timeline of a result: steps, marks and moments'),
    ({ params }) => store.results.timeline(params.id) ?? fail('not-found', { what: `result ${params.id}` }),
  );
};
