/** Looks at the page for whatever breaks a rule of accessibility. */
import type { Audit, Finding } from '../../core/accessibility/finding.ts';
import { readable } from '../../core/text/folded.ts';
import { boxOf } from '../act/element.ts';
import { describe } from '../act/names.ts';
import type { Recording } from '../record/recording.ts';
import { ariaChecks } from './aria.ts';
import type { Check } from './check.ts';
import { nameChecks } from './names.ts';
import { reachChecks } from './reach.ts';
import { sceneNow, type Seen } from './scene.ts';
import { structureChecks } from './structure.ts';
import { linesOf } from './lines.ts';
import { textChecks } from './text.ts';

/** At most this many findings of one instant: a page with more has one mistake many times. */
const mostFindings = 500;

const checks: Check[] = [...nameChecks, ...ariaChecks, ...structureChecks, ...reachChecks];

/** A text with what it stands in: as `describe` would say it, but for names that are made of more than their text. */
function inShort({ element, tag, role }: Seen): string {
  const text = readable(element.textContent ?? '');
  const shown = text.length > 60 ? `${text.slice(0, 59)}…` : text;
  return `${role && !/^(generic|paragraph|cell|row)$/.test(role) ? role : `<${tag}>`} “${shown}”`;
}

/** Findings of the page as it is now. With `isWhole` also what needs its layout changed, or its picture. */
export function auditNow(recording: Recording, step: number, isWhole: boolean): Pick<Audit, 'findings' | 'lines'> {
  const scene = sceneNow();
  const findings: Finding[] = [];
  const told = new Set<string>();
  const about = (element: Element) => ({ element: describe(element), node: recording.idOf(element), step });
  // What makes text larger comes last: elements may take their time to go back.
  const lines = isWhole
    ? linesOf(scene, (seen) => ({ element: inShort(seen), node: recording.idOf(seen.element), step }))
    : [];
  for (const check of isWhole ? [...checks, ...textChecks] : checks)
    check(scene, (rule, element, what, isCertain = true) => {
      const of = about(element);
      const key = `${rule} ${of.node ?? of.element} ${what}`;
      if (told.has(key) || findings.length >= mostFindings) return;
      told.add(key);
      const [left, top, width, height] = boxOf(element);
      findings.push({ rule, certain: isCertain, ...of, what, box: [left + scrollX, top + scrollY, width, height] });
    });
  return { findings, lines };
}
