/** What of the page belongs into a picture. */
import type { Box } from '../../core/timeline/timeline.ts';
import { rootsNow } from '../record/roots.ts';

/** Space left around what is captured, for shadows and outlines. */
const margin = 16;

/** From the page's top left corner to the far edge of everything that can be seen in it, in CSS pixels of the page. */
export function clipOf(): Box {
  let right = 0;
  let bottom = 0;
  for (const root of rootsNow()) {
    const elements = root === document ? document.body.querySelectorAll('*') : root.querySelectorAll('*');
    for (const element of elements) {
      if (element.parentElement === document.body && element.id === 'look') continue;
      const box = element.getBoundingClientRect();
      if (box.width === 0 || box.height === 0) continue;
      if (box.right + scrollX > right && element.checkVisibility()) right = box.right + scrollX;
      if (box.bottom + scrollY > bottom && element.checkVisibility()) bottom = box.bottom + scrollY;
    }
  }
  const { scrollWidth, scrollHeight } = document.documentElement;
  const width = Math.min(Math.ceil(right) + margin, Math.max(innerWidth, scrollWidth));
  const height = Math.min(Math.ceil(bottom) + margin, Math.max(innerHeight, scrollHeight));
  return [0, 0, Math.max(width, margin), Math.max(height, margin)];
}
