/** Which results of earlier runs stand for looks of this one, since nothing that they rest on has changed. */
import { hash } from 'node:crypto';
import type { BaselineSet } from '../baselines/reconcile.ts';
import { type Declared, type LookInfo, type LookName, lookKey } from '../core/look/look.ts';
import { knownFile } from './accessibility.ts';
import { isChosen, isLeftOut } from '../core/look/pattern.ts';
import { type Basis, publicPathsOf, type Resting } from '../core/run/basis.ts';
import type { FinishedLook } from '../core/run/finished.ts';
import type { RunRequest } from '../core/run/run.ts';
import { type Environment, fingerprint } from '../core/settings/environment.ts';
import { stageHost } from '../core/wire/stage.ts';

const digest = (text: string): string => hash('sha256', text, 'base64url');

/** What has to be known of a project to tell whether results still hold. */
export type Ground = {
  /** Hash of all that a look file is built from; null when it has to be built to learn so. */
  hashOf(file: string): string | null;
  /** Hashes of files beside what is built, by public path or pattern. */
  hashesBeside(paths: readonly string[]): Record<string, string>;
  engine: { name: string; fonts: string };
  /** Origins that looks may reach for real. */
  network: readonly string[];
  baselines: BaselineSet;
};

/** The key of everything that the results of a look file rest on in an environment; null when that is not known. */
function keyOf({ hashOf, engine }: Ground, file: string, environment: Environment): string | null {
  const source = hashOf(file);
  if (source === null) return null;
  return digest(JSON.stringify([source, environment, fingerprint(environment, engine.name, engine.fonts)]));
}

const baselinesOf = ({ baselines }: Ground, { component, look }: LookName, environment: string): string =>
  baselines.identity(component, look, environment);

/** What a result rests on, or null for one that must not be taken over. */
export function basisOf(ground: Ground, look: FinishedLook, environment: Environment): Basis | null {
  const key = keyOf(ground, look.info.file, environment);
  const paths = publicPathsOf(look.asked, `http://${stageHost}`, ground.network);
  const { dependsOn = [] } = look.info;
  if (key === null || paths === null) return null;
  return {
    key,
    baselines: baselinesOf(ground, look.info, environment.name),
    files: ground.hashesBeside([...paths, ...dependsOn, ...look.read, knownFile]),
  };
}

/** True when a result says how its look would come out now. */
function holds(ground: Ground, result: Resting, environment: string): boolean {
  if (result.baselines !== baselinesOf(ground, result, environment)) return false;
  const now = ground.hashesBeside(Object.keys(result.files));
  return Object.entries(result.files).every(([path, hash]) => now[path] === hash);
}

/** What a run takes over, and what it has to run. */
export type Reuse = {
  /** Ids of the results that are taken over; none in a run of what is due, which only has looks of its own. */
  ids: number[];
  /** Ids of the results that say what the looks come to which need not be run. */
  standing: number[];
  /** True for a look that need not be run. */
  isReused(look: LookName, environment: string): boolean;
  /** True for a look that is run although an earlier result would stand for it, to see whether it does. */
  isAudited(look: LookName, environment: string): boolean;
  /** Look files of which something has to be run, as far as is known. */
  files: string[];
};

/** What either takes over. */
export const both = (one: Reuse, other: Reuse): Reuse => ({
  ids: [...one.ids, ...other.ids],
  standing: [...one.standing, ...other.standing],
  isReused: (look, environment) => one.isReused(look, environment) || other.isReused(look, environment),
  isAudited: (look, environment) => one.isAudited(look, environment) || other.isAudited(look, environment),
  files: other.files,
});

type Records = {
  sourceOf(file: string): string | null;
  declaredBy(source: string): LookInfo[] | null;
  declare(file: string, environment: string, declared: Declared): void;
  resting(key: string): readonly Resting[];
};

/** A result that may be taken over. */
type Candidate = { file: string; look: LookInfo; name: string; result: Resting };

/** How long looks may take that are run although nothing wants it: in milliseconds, and as a part of all looks. */
const auditTime = 500;
const auditPart = 0.1;

/**
 * What is run although it could be taken over: those first that were not photographed for the longest time. A share of
 * them in percent, or with null as many as take little time.
 */
export function auditOf<T extends { result: Resting }>(candidates: readonly T[], share: number | null): Set<T> {
  const oldest = candidates.toSorted(
    ({ result: a }, { result: b }) => Number(a.isPhotographed) - Number(b.isPhotographed) || a.id - b.id,
  );
  if (share !== null) return new Set(oldest.slice(0, Math.ceil((candidates.length * share) / 100)));
  const all = candidates.reduce((sum, { result }) => sum + result.took, 0);
  const budget = Math.max(auditTime, all * auditPart);
  const chosen = new Set<T>();
  let spent = 0;
  for (const one of oldest) {
    // The first one is, however long it takes: otherwise it never would be.
    if (chosen.size > 0 && spent + one.result.took > budget) continue;
    chosen.add(one);
    spent += one.result.took;
  }
  return chosen;
}

/** The name of a look in an environment. */
export const nameOf = ({ component, look }: LookName, environment: string): string =>
  `${environment}\n${lookKey(component, look)}`;

