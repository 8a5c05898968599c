/** Runs the looks of a run whose results could not be taken over, and keeps what they come to. */
import { lookKey } from '../core/look/look.ts';
import { isChosen } from '../core/look/pattern.ts';
import type { FinishedCapture, FinishedLook } from '../core/run/finished.ts';
import type { RunRequest } from '../core/run/run.ts';
import type { Settings } from '../core/settings/config.ts';
import { conditionsOf, usualConditions } from '../core/steady/conditions.ts';
import { stageHost } from '../core/wire/stage.ts';
import { type Bundle, makeBusy, placeOf, runLooks, type RunSetup } from '../work/index.ts';
import { type Expected, followLooks, type ProgressTeller } from './progress.ts';
import { basisOf, type Ground, type Reuse } from './reuse.ts';
import type { RunTools } from './runTools.ts';
import { Steadiness } from './steadiness.ts';

/** Runs looks on a machine that is as busy as the conditions say. */
async function underConditions(setup: RunSetup): Promise<void> {
  const rest = setup.conditions.isBusy ? makeBusy() : () => {};
  try {
    await runLooks(setup);
  } finally {
    rest();
  }
}

/** Keeps results with what they rest on, and notices captures that differ from the first repetition's. */
function keeperOf({ store, live }: RunTools, id: number, basis: (look: FinishedLook) => ReturnType<typeof basisOf>) {
  const first = new Map<string, string>();
  return (look: FinishedLook): void => {
    const unstable = new Set<string>();
    for (const { summary, markup } of look.captures) {
      const key = `${lookKey(look.info.component, look.info.look)}\n${look.environment}\n${summary.name}`;
      const now = `${summary.hash}\n${markup.join('\n')}`;
      const before = first.get(key);
      if (before === undefined) first.set(key, now);
      else if (before !== now) unstable.add(summary.name);
    }
    const result = store.results.add(id, look, unstable, basis(look));
    live.tell({ kind: 'look-finished', run: id, result });
  };
}

/** Says of a look that its result could have been taken over, and would have been wrong. Returns how many that are. */
function noteContradiction(look: FinishedLook): 0 | 1 {
  if (look.verdict === 'passed') return 0;
  look.isContradiction = true;
  look.notes.push(
    `It passed before, and nothing it depends on has changed since, but now it is ${look.verdict}. ` +
      'From now on it runs every time. Look for files it reads without importing them (name them in dependsOn), ' +
      'or for something random.',
  );
  return 1;
}

/** What a run is about, as far as it has to be run. */
export type Selected = {
  id: number;
  request: RunRequest;
  settings: Settings;
  ground: Ground;
  reuse: Reuse;
  teller: ProgressTeller;
  /** What findings of accessibility are accepted or known, and what fails a look. */
  accessibility: RunSetup['accessibility'];
};

/** The looks that a run is thought to have: those that its files declared when they were last opened. */
function expectedOf({ store }: RunTools, { request, settings, reuse }: Selected, { entries }: Bundle): Expected {
  const select = isChosen(request);
  const names = settings.environments
    .map(({ name }) => name)
    .filter((name) => request.environments.length === 0 || request.environments.includes(name));
  const looks = entries.flatMap(({ file }) => store.catalogue.declared(file)?.looks.filter(select) ?? []);
  const wanted = names.flatMap((environment) =>
    looks
      .filter((look) => !reuse.isReused(look, environment))
      .map(({ file, component, look }) => ({ file, component, look, environment })),
  );
  const unopened = entries
    .filter(({ file }) => store.catalogue.declared(file) === null)
    .flatMap(({ file }) => names.map((environment) => placeOf(file, environment)));
  return { looks: wanted, unopened, times: request.repeat };
}

/** True for a capture that was approved with another browser or other fonts. */
const isElsewhere = ({ summary: { state } }: FinishedCapture): boolean =>
  state.kind === 'changed' ? state.otherFingerprint : state.kind === 'same' && state.isElsewhere === true;

/**
 * Runs what could not be taken over. Resolves with how many looks the run has in all, how many belied others, and how
 * many captures were approved elsewhere.
 */
export async function runRest(
  tools: RunTools,
  selected: Selected,
  bundle: Bundle,
  signal: AbortSignal,
): Promise<{ planned: number; contradicted: number; elsewhere: number }> {
  const { id, request, settings, ground, reuse, teller } = selected;
  const { store, live } = tools;
  // One window after the other: nobody can watch several.
  const crew = request.headed ? tools.headedCrew : tools.crew;
  const rounds = request.steady ? request.repeat : 1;
  let planned = reuse.ids.length;
  let contradicted = 0;
  let elsewhere = 0;
  const isRepeated = request.steady || request.repeat > 1;
  const environmentOf = (name: string) => settings.environments.find((one) => one.name === name)!;
  const keep = keeperOf(tools, id, (look) =>
    isRepeated ? null : basisOf(ground, look, environmentOf(look.environment)),
  );
  const seen = new Steadiness();
  const progress = followLooks(teller, store, expectedOf(tools, selected, bundle));
  const rest = (): number => planned - reuse.ids.length;
  for (let round = 1; round <= rounds && !signal.aborted; round++) {
    const lanes = request.headed ? 1 : settings.lanes;
    const conditions = request.steady ? conditionsOf(round, lanes) : usualConditions(lanes);
    await underConditions({
      bundle,
      settings,
      request,
      crew,
      origin: `http://${stageHost}`,
      baselines: ground.baselines,
      accessibility: selected.accessibility,
      redraw: (environment, key) => tools.redrawer.draw(settings.baselines, environment, key),
      declared: store.catalogue.declared,
      sourceOf: ground.hashOf,
      isReused: reuse.isReused,
      isPhotographed: (look, environment) => isRepeated || reuse.isAudited(look, environment),
      dependsOnOthers: store.results.dependent(),
      signal,
      conditions,
      news: {
        opened(file, environment, declared) {
          progress.opened(file, environment);
          store.catalogue.declare(file, environment, declared);
        },
        unusable(file, environment, whole) {
          progress.opened(file, environment);
          store.catalogue.fail(file, environment, whole);
        },
        planned(looks) {
          planned = looks * rounds + reuse.ids.length;
          store.runs.update(id, { planned });
          teller.tell();
        },
        started({ component, look }, environment) {
          progress.started(rest());
          live.tell({ kind: 'look-started', run: id, component, look, environment });
        },
        finished(look) {
          progress.finished(look.info, look.environment, rest());
          if (request.steady) seen.compare(look, conditions);
          if (reuse.isAudited(look.info, look.environment)) contradicted += noteContradiction(look);
          elsewhere += look.captures.filter(isElsewhere).length;
          keep(look);
        },
      },
    });
  }
  return { planned, contradicted, elsewhere };
}
