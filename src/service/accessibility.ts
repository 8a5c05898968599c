/** Findings of the project's accessibility, and those of them that are known. */
import { existsSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import writeFileAtomic from 'write-file-atomic';
import { causesAt } from '../core/accessibility/causes.ts';
import { findingKey, type Known, standingOf } from '../core/accessibility/finding.ts';
import { type FindingList, type ListedFinding, listFindings, type Sighting } from '../core/accessibility/listing.ts';
import type { Severity } from '../core/accessibility/rule.ts';
import { isRule } from '../core/accessibility/rules.ts';
import { onDisk } from '../core/problem/disk.ts';
import { fail, messageOf } from '../core/problem/problem.ts';
import type { Settings } from '../core/settings/config.ts';
import type { ResultSummary } from '../core/run/run.ts';
import { hasFailed } from '../core/run/verdict.ts';
import type { Store } from '../store/index.ts';
import type { Explainer } from './explainer.ts';

/** Findings that were there when the project began to look; committed with the code. docs/formats/known.md */
export const knownFile = 'sguardo.known.json';

const format = 'sguardo-known/1';

const isKnown = (value: unknown): value is Known => {
  const { component, rule, element, since } = (value ?? {}) as Record<string, unknown>;
  return (
    [component, element, since].every((one) => typeof one === 'string') && typeof rule === 'string' && isRule(rule)
  );
};

/** What is known; null where the project has no such file. @throws ProblemError `known-wrong` */
export function readKnown(root: string): Known[] | null {
  const path = join(root, knownFile);
  if (!existsSync(path)) return null;
  try {
    const { format: said, findings } = JSON.parse(readFileSync(path, 'utf8')) as {
      format: string;
      findings: unknown[];
    };
    if (said !== format || !Array.isArray(findings)) throw new Error(`its format is not ${format}`);
    // A rule that there is no more needs nobody who knows of it.
    return findings.filter(isKnown);
  } catch (error) {
    return fail('known-wrong', { file: knownFile, error: messageOf(error) });
  }
}

/** From which severity on new findings fail their looks. */
export function failsFrom({ accessibility }: Settings, known: readonly Known[] | null): Severity | null {
  const wanted = accessibility.failsOn ?? (known === null ? 'never' : 'severe');
  return wanted === 'never' ? null : wanted;
}

export type AccessibilityDesk = {
  /** What every look comes to now, or of one run. */
  list(run: number | null): Promise<FindingList>;
  /** Writes down all that is new as known, as of today; what is not there any more is taken out. */
  adopt(): Promise<FindingList & { adopted: number; gone: number }>;
};

const keyOf = ({ component, rule, element }: Pick<Known, 'component' | 'rule' | 'element'>): string =>
  JSON.stringify([component, rule, element]);

/** What the desk works with. */
type Tools = { root: string; store: Store; explainer: Explainer; settings(): Promise<Settings> };

/** True for a result whose end differs from what is approved. */
const hasChanged = ({ captures }: ResultSummary): boolean =>
  captures.some(
    ({ name, state, decision }) =>
      name === 'end' && state.kind === 'changed' && !(decision?.stands && decision.kind !== 'reject'),
  );

/** A result as it would be if its findings did not fail it: its pictures are explained like those of any other. */
const withoutObjection = (result: ResultSummary): ResultSummary =>
  result.problem?.code === 'accessibility-new' ? { ...result, verdict: 'changed', problem: null } : result;

/** So far back a result is looked for that ended as approved. */
const furthest = 50;

/** What was found of a look, before this result, when it ended last as is approved; nothing where none is kept. */
function foundBefore({ results, accessibility }: Store, { id, component, look, environment }: ResultSummary) {
  const before = results
    .history(component, look, environment, furthest)
    .find((one) => one.id < id && !hasFailed(withoutObjection(one)) && !hasChanged(one));
  return new Set(before ? accessibility.of(before.id).map(findingKey) : []);
}

/** Findings that have come with a change of the picture are told with the causes of that. */
async function withCauses(
  { store, explainer }: Tools,
  findings: readonly ListedFinding[],
  ratioOf: (environment: string) => number,
): Promise<ListedFinding[]> {
  const changed = new Map<number, ResultSummary>();
  const before = new Map<number, Set<string>>();
  /** True for a sighting in a picture that has changed, of something that was not there before. */
  const hasCome = ({ result: id }: Sighting, key: string): boolean => {
    const result = changed.get(id) ?? store.results.get(id);
    if (!result || !hasChanged(result)) return false;
    changed.set(id, result);
    const known = before.get(id) ?? foundBefore(store, result);
    before.set(id, known);
    return !known.has(key);
  };
  const come = findings.map((finding) =>
    finding.standing.is === 'new' ? finding.sightings.filter((one) => hasCome(one, findingKey(finding))) : [],
  );
  if (come.every(({ length }) => length === 0)) return [...findings];
  const list = await explainer.list([...changed.values()].map(withoutObjection));
  return findings.map((finding, i) => ({ ...finding, causes: causesAt(come[i]!, list, ratioOf) }));
}

export function accessibilityDeskOf(tools: Tools): AccessibilityDesk {
  const { root, store, settings } = tools;
  const list = async (run: number | null): Promise<FindingList> => {
    const now = await settings();
    const known = readKnown(root);
    const looks = run === null ? store.accessibility.latest() : store.accessibility.ofRun(run);
    // What the project says may have changed since they were found.
    const stood = looks.map((look) => ({
      ...look,
      findings: look.findings.map((finding) =>
        finding.standing.is === 'accepted'
          ? finding
          : { ...finding, standing: standingOf(finding, look.component, now.accessibility.accepted, known ?? []) },
      ),
    }));
    const ratioOf = (name: string): number => now.environments.find((one) => one.name === name)?.ratio ?? 1;
    const findings = await withCauses(tools, listFindings(stood), ratioOf);
    return { findings, known: known && knownFile, failsOn: failsFrom(now, known) };
  };
  return {
    list,
    async adopt() {
      const { findings } = await list(null);
      const before = readKnown(root) ?? [];
      const since = new Date().toISOString().slice(0, 10);
      const dates = new Map(before.map((one) => [keyOf(one), one.since]));
      const kept = findings.filter(({ standing }) => standing.is !== 'accepted');
      const entries = kept
        .map(({ component, rule, element }: ListedFinding): Known => {
          const key = keyOf({ component, rule, element });
          return { component, rule, element, since: dates.get(key) ?? since };
        })
        .sort((a, b) => (keyOf(a) < keyOf(b) ? -1 : 1));
      const now = new Set(entries.map(keyOf));
      const path = join(root, knownFile);
      onDisk(path, () => writeFileAtomic.sync(path, `${JSON.stringify({ format, findings: entries }, null, 2)}\n`));
      return {
        ...(await list(null)),
        adopted: entries.filter((one) => !dates.has(keyOf(one))).length,
        gone: before.filter((one) => !now.has(keyOf(one))).length,
      };
    },
  };
}
