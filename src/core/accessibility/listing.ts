/** Findings of a whole project, the same finding of a component told once. */
import type { Box } from '../timeline/timeline.ts';
import type { FindingCause } from './causes.ts';
import { byWeight, findingKey, type StoodFinding } from './finding.ts';

/** Where a finding is seen. */
export type Sighting = {
  result: number;
  look: string;
  environment: string;
  step: number;
  node: number | null;
  box: Box | null;
  /** Hash of the picture at the look's end; null when there is none. */
  picture: string | null;
};

/** A finding with every look that shows it. */
export type ListedFinding = Pick<StoodFinding, 'rule' | 'certain' | 'element' | 'what' | 'standing'> & {
  component: string;
  file: string;
  sightings: Sighting[];
  /** Why it has come since its looks were as approved, as pictures say; none for one that was there by then. */
  causes: FindingCause[];
};

export type FindingList = {
  findings: ListedFinding[];
  /** The file in which findings are kept that are known, relative to the project; null while there is none. */
  known: string | null;
  /** The severity from which new findings fail their looks; null when none does. */
  failsOn: string | null;
};

export type LookFindings = {
  result: number;
  component: string;
  look: string;
  environment: string;
  file: string;
  picture: string | null;
  findings: StoodFinding[];
};

/** Puts the findings of looks together, the worst first. */
export function listFindings(looks: readonly LookFindings[]): ListedFinding[] {
  const listed = new Map<string, ListedFinding & Pick<StoodFinding, 'step' | 'node' | 'box'>>();
  for (const { result, component, look, environment, file, picture, findings } of looks)
    for (const { step, node, box, ...finding } of findings) {
      const key = `${component} ${findingKey(finding)}`;
      const sighting = { result, look, environment, step, node, box, picture };
      const known = listed.get(key);
      if (!known) listed.set(key, { ...finding, component, file, sightings: [sighting], causes: [], step, node, box });
      else {
        known.sightings.push(sighting);
        // A machine that is certain once is certain.
        known.certain ||= finding.certain;
      }
    }
  return [...listed.values()]
    .sort((a, b) => byWeight(a, b) || (a.component < b.component ? -1 : a.component > b.component ? 1 : 0))
    .map(({ step: _, node: __, box: ___, ...finding }) => finding);
}
