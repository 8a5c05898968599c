/** Goes through the page with Tab, as somebody without a mouse does: what is reached, and where one is stuck. */
import type { Audit, Finding } from '../../core/accessibility/finding.ts';
import type { RuleId } from '../../core/accessibility/rules.ts';
import type { Box } from '../../core/timeline/timeline.ts';
import { boxOf } from '../act/element.ts';
import { send } from '../act/input.ts';
import { within } from '../act/flat.ts';
import { describe } from '../act/names.ts';
import { isClipped } from '../act/twin.ts';
import { focused, takesText } from '../doing/named.ts';
import { append } from '../host/natives.ts';
import type { Recording } from '../record/recording.ts';
import { isGuard, layerNow, layers } from './aria.ts';
import { followRings, type Rings } from './ring.ts';
import { isInTabOrder, sceneNow } from './scene.ts';
import { clipOf, endTransitions, hasOwnStops, unseenOf } from './unseen.ts';

/** So many elements are gone to at most. */
const most = 40;

const key = (shift: boolean): { kind: 'key'; key: string; modifiers: number } => ({
  kind: 'key',
  key: 'Tab',
  modifiers: shift ? 8 : 0,
});

/** Where the focus goes when it is nowhere: before everything else. */
function toTheTop(): void {
  const start = document.createElement('span');
  start.tabIndex = -1;
  document.body.prepend(start);
  start.focus();
  start.remove();
}

const isNowhere = (element: Element | null): boolean =>
  element === null || element === document.body || element === document.documentElement;

const focusedElement = (): Element | null => {
  const now = focused();
  return isNowhere(now) ? null : now;
};

/** True for an element that stands in the same line before the one before it, by the order that styles give them. */
function jumpsBack(element: Element, last: Element, now: DOMRect, before: DOMRect): boolean {
  let around = element.parentElement;
  while (around && !around.contains(last)) around = around.parentElement;
  if (!around) return false;
  const { display, flexDirection, direction } = getComputedStyle(around);
  if (!/flex|grid/.test(display)) return false;
  const isOrdered = [...around.children].some(
    (part) => (part.contains(element) || part.contains(last)) && getComputedStyle(part).order !== '0',
  );
  const isInLine = now.bottom > before.top && now.top < before.bottom;
  const isBefore = direction === 'rtl' ? now.left >= before.right : now.right <= before.left;
  return (isOrdered || flexDirection.endsWith('reverse')) && isInLine && isBefore;
}

/** Where an element stands that is shown before the one that Tab came from; null when it is shown after it. */
function jumpOf(element: Element, last: Element): Jump | null {
  // Where something is clipped to a pixel, nobody sees it.
  if (isClipped(element) || isClipped(last)) return null;
  const [before, now] = [last.getBoundingClientRect(), element.getBoundingClientRect()];
  const isBeside = now.right > before.left && now.left < before.right;
  if (isBeside && now.bottom <= before.top && getComputedStyle(element).position !== 'fixed') return 'above';
  return jumpsBack(element, last, now, before) ? 'before' : null;
}

/** Against which way of reading Tab goes. */
type Jump = 'above' | 'before';

/** What has the focus after a press of Tab, and where it stands as to what had it before, as that was then. */
type Stop = { element: Element | null; jump: Jump | null };

/** So many presses are sent together at most: one at a time they take three times as long. */
const mostTogether = 8;

/** Stops of some presses, and what has the focus in the end. */
type Stops = { stops: Stop[]; now: Element | null };

/**
 * What has the focus after each of some presses of Tab. A page that keeps to itself that a key is let go, and frames,
 * in which nobody hears it, are told of by where the focus is in the end.
 */
async function tabs(number: number, presses: number, rings: Rings | null = null, shift = false): Promise<Stops> {
  const after: Stop[] = [];
  let last = focusedElement();
  const stop = (): void => {
    const element = focusedElement();
    if (rings) {
      endTransitions();
      rings.follow(element);
    }
    append(after, { element, jump: element !== null && last !== null ? jumpOf(element, last) : null });
    last = element;
  };
  const note = (event: KeyboardEvent): void => {
    if (event.isTrusted && event.key === 'Tab') stop();
  };
  window.addEventListener('keyup', note, true);
  try {
    await send(
      number,
      Array.from({ length: presses }, () => key(shift)),
    );
  } finally {
    window.removeEventListener('keyup', note, true);
  }
  endTransitions();
  if (after.length < presses) stop();
  return { stops: after, now: focusedElement() };
}

type Walk = {
  reached: Element[];
  /** The first one that is shown before the one that Tab came from; seen as it is reached: lists make other rows. */
  jump: { element: Element; to: Jump } | null;
  /** What Tab does not lead away from, in either direction. */
  trap: Element | null;
  /** Everything was gone through, out of the page or back to the first. */
  isWhole: boolean;
};

