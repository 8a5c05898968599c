/** Calls about baselines: deciding, tidying, pictures. */
import type { InferType } from 'yup';
import { decide } from '../../baselines/decide.ts';
import { goneAmong, removeGone } from '../../baselines/gone.ts';
import { readFolder } from '../../baselines/folder.ts';
import type { DecisionRequest, Tidied } from '../../core/api/api.ts';
import { fail } from '../../core/problem/problem.ts';
import { packPng } from '../../work/index.ts';
import { decideCauses } from '../byCause.ts';
import { oneByOne } from '../turns.ts';
import type { Routes } from './context.ts';
import { schemas } from './schemas.ts';

/** What a blob may be to be given out here: pictures only; what a page made is served from the other origin. */
const isPicture = (type: string): boolean => type === 'image/png';

export const decisionRoutes: Routes = (app, { store, live, root, explainer, settings }) => {
  // Each decision begins with what the one before it has left.
  const inTurn = oneByOne();

  app.post<{ Body: DecisionRequest }>(
    '/api/decisions',
    { schema: { summary: 'Approve or reject captures, all of them or none', body: schemas.decision } },
    async ({ body }) => {
      const decided = await inTurn(async () => {
        const desk = { store, root, folder: (await settings()).baselines, pack: packPng };
        return body.causes ? decideCauses(desk, explainer, body) : decide(desk, body);
      });
      if (decided.decided.length > 0) live.tell({ kind: 'decided', captures: decided.decided.length });
      return decided;
    },
  );

  app.post<{ Body: InferType<typeof schemas.tidy> }>(
    '/api/baselines/tidy',
    { schema: { summary: 'Tell, and with `remove` take away, baselines whose look is gone', body: schemas.tidy } },
    async ({ body }): Promise<Tidied> => {
      const { baselines, environments } = await settings();
      if (baselines === null) return { files: [], removed: false };
      const names = environments.map(({ name }) => name);
      const kept = readFolder(root, baselines).contents.baselines.map(({ key, file }) => ({ key, file }));
      const gone = body.remove ? removeGone(store, root, baselines, names) : goneAmong(store, kept, names);
      return { files: gone.map(({ file }) => file), removed: body.remove };
    },
  );

  app.get<{ Params: InferType<typeof schemas.hash> }>(
    '/api/blobs/:hash',
    { schema: { summary: 'A screenshot or difference picture by its hash (PNG)', params: schemas.hash } },
    ({ params }, reply) => {
      const blob = store.blobs.get(params.hash);
      if (!blob || !isPicture(blob.type)) return fail('not-found', { what: 'picture with this hash' });
      return reply.type(blob.type).header('cache-control', 'private, max-age=31536000, immutable').send(blob.bytes);
    },
  );
};
