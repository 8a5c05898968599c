/** Sees at once which elements show that they have the focus. */
import type { Box } from '../core/timeline/timeline.ts';
import type { EngineWindow } from '../engine/engine.ts';
import { alikeIn } from './compare.ts';

/** The box around all of some boxes. */
function boxAround(clips: readonly Box[]): Box {
  const left = Math.min(...clips.map(([x]) => x));
  const top = Math.min(...clips.map(([, y]) => y));
  const right = Math.max(...clips.map(([x, , width]) => x + width));
  const bottom = Math.max(...clips.map(([, y, , height]) => y + height));
  return [left, top, right - left, bottom - top];
}

/**
 * Which of the elements that a page holds out look the same with the focus as without, by pixels: where `clips` lie on
 * the page. Some of them may show it all the same, by a script, or out of sight; the others are sure.
 */
export async function unseenFocuses(window: EngineWindow, token: string, clips: readonly Box[]): Promise<number[]> {
  const around = boxAround(clips);
  const quoted = JSON.stringify(token);
  const before = await window.screenshot(around, false);
  const now = await window.asFocused(`__sguardo.heldOut(${quoted})`, async () => {
    await window.evaluate(`__sguardo.settle(${quoted})`);
    return window.screenshot(around, false);
  });
  if (before.equals(now)) return clips.map((_, i) => i);
  return alikeIn({ before, now, around, clips });
}
