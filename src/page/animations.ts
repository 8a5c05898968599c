/** Animations are held still like clock and chance: pictures and moments show where they end. */

/**
 * Brings every animation to where it ends: finite ones are finished (their events fire), endless ones are cancelled,
 * SMIL is wound back to its start. True when there was any finite one.
 */
export function finishAnimations(page: Document = document): boolean {
  let any = false;
  for (const animation of page.getAnimations()) {
    const end = animation.effect?.getComputedTiming().endTime;
    if (typeof end === 'number' && Number.isFinite(end)) {
      if (animation.playState === 'finished') continue;
      any = true;
      try {
        animation.finish();
      } catch {
        animation.cancel();
      }
    } else animation.cancel();
  }
  for (const svg of page.querySelectorAll('svg')) {
    if (!svg.querySelector('animate,animateTransform,animateMotion,set')) continue;
    svg.pauseAnimations();
    svg.setCurrentTime(0);
  }
  return any;
}
