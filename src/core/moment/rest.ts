/** Brings what moves by itself to rest, in a live page and in a redrawn one: the same rule makes both show the same. */

/** The members of the Web Animations API and of SVG that are needed here. */
type Held = {
  effect: { getComputedTiming(): { endTime?: unknown } } | null;
  playState: string;
  finish(): void;
  cancel(): void;
};
type Clocked = {
  querySelector(selector: string): unknown;
  pauseAnimations(): void;
  setCurrentTime(seconds: number): void;
};
type Root = { getAnimations(): Held[]; querySelectorAll(selector: string): Iterable<unknown> };

/**
 * Brings every animation below a document or shadow root to where it ends: finite ones are finished (their events
 * fire), endless ones are cancelled, SMIL is wound back to its start. True when there was any finite one.
 */
export function bringToRest(root: Root): boolean {
  let any = false;
  for (const animation of root.getAnimations()) {
    const end = animation.effect?.getComputedTiming().endTime;
    if (typeof end !== 'number' || !Number.isFinite(end)) {
      animation.cancel();
      continue;
    }
    if (animation.playState === 'finished') continue;
    any = true;
    try {
      animation.finish();
    } catch {
      animation.cancel();
    }
  }
  for (const svg of root.querySelectorAll('svg') as Iterable<Clocked>) {
    if (!svg.querySelector('animate,animateTransform,animateMotion,set')) continue;
    svg.pauseAnimations();
    svg.setCurrentTime(0);
  }
  return any;
}
