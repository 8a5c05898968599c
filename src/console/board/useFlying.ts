/** Whether one scrolls so fast that tiles cannot be made out. */
import type { Virtualizer } from '@tanstack/react-virtual';
import { useRef } from 'react';

/** Pixels that a wheel does not come to in a frame; a window may be lower. */
const leastScreen = 600;

/**
 * True while one scrolls by more than is in sight at once, time after time, as by dragging the scroll bar: nothing can
 * be made out then but where one is. It ends when one goes less than half as fast.
 */
export function useFlying({ isScrolling, scrollOffset, scrollRect }: Virtualizer<HTMLDivElement, Element>): boolean {
  const last = useRef({ offset: 0, leaps: 0 });
  const offset = scrollOffset ?? 0;
  const { current } = last;
  if (offset !== current.offset) {
    const screens = Math.abs(offset - current.offset) / Math.max(leastScreen, scrollRect?.height ?? 0);
    const kept = screens > 0.5 && current.leaps > 1 ? current.leaps : 0;
    last.current = { offset, leaps: isScrolling && screens > 1 ? current.leaps + 1 : kept };
  }
  return isScrolling && last.current.leaps > 1;
}
