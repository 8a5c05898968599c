/** The plan of a run: which jobs there are, in which order, and how many looks they are thought to have. */
import type { Bundle } from '../bundle/index.ts';
import type { Declared, LookInfo } from '../core/look/look.ts';
import { isChosen, isLeftOut } from '../core/look/pattern.ts';
import type { RunRequest } from '../core/run/run.ts';
import { shuffled } from '../core/steady/chance.ts';
import type { Conditions } from '../core/steady/conditions.ts';
import type { Settings } from '../core/settings/config.ts';
import type { Environment } from '../core/settings/environment.ts';
import type { Job } from './job.ts';

export type Plan = {
  environments: Environment[];
  /** In the order in which they are begun. */
  jobs: Job[];
  /** How many looks each job of a repetition is thought to have, by what its file declared when it was last opened. */
  expected: Map<string, number>;
  /** How often each of them is run. */
  times: number;
};

/** The name of a look file in an environment. */
export const placeOf = (file: string, environment: string): string => `${environment}\n${file}`;

/** How long each look file took when it was run last, in milliseconds, by project and file. */
const lastTook = new Map<string, number>();

/** Remembers how long the files of a bundle took: the next plan begins with the longest. */
export function rememberTimes(root: string, took: ReadonlyMap<string, number>): void {
  for (const [file, time] of took) lastTook.set(`${root}\n${file}`, time);
}

/**
 * Look files in the order in which lanes are busy for equally long: what took longest comes first, what is not known
 * before that.
 */
const longestFirst = ({ root, entries }: Bundle): Bundle['entries'] => {
  const weight = ({ file }: { file: string }): number => lastTook.get(`${root}\n${file}`) ?? Number.POSITIVE_INFINITY;
  return [...entries].sort((a, b) =>
    weight(a) === weight(b) ? b.source.length - a.source.length : weight(b) - weight(a),
  );
};

/** Plans a run of a bundle. `declared` says what a file declared when it could last be opened. */
export function planRun(
  bundle: Bundle,
  settings: Pick<Settings, 'environments'>,
  request: RunRequest,
  declared: (file: string) => Declared | null,
  isReused: (look: LookInfo, environment: string) => boolean,
  { round, seed }: Pick<Conditions, 'round' | 'seed'>,
): Plan {
  const { environments: wanted, repeat, steady } = request;
  const environments = settings.environments.filter(({ name }) => wanted.length === 0 || wanted.includes(name));
  const jobs: Job[] = [];
  const entries = seed === null ? longestFirst(bundle) : shuffled(bundle.entries, seed);
  // A round of several is one repetition.
  const repetitions = steady ? [round] : Array.from({ length: repeat }, (_, i) => i + 1);
  for (const repetition of repetitions)
    for (const environment of environments)
      for (const { file } of entries) jobs.push({ id: jobs.length, file, environment, repetition });
  const select = isChosen(request);
  const expected = new Map<string, number>();
  for (const { file } of bundle.entries) {
    const looks = request.listing ? [] : (declared(file)?.looks.filter(select) ?? []);
    for (const { name } of environments)
      expected.set(placeOf(file, name), looks.filter((look) => !isReused(look, name) && !isLeftOut(look, name)).length);
  }
  return { environments, jobs, expected, times: repetitions.length };
}

/** How many results the jobs of a plan will have, as far as is known. */
export const planned = ({ expected, times }: Plan): number =>
  [...expected.values()].reduce((sum, n) => sum + n, 0) * times;
