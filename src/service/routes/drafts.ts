/** Calls that write look files: drafts for components that have none, and props that are kept from the stage. */
import type { InferType } from 'yup';
import { componentsIn } from '../../work/index.ts';
import { draft } from '../draft.ts';
import { keepsOf } from '../keeps.ts';
import type { Routes } from './context.ts';
import { schemas } from './schemas.ts';

export const draftRoutes: Routes = (app, { root, settings }) => {
  const keeps = keepsOf(root, settings);
  app.get(
    '/api/components',
    { schema: { summary: 'The components that there are, the most imported ones first' } },
    async () => componentsIn(root, await settings()),
  );

  app.post<{ Body: InferType<typeof schemas.keep> }>(
    '/api/keeps',
    { schema: { summary: 'Keep props of a stage in a look file, or show what that would change', body: schemas.keep } },
    ({ body }) => keeps.keep(body),
  );

  app.post<{ Body: InferType<typeof schemas.keepLines> }>(
    '/api/keeps/lines',
    {
      schema: {
        summary: 'Keep lines in the script of a look, or show what that would change',
        body: schemas.keepLines,
      },
    },
    ({ body }) => keeps.keep(body),
  );

  app.post<{ Body: InferType<typeof schemas.undoKeep> }>(
    '/api/keeps/undo',
    { schema: { summary: 'Take back what was kept last in a look file', body: schemas.undoKeep } },
    ({ body: { file, seen } }) => keeps.undo(file, seen),
  );

  app.post<{ Body: InferType<typeof schemas.draft> }>(
    '/api/drafts',
    { schema: { summary: 'Draft a look file for a component, and write it unless there is one', body: schemas.draft } },
    ({ body: { file, component, write } }) => draft(root, file, component, write),
  );
};
