/** Calls about components, and about look files for those that have none. */
import type { InferType } from 'yup';
import { componentsIn } from '../../work/index.ts';
import { draft } from '../draft.ts';
import type { Routes } from './context.ts';
import { schemas } from './schemas.ts';

export const draftRoutes: Routes = (app, { root, settings }) => {
  app.get(
    '/api/components',
    { schema: { summary: 'The components that there are, the most imported ones first' } },
    async () => componentsIn(root, await settings()),
  );

  app.post<{ Body: InferType<typeof schemas.draft> }>(
    '/api/drafts',
    { schema: { summary: 'Draft a look file for a component, and write it unless there is one', body: schemas.draft } },
    ({ body: { file, component, write } }) => draft(root, file, component, write),
  );
};