/** True for an element that neither Tab nor Shift+Tab leads away from: some let go of Tab with Shift. */
async function keepsTab(number: number, element: Element): Promise<boolean> {
  // A layer with one control keeps to itself until it is closed.
  if (element.closest(layers)) return false;
  await tabs(number, 1, null, true);
  return focusedElement() === element;
}

/**
 * True when the page has moved the focus by itself after the last press. The browser does, too: from outside of the
 * page it goes on to the first stop.
 */
function isMoved({ stops, now }: Stops, first: Element | null): boolean {
  const last = stops.at(-1)!.element;
  return now !== last && !(last === null && now === first);
}

/** Goes through the page with so many presses at once; one at a time where the page itself moves the focus later. */
async function walk(number: number, rings: Rings | null, together: number): Promise<Walk> {
  const found: Walk = { reached: [], jump: null, trap: null, isWhole: false };
  toTheTop();
  let last: Element | null = null;
  for (let pressed = 0; pressed < most; pressed += together) {
    const gone = await tabs(number, together, rings);
    const { stops, now } = gone;
    const moved = isMoved(gone, found.reached[0] ?? stops[0]!.element);
    if (moved && together > 1) return walk(number, rings, 1);
    const seen = moved ? [{ element: now, jump: null }] : stops;
    for (const { element, jump } of seen) {
      if (last && element === last) {
        if (!hasOwnStops(element) && (await keepsTab(number, element))) found.trap = element;
        return found;
      }
      if (element === null || found.reached.includes(element)) {
        found.isWhole = true;
        return found;
      }
      append(found.reached, element);
      if (jump) found.jump ??= { element, to: jump };
      last = element;
    }
  }
  return found;
}

/** Widgets that give the focus to their parts by other keys. */
const composites =
  '[role=radiogroup], [role=tablist], [role=menu], [role=menubar], [role=listbox], [role=grid], [role=tree], ' +
  '[role=treegrid], [role=toolbar], [role=dialog], [role=alertdialog], dialog, iframe';

/** What Tab should have come to, and did not. */
function missed({ reached, isWhole }: Walk): Element[] {
  if (!isWhole) return [];
  // Behind a dialog nothing is to be reached.
  if (reached.some((element) => element.closest('[role=dialog], [role=alertdialog], dialog'))) return [];
  const isRadio = (element: Element): boolean => element instanceof HTMLInputElement && element.type === 'radio';
  return (
    sceneNow()
      .told.filter((seen) => isInTabOrder(seen) && !reached.includes(seen.element))
      .map(({ element }) => element)
      .filter((element) => !isRadio(element) && !element.closest(composites) && clipOf(element) !== null)
      // A group may hand the focus on to one of its parts.
      .filter((element) => !reached.some((one) => within(one, element)))
  );
}

/** What going through a page with Tab has shown. */
export type Walked = Pick<Audit, 'stylesFocus'> & { findings: Finding[] };

/** To how many elements Tab leads in the page, as its markup says. */
export const countStops = (): number => sceneNow().told.filter(isInTabOrder).length;

/** Goes through the page with Tab, after the last step of a look; `isSeen`: also whether the focus can be seen. */
export async function walkFindings(recording: Recording, step: number, isSeen: boolean): Promise<Walked> {
  const findings: Finding[] = [];
  const layer = layerNow();
  const rings = isSeen ? followRings() : null;
  // One more leads out of the page.
  const gone = await walk(recording.number, rings, Math.min(mostTogether, countStops() + 1));
  const tell = (rule: RuleId, element: Element, what: string, certain: boolean): void => {
    const [left, top, width, height] = boxOf(element);
    const box: Box = [left + scrollX, top + scrollY, width, height];
    append(findings, { rule, certain, element: describe(element), node: recording.idOf(element), what, box, step });
  };
  const { trap, reached, jump } = gone;
  // Without a layer the same is told of everything that Tab could come to.
  const hidden = layer && reached.find((element) => element.closest('[aria-hidden="true"]') && !isGuard(element));
  if (hidden) tell('hidden-is-not-focusable', hidden, 'Tab comes to it, and aria-hidden hides it.', true);
  if (trap) tell('tab-leads-on', trap, 'Tab and Shift+Tab both stay on it.', true);
  for (const element of missed(gone)) tell('tab-reaches-all', element, 'Tab did not come to it.', false);
  const wherefrom = { above: 'something below it', before: 'something that is shown after it' };
  if (jump) tell('tab-follows-page', jump.element, `Tab comes to it after ${wherefrom[jump.to]}.`, false);
  // Last: what has had the focus may be otherwise than before.
  const { unseen, stylesFocus } = rings
    ? await unseenOf(recording.number, reached, rings)
    : { unseen: [], stylesFocus: null };
  for (const element of unseen) {
    // Of what takes text the caret says where one is, which pictures do not show.
    const isCertain = !takesText(element);
    tell('focus-is-visible', element, 'No pixel changes when it gets the focus.', isCertain);
  }
  return { findings, stylesFocus };
}
