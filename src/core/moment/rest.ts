/** Brings what moves by itself in a redrawn moment to rest. */

/** The id of animations that hold a recorded value: they rest already. */
export const heldId = 'sguardo-held';

/** The members of the Web Animations API that are needed here. */
type Held = {
  id: string;
  effect: { getComputedTiming(): { endTime?: unknown } } | null;
  playState: string;
  finish(): void;
  cancel(): void;
};
type Root = { getAnimations(): Held[] };

/**
 * Brings every animation below a document or shadow root to where it ends: finite ones are finished, endless ones are
 * cancelled. What was on its way when the moment was recorded is held there by an animation of ours.
 */
export function bringToRest(root: Root): void {
  for (const animation of root.getAnimations()) {
    if (animation.id === heldId) continue;
    const end = animation.effect?.getComputedTiming().endTime;
    if (typeof end !== 'number' || !Number.isFinite(end)) {
      animation.cancel();
      continue;
    }
    if (animation.playState === 'finished') continue;
    try {
      animation.finish();
    } catch {
      animation.cancel();
    }
  }
}
