/** Looks at a look's accessibility: at its end, and after every step if that is wanted. */
import type { Acceptance, Audit, Finding } from '../../core/accessibility/finding.ts';
import type { RuleId } from '../../core/accessibility/rules.ts';
import type { Accept } from '../../language/accept.ts';
import type { Looks } from '../../language/looks.ts';
import { describe } from '../act/names.ts';
import { type Recording, recordingNow } from '../record/recording.ts';
import { askFailure, type LookReport } from '../../core/wire/wire.ts';
import { ask } from '../host/host.ts';
import { append } from '../host/natives.ts';
import { rootsNow } from '../record/roots.ts';
import { auditNow } from './audit.ts';
import { countStops, walkFindings } from './walk.ts';

/** How much is known of an equal page, at whose end somebody has looked before. */
type Known = 'nothing' | 'markup' | 'focus' | 'all';

let when: 'end' | 'steps' | null = null;
let accepted: Acceptance[] = [];
let found: Finding[] = [];
/** What went wrong while the page was looked at. */
let wrong: { error: unknown } | null = null;
/** How much was known of the page when the look had come to its end. */
let known: Known = 'nothing';
/** What had the focus last, with how it was described then: it may be gone by now. */
let focused: { element: Element; description: string; hadNone: boolean } | null = null;
/** The dialog that the focus is in; one that nothing had the focus before gives it back to nothing. */
let entered: { dialog: Element; isFromNowhere: boolean } | null = null;

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
  entered = null;
  accepted = [...(looks.accept ?? []), ...(looks.states[look]?.accept ?? [])].map(acceptanceOf);
}

/** Called once: follows the focus, to notice when it is lost with the element that had it. */
export function watchFocus(): void {
  document.addEventListener('focusin', ({ target, relatedTarget }) => {
    if (!when || !(target instanceof Element)) return;
    const dialog = target.closest('dialog, [role=dialog], [role=alertdialog]');
    if (dialog !== entered?.dialog) entered = dialog && { dialog, isFromNowhere: relatedTarget === null };
    focused = { element: target, description: describe(target), hadNone: entered?.isFromNowhere ?? false };
  });
}

/** The focus went away with its element, and nothing else has got it. */
function lostFocus(step: number): Finding[] {
  const isLost = focused && !focused.element.isConnected && document.activeElement === document.body;
  if (!focused || !isLost) return [];
  const { description: element, hadNone } = focused;
  focused = null;
  if (hadNone) return [];
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

/** Which elements have handlers in their markup, which moments leave out and rules read. */
function handlers(): string {
  const places: number[] = [];
  let place = 0;
  for (const root of rootsNow())
    for (const element of root.querySelectorAll('*')) {
      if (element.hasAttribute('onclick')) append(places, place);
      place++;
    }
  return places.join(' ');
}

async function whatIsKnown(number: number): Promise<Known> {
  try {
    await ask(number, { do: 'recall', beside: handlers() });
    return 'nothing';
  } catch (error) {
    const said = error instanceof Error ? error.message : '';
    if (said === askFailure.knownAll) return 'all';
    return said === askFailure.knownFocus ? 'focus' : said === askFailure.knownMarkup ? 'markup' : 'nothing';
  }
}

/** The look has come to its end as it should; says what it has found. @throws whatever a step's audit has thrown */
export async function endAudit(): Promise<Audit | null> {
  const recording = recordingNow();
  if (!when || !recording) return null;
  if (wrong) throw wrong.error;
  known = await whatIsKnown(recording.number);
  const bare = { findings: found, atEnd: null, keyboard: null, stylesFocus: null, lines: [], accepted };
  if (known !== 'nothing') return bare;
  const { findings, lines } = auditNow(recording, recording.count - 1, true);
  return { ...bare, atEnd: findings, lines };
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
    if (countStops() === 0) return { ...audit, keyboard: [], stylesFocus: true };
    await recording.stop();
    recording.isTried = true;
    await ask(recording.number, { do: 'conclude', report });
    const { findings, stylesFocus } = await walkFindings(recording, recording.count - 1, known !== 'focus');
    return { ...audit, keyboard: findings, stylesFocus };
  } catch {
    return audit;
  }
}
