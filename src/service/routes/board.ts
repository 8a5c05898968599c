/** Calls about the board: all looks in short, and their pictures made small. */
import type { InferType } from 'yup';
import { fail } from '../../core/problem/problem.ts';
import { packBoard } from '../../core/run/board.ts';
import { thumbnailer } from '../thumbnails.ts';
import type { Routes } from './context.ts';
import { schemas } from './schemas.ts';

export const boardRoutes: Routes = (app, { store }) => {
  const thumbnail = thumbnailer(store, (error) => app.log.error(error));

  app.get(
    '/api/board',
    { schema: { summary: 'What every look stands at in every environment, in columns: see docs/formats/board.md' } },
    () => packBoard(store.board.looks()),
  );

  app.get<{ Params: InferType<typeof schemas.beginning> }>(
    '/api/thumbnails/:hash',
    {
      schema: {
        summary: 'A screenshot made small (WebP), by its hash or at least the first 16 digits of it',
        params: schemas.beginning,
      },
    },
    async ({ params }, reply) => {
      const bytes = (await thumbnail(params.hash)) ?? fail('not-found', { what: 'picture with this hash' });
      return reply.type('image/webp').header('cache-control', 'private, max-age=31536000, immutable').send(bytes);
    },
  );
};
