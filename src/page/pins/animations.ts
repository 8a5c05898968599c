/** Animations are held still like clock and chance: pictures and moments show where they end. */
import { bringToRest } from '../../core/moment/rest.ts';
import { rootsNow } from '../record/roots.ts';

/** Brings every animation of the page to where it ends. True when there was any finite one. */
export function finishAnimations(): boolean {
  let any = false;
  for (const root of rootsNow()) any = bringToRest(root) || any;
  return any;
}
