/** Calls about baselines: deciding, tidying, pictures. */
import type { InferType } from 'yup';
import { decide } from '../../baselines/decide.ts';
import type { Desk } from '../../baselines/desk.ts';
import { goneAmong, removeGone, unsharedIn } from '../../baselines/gone.ts';
import { readFolder } from '../../baselines/folder.ts';
import { undo } from '../../baselines/undo.ts';
import { removeFiles } from '../../baselines/write.ts';
import type { DecisionRequest, PictureComparison, Tidied, UndoRequest } from '../../core/api/api.ts';
import { fail } from '../../core/problem/problem.ts';
import { comparePngs, packPng } from '../../work/index.ts';
import { decideCauses } from '../byCause.ts';
import { oneByOne } from '../turns.ts';
import type { Routes } from './context.ts';
import { schemas } from './schemas.ts';

/** A decision about fewer captures is made before anybody wonders; of larger ones every so many pictures are told. */
const worthTelling = 20;
const told = 10;

/** What a blob may be to be given out here: pictures only; what a page made is served from the other origin. */
const isPicture = (type: string): boolean => type === 'image/png';

export const decisionRoutes: Routes = (app, { store, live, root, explainer, settings }) => {
  // Each decision begins with what the one before it has left.
  const inTurn = oneByOne();
  const deskNow = async (): Promise<Desk> => {
    const { baselines, family, reasons } = await settings();
    const tell = (done: number, all: number): void => {
      if (all >= worthTelling && (done % told === 0 || done === all)) live.tell({ kind: 'deciding', done, all });
    };
    return { store, root, folder: baselines, family, pack: packPng, asksWhy: reasons === 'all', tell };
  };

  app.post<{ Body: DecisionRequest }>(
    '/api/decisions',
    { schema: { summary: 'Approve or reject captures, all of them or none', body: schemas.decision } },
    async ({ body }) => {
      const decided = await inTurn(async () => {
        const desk = await deskNow();
        return body.causes ? decideCauses(desk, explainer, body) : decide(desk, body);
      });
      if (decided.batch !== null) live.tell({ kind: 'decided', captures: decided.decided.length });
      return decided;
    },
  );

  app.post<{ Body: UndoRequest }>(
    '/api/decisions/undo',
    {
      schema: {
        summary: 'Take back what was decided at once: the last decision, or one by its batch',
        body: schemas.undo,
      },
    },
    async ({ body }) => {
      const undone = await inTurn(async () => undo(await deskNow(), body));
      live.tell({ kind: 'decided', captures: undone.captures.length });
      return undone;
    },
  );

  app.post<{ Body: InferType<typeof schemas.tidy> }>(
    '/api/baselines/tidy',
    {
      schema: {
        summary: 'Tell, and with `remove` take away, baselines whose look is gone, and files that none shares any more',
        body: schemas.tidy,
      },
    },
    async ({ body }): Promise<Tidied> => {
      const { baselines, environments } = await settings();
      if (baselines === null) return { files: [], unshared: [], removed: false };
      const names = environments.map(({ name }) => name);
      const kept = readFolder(root, baselines).contents.baselines.map(({ key, file }) => ({ key, file }));
      const gone = body.remove ? removeGone(store, root, baselines, names) : goneAmong(store, kept, names);
      const unshared = unsharedIn(root, baselines);
      if (body.remove) removeFiles(root, baselines, unshared);
      const folder = baselines.replace(/\/$/, '');
      return {
        files: gone.map(({ file }) => file),
        unshared: unshared.map((path) => `${folder}/${path}`),
        removed: body.remove,
      };
    },
  );

  app.get<{ Querystring: InferType<typeof schemas.comparison> }>(
    '/api/comparisons',
    { schema: { summary: 'How two pictures differ, by their hashes', querystring: schemas.comparison } },
    async ({ query }): Promise<PictureComparison> => {
      const bytesOf = (hash: string): Buffer => {
        const blob = store.blobs.get(hash);
        return blob && isPicture(blob.type) ? blob.bytes : fail('not-found', { what: `picture ${hash}` });
      };
      const pair = { before: bytesOf(query.before), now: bytesOf(query.now) };
      const compared = await comparePngs({ ...pair, isPaintedAnyway: true, allowances: [] });
      if ('corrupt' in compared) return fail('internal', { error: compared.corrupt });
      const { picture, difference } = compared;
      return { picture, difference: difference && store.blobs.put(difference, 'image/png') };
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
