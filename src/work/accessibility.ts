/** Makes findings of what a page has told of its accessibility: contrast is measured, and it is said what stands. */
import {
  type Acceptance,
  type Audit,
  byWeight,
  type Finding,
  isAtLeast,
  type Known,
  severityOf,
  standingOf,
  type StoodFinding,
} from '../core/accessibility/finding.ts';
import type { Severity } from '../core/accessibility/rule.ts';
import { rules } from '../core/accessibility/rules.ts';
import { type Problem, problem } from '../core/problem/problem.ts';
import type { FinishedCapture } from '../core/run/finished.ts';
import { hashOf } from './assets.ts';
import { measureContrast } from './compare.ts';
import type { Execution } from './execution.ts';
import { asFound, type FindingMemory, remember } from './recall.ts';

export type AccessibilityContext = {
  accepted: readonly Acceptance[];
  known: readonly Known[];
  /** New findings of this severity and worse fail their looks; null when none does. */
  failsOn: Severity | null;
  /** What was found before, of equal pages and pictures. */
  memory: FindingMemory;
};

/** So many problems are named in a look's failure. */
const mostNamed = 5;

/** The findings of a look, by their weight. */
export async function findingsOf(
  context: AccessibilityContext,
  component: string,
  { report: { audit }, recalled }: Execution,
  captures: readonly FinishedCapture[],
  ratio: number,
): Promise<StoodFinding[]> {
  if (!audit) return [];
  const end = captures.find(({ summary }) => summary.name === 'end');
  const contrasts = end && audit.atEnd ? await contrastsOf(context, audit, end, ratio) : [];
  const page = audit.atEnd && [...audit.atEnd, ...contrasts];
  if (recalled) remember(context, recalled, { ...audit, page });
  const step = end?.summary.step ?? 0;
  const known = recalled ? [recalled.page.findings, recalled.keyboard.findings] : [];
  const before = known.flatMap((findings) => asFound(findings, recalled!, step));
  const accepted = [...audit.accepted, ...context.accepted];
  const seen = new Set<string>();
  return [...audit.findings, ...(page ?? []), ...(audit.keyboard ?? []), ...before]
    .sort(byWeight)
    .filter((one) => {
      const key = `${one.rule} ${one.node ?? ''} ${one.element} ${one.what}`;
      return !seen.has(key) && seen.add(key);
    })
    .map((one) => ({ ...one, standing: standingOf(one, component, accepted, context.known) }));
}

/** Measures the same text on the same picture once. */
async function contrastsOf(
  { memory }: AccessibilityContext,
  { lines }: Audit,
  { png, summary }: FinishedCapture,
  ratio: number,
): Promise<Finding[]> {
  if (lines.length === 0 || png.length === 0) return [];
  const key = hashOf(JSON.stringify([summary.hash, ratio, lines]));
  const before = memory.get(key);
  if (before) return before;
  const found = await measureContrast({ png, lines, ratio }).catch((): Finding[] => []);
  memory.put(key, found);
  return found;
}

/** Why a look fails for its accessibility; null when it does not. */
export function objectionTo(findings: readonly StoodFinding[], failsOn: Severity | null): Problem | null {
  const wrong = findings.filter(
    (one) => one.standing.is === 'new' && one.certain && failsOn !== null && isAtLeast(severityOf(one), failsOn),
  );
  if (wrong.length === 0) return null;
  const named = wrong.slice(0, mostNamed).map(({ rule, element, what }) => `${rules[rule].title}: ${element}: ${what}`);
  const more = wrong.length > mostNamed ? [`… and ${wrong.length - mostNamed} more`] : [];
  const first = wrong[0]!;
  const about = { n: wrong.length, rule: first.rule, fix: rules[first.rule].fix };
  return { ...problem('accessibility-new', about), found: [...named, ...more] };
}
