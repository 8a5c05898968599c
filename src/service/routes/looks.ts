/** Calls about the project and its looks. */
import type { InferType } from 'yup';
import { renameLook } from '../../baselines/rename.ts';
import type { HistoryEntry } from '../../core/api/api.ts';
import { fail } from '../../core/problem/problem.ts';
import { isUndecided } from '../../core/run/run.ts';
import type { Routes } from './context.ts';
import { schemas } from './schemas.ts';

/** How far back the history of a look is told. */
const historyLength = 50;

export const lookRoutes: Routes = (app, { store, project, root, settings }) => {
  app.get('/api/project', { schema: { summary: 'The project, its environments and the run that goes on' } }, () =>
    project(),
  );

  const declared = {
    schema: { summary: 'The looks that there are, as their files declared them when they were opened' },
  };
  app.get('/api/catalogue', declared, () => store.catalogue.looks());

  const all = { schema: { summary: 'The newest result of every look that there is, in every environment' } };
  app.get('/api/looks', all, () => store.results.latest());

  const waiting = { schema: { summary: 'The newest results with captures that nobody has decided about' } };
  app.get('/api/changes', waiting, () => store.results.latest().filter(({ captures }) => captures.some(isUndecided)));

  app.get<{ Querystring: InferType<typeof schemas.look> }>(
    '/api/looks/history',
    { schema: { summary: 'Results and decisions of one look, newest first', querystring: schemas.look } },
    ({ query: { component, look, environment } }) => {
      const standing = new Set(store.decisions.standing(component, look, environment).map(({ id }) => id));
      const decisions = store.decisions
        .history({ component, look, environment })
        .map(({ id, capture, run, hash, kind, who, at, why, fixer, commit, branch, batch, undoes }): HistoryEntry => {
          const about = { id, capture, run, hash, kind, who, at, why, fixer, commit, branch, batch, undoes };
          return { ...about, isBaseline: standing.has(id) };
        });
      return { results: store.results.history(component, look, environment, historyLength), decisions };
    },
  );

  app.post<{ Body: InferType<typeof schemas.rename> }>(
    '/api/looks/rename',
    {
      schema: {
        summary: 'Give a look another name: its baselines and its history go with it; the look file is not touched',
        body: schemas.rename,
      },
    },
    async ({ body: { component, look, to } }) => {
      const { baselines } = await settings();
      const known = store.catalogue.looks().filter((one) => one.component === component);
      if (!known.some((one) => one.look === look)) fail('not-found', { what: `look “${look}” of ${component}` });
      const isTaken = (name: string): boolean => known.some((one) => one.look === name);
      if (to === look) return { moved: [] };
      if (isTaken(to)) fail('look-there', { component, look: to });
      return { moved: renameLook(store, root, baselines, { component, look }, to) };
    },
  );
};
