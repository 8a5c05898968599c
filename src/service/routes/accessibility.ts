/** Calls about the accessibility of looks. */
import type { InferType } from 'yup';
import type { Routes } from './context.ts';
import { schemas } from './schemas.ts';

export const accessibilityRoutes: Routes = (app, { accessibility }) => {
  app.get<{ Querystring: InferType<typeof schemas.ofRun> }>(
    '/api/accessibility',
    {
      schema: {
        summary: 'Findings of accessibility, the worst first: of what every look comes to now, or of one run',
        querystring: schemas.ofRun,
      },
    },
    ({ query }) => accessibility.list(query.run),
  );

  app.post(
    '/api/accessibility/known',
    { schema: { summary: 'Write down all findings that there are as known: from then on new ones fail their looks' } },
    () => accessibility.adopt(),
  );
};
