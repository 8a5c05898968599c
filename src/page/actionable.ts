/** Waits until an element can be acted upon as a person would: there, alone, visible, still, enabled, not covered. */
import { fail, type Problem, problem, ProblemError } from '../core/problem.ts';
import type { Box, Step } from '../core/timeline.ts';
import { finishAnimations } from './animations.ts';
import { findAll, insteadOf } from './find.ts';
import { describe } from './names.ts';
import { native } from './pinned.ts';
import type { Recording } from './record.ts';
import { patience } from './settings.ts';
import { nextFrame } from './still.ts';
import type { Target } from './target.ts';

export const boxOf = (element: Element): Box => {
  const { left, top, width, height } = element.getBoundingClientRect();
  return [left, top, width, height];
};

/** Why nobody can see the element, or null when they can. */
export function whyInvisible(element: Element): string | null {
  if (!element.isConnected) return 'it was taken out of the page';
  const [, , width, height] = boxOf(element);
  if (!element.checkVisibility()) return 'it or something around it has display: none or content-visibility: hidden';
  if (getComputedStyle(element).visibility !== 'visible') return `it has visibility: ${getComputedStyle(element).visibility}`;
  if (!element.checkVisibility({ opacityProperty: true })) return 'it or something around it has opacity: 0';
  if (width === 0 || height === 0) return `it is ${width} by ${height} pixels`;
  return null;
}

export const isVisible = (element: Element): boolean => whyInvisible(element) === null;

const isDisabled = (element: Element): boolean => element.matches(':disabled') || element.closest('[aria-disabled="true"]') !== null;

function deepestAt(x: number, y: number): Element | null {
  let element = document.elementFromPoint(x, y);
  while (element?.shadowRoot) {
    const inner = element.shadowRoot.elementFromPoint(x, y);
    if (!inner || inner === element) break;
    element = inner;
  }
  return element;
}

/** True when `inner` is `outer` or lies inside it, through shadow roots. */
function within(inner: Element | null, outer: Element): boolean {
  for (let node: Node | null = inner; node; node = node.parentNode ?? (node as ShadowRoot).host ?? null) if (node === outer) return true;
  return false;
}

/** Where a person would point at: the middle of the part of the element that is in the viewport. */
function pointOf(element: Element): [number, number] {
  const rect = element.getClientRects()[0] ?? element.getBoundingClientRect();
  const left = Math.max(0, rect.left);
  const right = Math.min(window.innerWidth, rect.right);
  const top = Math.max(0, rect.top);
  const bottom = Math.min(window.innerHeight, rect.bottom);
  return [Math.round(((left + right) / 2) * 100) / 100, Math.round(((top + bottom) / 2) * 100) / 100];
}

const inViewport = (element: Element): boolean => {
  const [left, top, width, height] = boxOf(element);
  return left + width / 2 >= 0 && top + height / 2 >= 0 && left + width / 2 <= window.innerWidth && top + height / 2 <= window.innerHeight;
};

/** The one element that a target describes, or a problem that says what is there instead. */
export function only(target: Target, waited: number): Element {
  const found = findAll(target);
  if (found.length === 1) return found[0]!;
  if (found.length === 0) return fail('target-missing', { target: String(target), patience: waited }, { found: insteadOf(target) });
  return fail('target-ambiguous', { target: String(target), count: found.length }, { found: found.slice(0, 8).map(describe) });
}

/** Tries again at every frame until `attempt` throws no problem, or patience ends with the last one. */
export async function retry<T>(current: Step, attempt: () => T | Promise<T>): Promise<T> {
  const until = native.now() + patience();
  current.tries = 0;
  for (;;) {
    current.tries++;
    try {
      return await attempt();
    } catch (error) {
      if (!(error instanceof ProblemError) || native.now() >= until) throw error;
    }
    await nextFrame();
  }
}

/** Waits for a frame; one that comes at once would show nothing to have moved. */
async function wholeFrame(): Promise<void> {
  const began = native.now();
  do await nextFrame();
  while (native.now() - began < 12);
}

export type Purpose = { action: string; needsEnabled: boolean };

/** Resolves with the element and the point to act at. What it finds is written into the step. */
export async function actionable(
  current: Step,
  recording: Recording,
  target: Target,
  { action, needsEnabled }: Purpose,
): Promise<{ element: Element; point: [number, number] }> {
  const name = String(target);
  current.target = { node: null, box: null, description: name };
  const wrong = (code: Problem['code'], details: Record<string, string | number> = {}): never => {
    throw new ProblemError(problem(code, { target: name, action, patience: patience(), ...details }));
  };
  return retry(current, async () => {
    const element = only(target, patience());
    current.target = { node: recording.idOf(element), box: boxOf(element), description: name };
    const hidden = whyInvisible(element);
    if (hidden) wrong('target-hidden', { why: hidden });
    if (needsEnabled && isDisabled(element)) wrong('target-disabled');
    if (!inViewport(element)) element.scrollIntoView({ block: 'center', inline: 'center', behavior: 'instant' });
    finishAnimations();
    const before = boxOf(element);
    await wholeFrame();
    const after = boxOf(element);
    if (!element.isConnected || before.some((value, i) => Math.abs(value - after[i]!) > 0.1)) wrong('target-moving');
    const point = pointOf(element);
    const top = deepestAt(...point);
    const label = top?.closest('label') as HTMLLabelElement | null;
    if (!within(top, element) && label?.control !== element)
      wrong('target-covered', { cover: top ? describe(top) : 'nothing that can be seen: it lies outside the viewport' });
    current.target = { node: recording.idOf(element), box: after, description: name };
    current.pointer = point;
    return { element, point };
  });
}
