/** Which elements do not show that they have the focus: by pixels, where their styles leave it in doubt. */
import type { Box } from '../../core/timeline/timeline.ts';
import { askFailure } from '../../core/wire/wire.ts';
import { focused } from '../doing/named.ts';
import { ask } from '../host/host.ts';
import { append } from '../host/natives.ts';
import { untilStill } from '../session/still.ts';
import type { Rings } from './ring.ts';

/** Room around an element in which its focus may be drawn, in pixels. */
const room = 6;

/** What changes with the focus may take its time; here it is over at once. */
export function endTransitions(): void {
  for (const animation of document.getAnimations())
    if (animation instanceof CSSTransition)
      try {
        animation.finish();
      } catch {}
}

/** Where an element is in the page, with room around it; null for one that has no size, or lies before its corner. */
export function clipOf(element: Element): Box | null {
  const { left, top, right, bottom, width, height } = element.getBoundingClientRect();
  if (width === 0 || height === 0 || right + scrollX <= 0 || bottom + scrollY <= 0) return null;
  const [from, above] = [Math.max(0, left + scrollX - room), Math.max(0, top + scrollY - room)];
  return [from, above, right + scrollX + room - from, bottom + scrollY + room - above];
}

/** Has the host look at a part of the page; with `isAgain` says whether it is as it was when that was done before. */
async function glance(number: number, clip: Box, isAgain: boolean): Promise<boolean> {
  try {
    await ask(number, { do: 'glance', clip, isAgain });
    return false;
  } catch (error) {
    if (error instanceof Error && error.message === askFailure.asBefore) return true;
    throw error;
  }
}

/** Some stop at parts of their own, which nobody sees from outside. */
export const hasOwnStops = (element: Element): boolean => /^(iframe|audio|video|object|embed)$/.test(element.localName);

/** So many kinds of elements, which do not show their focus by their style, are looked at one by one. */
const mostDoubtful = 6;

/** Everything that the window shows of the page. */
const inSight = (): Box => [scrollX, scrollY, innerWidth, innerHeight];

/** True when a part of the page, each time looked at when `settled`, is otherwise with the focus than without. */
async function differs(
  number: number,
  element: HTMLElement,
  settled: () => unknown,
  part: (element: Element) => Box | null,
): Promise<boolean> {
  element.focus();
  await settled();
  const clip = part(element);
  if (!clip || focused() !== element) return true;
  await glance(number, clip, false);
  element.blur();
  await settled();
  return !(await glance(number, clip, true));
}

/** True for an element under the pointer, or under something that is as small as it. */
function isPointedAt(element: Element): boolean {
  const innermost = [...document.querySelectorAll(':hover')].at(-1);
  const clip = clipOf(element);
  if (!innermost || !clip) return false;
  const { left, top, right, bottom } = innermost.getBoundingClientRect();
  const [x, y] = [clip[0] - scrollX, clip[1] - scrollY];
  return element.matches(':hover') || (left >= x && top >= y && right <= x + clip[2] && bottom <= y + clip[3]);
}

/** How long what shows the focus may take to come up, in milliseconds of the look's time. */
const slowest = 1000;

/**
 * True for an element that looks otherwise with the focus than without, as far as that can be told. It may be shown
 * elsewhere, or come up by and by: before it is denied, it has the time for that, and everything in sight is looked at.
 * Under the pointer an element, or its twin, often looks as it does with the focus.
 */
async function showsFocus(number: number, element: HTMLElement): Promise<boolean> {
  if (await differs(number, element, endTransitions, clipOf)) return true;
  return isPointedAt(element) || differs(number, element, () => untilStill(slowest, () => false), inSight);
}

/** Elements of one kind show their focus alike. */
const kindOf = ({ localName, className, parentElement }: Element): string =>
  `${localName} ${String(className)} in ${parentElement?.localName} ${String(parentElement?.className)}`;

let held: HTMLElement[] = [];

/** The elements whose focus is looked for. */
export const heldOut = (): Element[] => held;

/** Those for which the host finds no pixel changed when all of them look as if they had the focus. */
async function alikeWithFocus(number: number, elements: HTMLElement[]): Promise<HTMLElement[]> {
  held = elements;
  try {
    await ask(number, { do: 'focuses', clips: elements.map((element) => clipOf(element)!) });
    return [];
  } catch (error) {
    const said = error instanceof Error ? error.message : '';
    if (!said.startsWith(askFailure.alike)) throw error;
    const numbers = said.slice(askFailure.alike.length).split(' ').filter(Boolean);
    return numbers.map((at) => elements[Number(at)]!);
  } finally {
    held = [];
  }
}

/** Elements that were reached, and whose focus nothing shows; of those that a ring shows no picture is taken. */
export async function unseenOf(
  number: number,
  reached: readonly Element[],
  { shown, follow }: Rings,
): Promise<{ unseen: HTMLElement[]; stylesFocus: boolean }> {
  const last = focused();
  if (last instanceof HTMLElement) last.blur();
  endTransitions();
  follow(null);
  const isInDoubt = (element: Element): element is HTMLElement =>
    element instanceof HTMLElement &&
    element.isConnected &&
    !shown.has(element) &&
    !hasOwnStops(element) &&
    clipOf(element) !== null;
  const elements = reached.filter(isInDoubt);
  if (elements.length === 0) return { unseen: [], stylesFocus: true };
  const unseen: HTMLElement[] = [];
  // A script may show it, or it may be out of sight until it has the focus.
  const kinds: Record<string, boolean> = {};
  const doubtful = await alikeWithFocus(number, elements);
  for (const element of doubtful) {
    const kind = kindOf(element);
    if (!(kind in kinds) && Object.keys(kinds).length >= mostDoubtful) continue;
    kinds[kind] ??= await showsFocus(number, element);
    if (!kinds[kind]) append(unseen, element);
  }
  return { unseen, stylesFocus: doubtful.length === 0 };
}
