/** The calls of the HTTP interface. */
import type { FastifyInstance } from 'fastify';
import type { InferType } from 'yup';
import type { DecisionRequest, HistoryEntry, ProjectInfo } from '../core/api.ts';
import { fail } from '../core/problem.ts';
import { isUndecided } from '../core/run.ts';
import type { Settings } from '../core/config.ts';
import type { Store } from '../store/index.ts';
import { decide } from './baselines.ts';
import type { Conductor } from './conductor.ts';
import type { Live } from './live.ts';
import { schemas } from './schemas.ts';

export type ApiContext = { store: Store; conductor: Conductor; live: Live; root: string; settings(): Promise<Settings>; project(): Promise<ProjectInfo> };

type Id = { Params: InferType<typeof schemas.id> };

/** What a blob may be to be given out here: pictures only; what a page made is served from the other origin. */
const isPicture = (type: string): boolean => type === 'image/png';

export function addRoutes(app: FastifyInstance, { store, conductor, live, root, settings, project }: ApiContext): void {
  app.get('/api/project', { schema: { summary: 'The project, its environments and the run that goes on' } }, () => project());

  app.get('/api/looks', { schema: { summary: 'The newest result of every look that there is, in every environment' } }, () => store.results.latest());

  app.get<{ Querystring: InferType<typeof schemas.look> }>(
    '/api/looks/history',
    { schema: { summary: 'Results and decisions of one look, newest first', querystring: schemas.look } },
    ({ query }) => {
      const { component, look, environment } = query;
      const decisions = store.decisions
        .history({ component, look, environment })
        .map(({ id, capture, run, hash, kind, who, at, why }): HistoryEntry => ({ id, capture, run, hash, kind, who, at, why }));
      return { results: store.results.history(component, look, environment, 50), decisions };
    },
  );

  app.get<{ Querystring: InferType<typeof schemas.limit> }>(
    '/api/runs',
    { schema: { summary: 'Runs, newest first', querystring: schemas.limit } },
    ({ query }) => store.runs.list(query.limit),
  );

  app.post<{ Body: InferType<typeof schemas.run> }>('/api/runs', { schema: { summary: 'Run looks', body: schemas.run } }, (request, reply) =>
    reply.code(202).send(conductor.start(request.body)),
  );

  app.get<Id>(
    '/api/runs/:id',
    { schema: { summary: 'One run', params: schemas.id } },
    ({ params }) => store.runs.get(params.id) ?? fail('not-found', { what: `run ${params.id}` }),
  );

  app.get<Id>('/api/runs/:id/results', { schema: { summary: 'The results of a run', params: schemas.id } }, ({ params }) => {
    if (!store.runs.get(params.id)) fail('not-found', { what: `run ${params.id}` });
    return store.results.ofRun(params.id);
  });

  app.post<Id>('/api/runs/:id/stop', { schema: { summary: 'Stop a run after the looks that are under way', params: schemas.id } }, ({ params }) =>
    conductor.stop(params.id),
  );

  app.get<Id>(
    '/api/results/:id',
    { schema: { summary: 'One result', params: schemas.id } },
    ({ params }) => store.results.get(params.id) ?? fail('not-found', { what: `result ${params.id}` }),
  );

  app.get<Id>(
    '/api/results/:id/timeline',
    { schema: { summary: 'The timeline of a result: steps, marks and moments', params: schemas.id } },
    ({ params }) => store.results.timeline(params.id) ?? fail('not-found', { what: `result ${params.id}` }),
  );

  app.get('/api/changes', { schema: { summary: 'The newest results with captures that nobody has decided about' } }, () =>
    store.results.latest().filter((result) => result.captures.some(isUndecided)),
  );

  app.post<{ Body: DecisionRequest }>('/api/decisions', { schema: { summary: 'Approve or reject captures', body: schemas.decision } }, async ({ body }) => {
    const decided = decide(store, root, (await settings()).baselines, body);
    if (decided.decided.length > 0) live.tell({ kind: 'decided', captures: decided.decided.length });
    return decided;
  });

  app.get<{ Params: InferType<typeof schemas.hash> }>(
    '/api/blobs/:hash',
    { schema: { summary: 'A screenshot or difference picture by its hash (PNG)', params: schemas.hash } },
    ({ params }, reply) => {
      const blob = store.blobs.get(params.hash);
      if (!blob || !isPicture(blob.type)) return fail('not-found', { what: 'such picture' });
      return reply.type(blob.type).header('cache-control', 'private, max-age=31536000, immutable').send(blob.bytes);
    },
  );

  app.get('/api/events', { schema: { summary: 'The live feed (server-sent events); each message is a JSON object with a kind' } }, (request, reply) => {
    reply.hijack();
    reply.raw.writeHead(200, { 'content-type': 'text/event-stream', 'cache-control': 'no-store' });
    reply.raw.write(': welcome\n\n');
    const stop = live.listen((event) => reply.raw.write(`data: ${JSON.stringify(event)}\n\n`));
    const beat = setInterval(() => reply.raw.write(': still here\n\n'), 15_000);
    request.raw.once('close', () => {
      clearInterval(beat);
      stop();
    });
  });
}
