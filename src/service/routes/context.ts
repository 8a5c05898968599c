/** What the calls of the HTTP interface work with. */
import type { FastifyInstance } from 'fastify';
import type { ProjectInfo } from '../../core/api/api.ts';
import type { Settings } from '../../core/settings/config.ts';
import type { Store } from '../../store/index.ts';
import type { AccessibilityDesk } from '../accessibility.ts';
import type { Challenger } from '../challenge.ts';
import type { Conductor } from '../conductor.ts';
import type { CoverageDesk } from '../coverage.ts';
import type { Culprits } from '../culprits.ts';
import type { Explainer } from '../explainer.ts';
import type { HandbookDesk } from '../handbook.ts';
import type { Live } from '../live.ts';
import type { Sittings } from '../sittings.ts';
import type { Watcher } from '../watcher.ts';

export type ApiContext = {
  store: Store;
  conductor: Conductor;
  live: Live;
  sittings: Sittings;
  explainer: Explainer;
  culprits: Culprits;
  challenger: Challenger;
  coverage: CoverageDesk;
  accessibility: AccessibilityDesk;
  handbook: HandbookDesk;
  watcher: Watcher;
  root: string;
  /** Closes windows on the screen that nobody uses any more. */
  closeWindows(): Promise<void>;
  settings(): Promise<Settings>;
  project(): Promise<ProjectInfo>;
};

/** Adds the calls of one file to the server. */
export type Routes = (app: FastifyInstance, context: ApiContext) => void;