/** The looks of a file; null when it has to be opened to learn which they are. */
function looksOf(ground: Ground, records: Records, file: string, environments: readonly Environment[]) {
  const { sourceOf, declaredBy, declare } = records;
  const source = ground.hashOf(file);
  const looks = source === null ? null : declaredBy(source);
  if (looks === null || sourceOf(file) === source) return looks;
  // The file is again what it was before.
  for (const { name } of environments) declare(file, name, { source: source!, looks });
  return looks;
}

type Place = { file: string; looks: readonly LookInfo[]; environment: Environment };

/** The results that stand for looks of a file in an environment, whether they may be taken over or not. */
function standingOf(ground: Ground, results: readonly Resting[], { file, looks, environment }: Place): Candidate[] {
  return looks.flatMap((look): Candidate[] => {
    const own = results.filter((one) => one.look === look.look && one.component === look.component);
    const result = own.find((one) => holds(ground, one, environment.name));
    if (!result || own.some(({ isContradiction }) => isContradiction)) return [];
    return [{ file, look, name: nameOf(look, environment.name), result }];
  });
}

/** What came of results: the same for as long as the baselines and the files beside them are. */
type Stood = { place: Place; baselines: BaselineSet; beside: string; found: Candidate[] };
const stood = new WeakMap<readonly Resting[], Stood>();

/** Finds out about each file once: many results rest on the same ones. */
function asking(hashesBeside: Ground['hashesBeside']): Ground['hashesBeside'] {
  const known: Record<string, string> = {};
  return (names) => {
    Object.assign(known, hashesBeside(names.filter((name) => !Object.hasOwn(known, name))));
    return Object.fromEntries(names.map((name) => [name, known[name]!]));
  };
}

/** The results that may be taken over for looks of a file in an environment. */
function candidatesOf(ground: Ground, { resting }: Records, place: Place, due: boolean): Candidate[] {
  const key = keyOf(ground, place.file, place.environment);
  if (key === null) return [];
  const results = resting(key);
  const names = new Set(results.flatMap(({ files }) => Object.keys(files)));
  const beside = JSON.stringify(ground.hashesBeside([...names].sort()));
  const { baselines } = ground;
  const before = stood.get(results);
  const isSame = before?.baselines === baselines && before.place.looks === place.looks && before.beside === beside;
  const found = isSame ? before.found : standingOf(ground, results, place);
  stood.set(results, { place, baselines, beside, found });
  // What went wrong when it was run last is run again, and what its author wants to be.
  const mayStay = ({ look, result }: Candidate): boolean =>
    due || (result.verdict === 'passed' && !result.isUnsteady && look.reuse !== false);
  return found.filter(mayStay);
}

/**
 * Looks for results to take over. With `fresh` or `upgrade` there are none. `isAtHand` says of a look file that it need
 * not be built to be run: only those are audited unless a share is wanted.
 */
export function reuseOf(
  given: Ground,
  records: Records,
  files: readonly string[],
  environments: readonly Environment[],
  request: RunRequest,
  isAtHand: (file: string) => boolean,
): Reuse {
  const ground = { ...given, hashesBeside: asking(given.hashesBeside) };
  const found: Candidate[] = [];
  const choose = isChosen(request);
  const select = (look: LookInfo): boolean => !request.listing && choose(look);
  // One that its file should not have marked is looked at again.
  const mayRun = (look: LookInfo, environment: string): boolean =>
    !isLeftOut(look, environment) && !(request.refuseOnly && look.only);
  const looked = new Map<string, LookInfo[] | undefined>();
  for (const file of files) {
    const looks = looksOf(ground, records, file, environments);
    looked.set(file, looks?.filter(select));
    const { fresh, upgrade, headed, everyStep, steady, timing } = request;
    const isPlain = !fresh && !upgrade && !headed && !everyStep && !steady && !timing;
    if (looks && isPlain && request.repeat === 1)
      for (const environment of environments) {
        const candidates = candidatesOf(ground, records, { file, looks, environment }, request.due);
        const says = ({ look, result }: Candidate): boolean =>
          select(look) && mayRun(look, environment.name) && (result.isCovered || !request.coverage);
        found.push(...candidates.filter(says));
      }
  }
  const audited = request.due
    ? new Set<Candidate>()
    : auditOf(request.audit === null ? found.filter(({ file }) => isAtHand(file)) : found, request.audit);
  const taken = found.filter((one) => !audited.has(one));
  const reused = new Set(taken.map(({ name }) => name));
  const audits = new Set([...audited].map(({ name }) => name));
  const standing = taken.map(({ result }) => result.id);
  const isReused = (look: LookName, environment: string): boolean => reused.has(nameOf(look, environment));
  const needed = files.filter((file) => {
    const looks = looked.get(file);
    if (looks === undefined) return true;
    return environments.some(({ name }) => looks.some((look) => !isReused(look, name) && !isLeftOut(look, name)));
  });
  const isAudited = (look: LookName, environment: string): boolean => audits.has(nameOf(look, environment));
  return { ids: request.due ? [] : standing, standing, isReused, isAudited, files: needed };
}
