/** Looks at a look's accessibility: at its end, and after every step if that is wanted. */
import type { Acceptance, Audit, Finding } from '../../core/accessibility/finding.ts';
import type { RuleId } from '../../core/accessibility/rules.ts';
import type { Accept } from '../../language/accept.ts';
import type { Looks } from '../../language/looks.ts';
import { describe } from '../act/names.ts';
import { type Recording, recordingNow } from '../record/recording.ts';
import { askFailure, type LookReport } from '../../core/wire/wire.ts';
import { ask } from '../host/host.ts';
import { auditNow } from './audit.ts';
import { walkFindings } from './walk.ts';

/** How much is known of an equal page, at whose end somebody has looked before. */
type Known = 'nothing' | 'page' | 'all';

let when: 'end' | 'steps' | null = null;
let accepted: Acceptance[] = [];
let found: Finding[] = [];
/** What went wrong while the page was looked at. */
let wrong: { error: unknown } | null = null;
/** How much was known of the page when the look had come to its end. */
let known: Known = 'nothing';
/** What had the focus last, with how it was described then: it may be gone by now. */
let focused: { element: Element; description: string } | null = null;

const acceptanceOf = ({ rule, element, why }: Accept): Acceptance => ({
  rule: rule as RuleId,
  element: element ?? null,
  why,
});

/** A look begins. */
export function beginAudit(wanted: typeof when, looks: Looks, look: string): void {
  when = wanted;
  found = [];
  wrong = null;
  focused = null;
  accepted = [...(looks.accept ?? []), ...(looks.states[look]?.accept ?? [])].map(acceptanceOf);
}

/** Called once: follows the focus, to notice when it is lost with the element that had it. */
export function watchFocus(): void {
  document.addEventListener('focusin', ({ target }) => {
    if (when && target instanceof Element) focused = { element: target, description: describe(target) };
  });
}

/** The focus went away with its element, and nothing else has got it. */
function lostFocus(step: number): Finding[] {
  const isLost = focused && !focused.element.isConnected && document.activeElement === document.body;
  if (!focused || !isLost) return [];
  const { description: element } = focused;
  focused = null;
  const what = 'It had the focus when it was taken away, and nothing has it now.';
  return [{ rule: 'focus-is-not-lost', certain: false, element, what, node: null, box: [0, 0, 0, 0], step }];
}

/** A step has ended. */
export function auditStep(recording: Recording, step: number): void {
  if (!when) return;
  try {
    found.push(...lostFocus(step));
    if (when === 'steps') found.push(...auditNow(recording, step, false).findings);
  } catch (error) {
    // The script has nothing to do with it.
    wrong ??= { error };
  }
}

async function whatIsKnown(number: number): Promise<Known> {
  try {
    await ask(number, { do: 'recall' });
    return 'nothing';
  } catch (error) {
    const said = error instanceof Error ? error.message : '';
    return said === askFailure.knownAll ? 'all' : said === askFailure.knownPage ? 'page' : 'nothing';
  }
}

/** The look has come to its end as it should; says what it has found. @throws whatever a step's audit has thrown */
export async function endAudit(): Promise<Audit | null> {
  const recording = recordingNow();
  if (!when || !recording) return null;
  if (wrong) throw wrong.error;
  known = await whatIsKnown(recording.number);
  if (known !== 'nothing') return { findings: found, atEnd: null, keyboard: null, lines: [], accepted };
  const { findings, lines } = auditNow(recording, recording.count - 1, true);
  return { findings: found, atEnd: findings, keyboard: null, lines, accepted };
}

/**
 * Goes through the page with Tab when everything else is over, since it is not as it was after that; adds to the audit
 * of a report what that has shown. The page may do what it likes from here on: it does not change the report.
 */
export async function walkAtEnd(report: LookReport): Promise<Audit | null> {
  const { audit } = report;
  const recording = recordingNow();
  if (!audit || !recording || known === 'all') return audit;
  try {
    await recording.stop();
    recording.isTried = true;
    await ask(recording.number, { do: 'conclude', report });
    const { seen, led } = await walkFindings(recording, recording.count - 1, known === 'nothing');
    return { ...audit, atEnd: audit.atEnd && [...audit.atEnd, ...seen], keyboard: led };
  } catch {
    return audit;
  }
}
