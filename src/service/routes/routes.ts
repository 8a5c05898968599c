/** All calls of the HTTP interface. */
import type { Routes } from './context.ts';
import { boardRoutes } from './board.ts';
import { decisionRoutes } from './decisions.ts';
import { draftRoutes } from './drafts.ts';
import { eventRoutes } from './events.ts';
import { lookRoutes } from './looks.ts';
import { runRoutes } from './runs.ts';

export const addRoutes: Routes = (app, context) => {
  for (const add of [lookRoutes, boardRoutes, runRoutes, decisionRoutes, draftRoutes, eventRoutes]) add(app, context);
};
