/** What runs are carried out with. */
import type { FolderCache } from '../baselines/folder.ts';
import type { Settings } from '../core/settings/config.ts';
import type { Store } from '../store/index.ts';
import type { Bundle, Bundler, Crew } from '../work/index.ts';
import type { Explainer } from './explainer.ts';
import type { Live } from './live.ts';
import type { Redrawer } from './redraw.ts';
import type { Sources } from './sources.ts';

export type RunTools = {
  root: string;
  config: string;
  store: Store;
  bundler: Bundler;
  explainer: Explainer;
  redrawer: Redrawer;
  sources: Sources;
  crew: Crew;
  /** Its windows can be seen on the screen. */
  headedCrew: Crew;
  live: Live;
  /** Baselines that were read before. */
  cache: FolderCache;
  /** Lets pages load a bundle that belongs to no run, until what comes back is called. */
  serveBeside(bundle: Bundle): () => void;
  /** Takes a bundle in; gives back an equal one that was there before. */
  onBundle(bundle: Bundle, settings: Settings): Bundle;
};
