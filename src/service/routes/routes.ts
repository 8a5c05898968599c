/** All calls of the HTTP interface. */
import type { Routes } from './context.ts';
import { accessibilityRoutes } from './accessibility.ts';
import { boardRoutes } from './board.ts';
import { causeRoutes } from './causes.ts';
import { challengeRoutes } from './challenges.ts';
import { coverageRoutes } from './coverage.ts';
import { decisionRoutes } from './decisions.ts';
import { draftRoutes } from './drafts.ts';
import { eventRoutes } from './events.ts';
import { handbookRoutes } from './handbook.ts';
import { lookRoutes } from './looks.ts';
import { remarkRoutes } from './remarks.ts';
import { runRoutes } from './runs.ts';
import { sittingRoutes } from './sittings.ts';

export const addRoutes: Routes = (app, context) => {
  const all = [
    lookRoutes,
    boardRoutes,
    runRoutes,
    causeRoutes,
    challengeRoutes,
    coverageRoutes,
    accessibilityRoutes,
    handbookRoutes,
    sittingRoutes,
    decisionRoutes,
    remarkRoutes,
    draftRoutes,
    eventRoutes,
  ];
  for (const add of all) add(app, context);
};
