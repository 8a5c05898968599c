/** Waits until an element can be acted upon as a person would: there, alone, visible, still, enabled, not covered. */
import type { Details } from '../../core/problem/entry.ts';
import { fail, type ProblemCode } from '../../core/problem/problem.ts';
import type { Box, Step } from '../../core/timeline/timeline.ts';
import type { Amount } from '../../language/command.ts';
import { isTarget, type Target } from '../../language/target.ts';
import { native } from '../host/natives.ts';
import { patience } from '../host/settings.ts';
import type { Recording } from '../record/recording.ts';
import { framesCome, soonestComes } from '../session/hand.ts';
import { untilQuiet } from '../session/still.ts';
import { isFramed, nextFrame } from '../time/frame.ts';
import { whatCovers } from './cover.ts';
import { handleOf, reaches, whyOutOfReach } from './handle.ts';
import { only, retry } from './retry.ts';
import { bringIntoView, deepestAt, pointOf } from './scroll.ts';
import { mayMove } from '../time/time.ts';
import { boxOf } from './element.ts';
import { isDisabled } from './visible.ts';

/** Waits for a frame; one that comes at once would show nothing to have moved. */
async function wholeFrame(): Promise<void> {
  const began = native.now();
  do await nextFrame();
  while (native.now() - began < 12);
}

/**
 * What the target is wanted for, in a word, whether that needs it to be enabled, and where it is wanted: from its top
 * left corner. What `isThere` holds for need not be reached any more.
 */
export type Purpose = {
  action: string;
  needsEnabled: boolean;
  at?: Amount | undefined;
  isThere?(element: Element): boolean;
};

export type Actionable = { element: Element; point: [number, number] };

/** A point of an element, from its top left corner. @throws ProblemError `bad-step` for one outside it */
function pointAt([left, top, width, height]: Box, [x, y]: Amount, target: string): [number, number] {
  if (x < 0 || y < 0 || x >= width || y >= height)
    fail('bad-step', {
      what: `${x}, ${y} lies outside ${target}, which is ${Math.round(width)} by ${Math.round(height)} pixels.`,
      remedy: 'Count from its top left corner: at: [x, y].',
    });
  return [left + x, top + y];
}

/** What is acted upon: a target, or an element that belongs to one, with words for it. */
export type Aim = Target | { words: string; element(): Element | Promise<Element> };

/** Resolves with the element and the point to act at. What it finds is written into the step. */
export async function actionable(current: Step, recording: Recording, aim: Aim, purpose: Purpose): Promise<Actionable> {
  const name = isTarget(aim) ? String(aim) : aim.words;
  recording.aim(current, name, null, null);
  const wrong = (code: ProblemCode, details: Details = {}): never =>
    fail(code, { target: name, action: purpose.action, patience: patience(), ...details });
  await soonestComes();
  return retry(current, recording, async () => {
    const element = isTarget(aim) ? only(aim) : await aim.element();
    recording.aim(current, name, element, boxOf(element));
    const handle = handleOf(element);
    const isThere = purpose.isThere?.(element) ?? false;
    const hidden = whyOutOfReach(handle);
    if (hidden && !isThere) wrong('target-hidden', { why: hidden });
    if (purpose.needsEnabled && isDisabled(element)) wrong('target-disabled');
    const scrolled = bringIntoView(handle);
    // What comes into sight may show more at once, and move what lies below it.
    if (scrolled) await untilQuiet(() => recording.isOver);
    const before = boxOf(handle);
    if (mayMove()) {
      await framesCome();
      await wholeFrame();
    } else if (scrolled || !isFramed()) await nextFrame();
    const after = boxOf(handle);
    if (!element.isConnected || before.some((value, i) => Math.abs(value - after[i]!) > 0.1)) wrong('target-moving');
    const point = purpose.at ? pointAt(after, purpose.at, name) : pointOf(handle);
    const top = deepestAt(...point);
    if (!isThere && !reaches(top, element, point)) {
      recording.cover(current, top);
      wrong('target-covered', whatCovers(top));
    }
    delete current.cover;
    recording.aim(current, name, element, boxOf(element));
    current.pointer = point;
    return { element, point };
  });
}
