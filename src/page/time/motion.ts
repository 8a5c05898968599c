/**
 * Animations, transitions and SMIL on the look's own time. The engine holds the timelines of the document still; what
 * runs on them is moved on here, by exactly as much as time is.
 */
import {
  isUnending,
  mayMoveThings,
  type Motion,
  moved,
  propertiesOf,
  rightBefore,
  untilEnd,
  untilNext,
} from '../../core/time/motion.ts';
import { documentOf, framesOfPage } from '../record/frames.ts';
import { rootsNow } from '../record/roots.ts';
import { isMovingPicture, pictureMotion } from '../record/state.ts';

/** An animation that runs, and how far it is. */
type Running = { animation: Animation; motion: Motion };

/** Everything in which something can move: the document, shadow roots, and frames of the same origin. */
function places(): (Document | ShadowRoot)[] {
  const roots = rootsNow();
  for (const frame of framesOfPage()) {
    const inner = documentOf(frame);
    if (inner) roots[roots.length] = inner;
  }
  return roots;
}

function motionOf(animation: Animation): Motion | null {
  const { playState, timeline, currentTime, playbackRate, effect } = animation;
  // What follows a scroll bar does not follow the clock. Things of frames are of other realms.
  if (playState !== 'running' || !effect || (timeline && 'source' in timeline)) return null;
  const { delay, endTime } = effect.getComputedTiming();
  return { at: Number(currentTime ?? 0), rate: playbackRate, delay: Number(delay ?? 0), end: Number(endTime) };
}

/**
 * What runs and has an end. What goes on for ever has no picture of its own: it is cancelled, and what it moves is
 * shown as it would be without it. Looking for animations also lets begun transitions begin.
 */
function running(): Running[] {
  const found: Running[] = [];
  for (const root of places())
    for (const animation of root.getAnimations()) {
      const motion = motionOf(animation);
      if (!motion) continue;
      if (isUnending(motion)) animation.cancel();
      else found[found.length] = { animation, motion };
    }
  return found;
}

/** The ends of SMIL animations, in seconds of their picture's time; those without an end have none. */
function smilEnd(svg: SVGSVGElement): number {
  let last = 0;
  for (const one of svg.querySelectorAll<SVGAnimationElement>(pictureMotion)) {
    try {
      const turns = Number(one.getAttribute('repeatCount') ?? 1);
      const end = one.getStartTime() + one.getSimpleDuration() * turns;
      if (Number.isFinite(end)) last = Math.max(last, end);
    } catch {
      // It has not begun, or lasts for ever.
    }
  }
  return last;
}

/** Pictures with animations inside that still have something before them, and how many milliseconds. */
function movingPictures(): { svg: SVGSVGElement; left: number }[] {
  const found: { svg: SVGSVGElement; left: number }[] = [];
  for (const root of places())
    for (const svg of root.querySelectorAll<SVGSVGElement>('svg')) {
      if (!isMovingPicture(svg)) continue;
      svg.pauseAnimations();
      const left = (smilEnd(svg) - svg.getCurrentTime()) * 1000;
      if (left > 0) found[found.length] = { svg, left };
    }
  return found;
}

/** Cancels what goes on for ever, and lets begun transitions begin. */
export const holdMotion = (): void => {
  running();
  movingPictures();
};

/** How long until the next animation begins or ends, for each that runs. */
export function motionsAhead(): number[] {
  const ahead = movingPictures().map(({ left }) => left);
  for (const { motion } of running()) {
    const next = untilNext(motion);
    if (next !== null) ahead[ahead.length] = next;
  }
  return ahead;
}

/** `opacity of div.wave`: what moves, by the name that styles have for it, and of which element. */
function wordsFor(animation: Animation): string {
  const { animationName, transitionProperty } = animation as Partial<CSSAnimation & CSSTransition>;
  const { target, pseudoElement } = animation.effect as KeyframeEffect;
  const name = animation.id || animationName || transitionProperty;
  const part = `${target?.localName}${target?.classList[0] ? `.${target.classList[0]}` : ''}${pseudoElement ?? ''}`;
  return `${name ? `${name} of ` : ''}${part}`;
}

/** What will still be moving when all else has come to its end, and for how long; null when nothing moves. */
export function lastMotion(): string | null {
  const pictures = movingPictures().map(({ left }) => ({ left, words: 'a picture' }));
  const others = running().map(({ animation, motion }) => ({
    left: untilEnd(motion),
    words: wordsFor(animation),
  }));
  const [last] = [...pictures, ...others].sort((a, b) => b.left - a.left);
  return last ? `${last.words}, ${Math.ceil(last.left)} ms to go` : null;
}

/** What is lost in sums, in milliseconds. */
const aTrifle = 1e-3;

/** What has come of moving everything on. */
export type Passed = {
  /** True when an animation has begun or ended on the way, of which it tells with the next frame. */
  tells: boolean;
  /** Brings those to their begin or end that have come right up to it; null when there are none. */
  complete: (() => void) | null;
};

/** Moves everything on by so many milliseconds; animations that begin or end with the last of them are yet to do so. */
export function passMotion(milliseconds: number): Passed {
  let tells = false;
  const short: { animation: Animation; at: number }[] = [];
  for (const { animation, motion } of running()) {
    const next = untilNext(motion);
    const at = moved(motion, milliseconds);
    const isShort = next !== null && next > 0 && Math.abs(next - milliseconds) < aTrifle;
    if (isShort) short[short.length] = { animation, at: moved(motion, next) };
    else if (next !== null && next <= milliseconds) tells = true;
    animation.currentTime = isShort ? rightBefore(motion, next) : at;
  }
  for (const { svg, left } of movingPictures())
    svg.setCurrentTime(svg.getCurrentTime() + Math.min(left, milliseconds) / 1000);
  const complete = (): void => {
    for (const { animation, at } of short) if (animation.playState === 'running') animation.currentTime = at;
  };
  return { tells, complete: short.length > 0 ? complete : null };
}

/** True when an animation that runs may move things about. */
export const motionMayMove = (): boolean =>
  movingPictures().length > 0 ||
  running().some(({ animation: { effect } }) =>
    (effect as KeyframeEffect).getKeyframes().some((frame) => propertiesOf(frame).some(mayMoveThings)),
  );
