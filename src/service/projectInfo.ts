/** What whoever opens the console is told of the project. */
import { statSync } from 'node:fs';
import { basename } from 'node:path';
import { personOf } from '../baselines/git.ts';
import type { ProjectInfo } from '../core/api/api.ts';
import type { Settings } from '../core/settings/config.ts';
import type { Environment } from '../core/settings/environment.ts';
import type { Store } from '../store/index.ts';
import { readConfig } from '../work/index.ts';
import type { Conductor } from './conductor.ts';

/**
 * The configuration for those who only want to know of it, and do not wait for a build that goes on: as the last run
 * has `seen` it, unless its file has changed since.
 */
export function settingsShown(config: string): { read(): Promise<Settings>; seen(settings: Settings): void } {
  let known: { stamp: string; settings: Settings } | null = null;
  const stampNow = (): string => {
    const about = statSync(config, { bigint: true, throwIfNoEntry: false });
    return `${about?.mtimeNs} ${about?.size}`;
  };
  return {
    seen(settings) {
      known = { stamp: stampNow(), settings };
    },
    async read() {
      const stamp = stampNow();
      if (known?.stamp !== stamp) known = { stamp, settings: await readConfig(config) };
      return known.settings;
    },
  };
}

const environmentInfo = ({ name, viewport, ratio, scheme, motion, contrast }: Environment) => ({
  name,
  viewport,
  ratio,
  scheme,
  motion,
  contrast,
});

type Known = {
  root: string;
  version: string;
  store: Store;
  conductor: Conductor;
  settings(): Promise<Settings>;
  /** Where the API is, the stage, and live pages. */
  url(): string;
  stage(): string;
  live(): string;
};

/** Tells of the project as it is at that moment. */
export function projectInfoOf(known: Known): () => Promise<ProjectInfo> {
  const { root, version, store, conductor } = known;
  const person = personOf(root);
  return async () => {
    const { environments, baselines, reasons, markAttribute } = await known.settings();
    return {
      name: basename(root),
      root,
      version,
      url: known.url(),
      stage: known.stage(),
      live: known.live(),
      environments: environments.map(environmentInfo),
      engine: store.runs.list(1)[0]?.engine ?? null,
      person,
      reasons,
      baselines,
      markAttribute,
      undecided: store.board.undecided(),
      run: conductor.current,
      progress: conductor.progress,
      queued: conductor.queued,
    };
  };
}
