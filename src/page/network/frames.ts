/** Frames of the page's own origin whose documents are on their way. */
import { native } from '../host/natives.ts';
import { documentOf, framesOfPage } from '../record/frames.ts';

/** A document that has not come after so long may never come: it was a download, or nothing. In milliseconds. */
const longest = 3000;

/** Since when a frame has been waited for, and for what. */
const since = new WeakMap<HTMLIFrameElement, { address: string; began: number }>();

let arrived = 0;

/** What a frame is to show: a document that it holds itself, loaded like any other, or the one at an address. */
function wantedBy(frame: HTMLIFrameElement): string | null {
  const held = frame.getAttribute('srcdoc');
  if (held !== null) return `srcdoc:${held}`;
  const address = frame.getAttribute('src')?.trim() ?? '';
  return address === '' || /^(about|javascript|data):/i.test(address) ? null : address;
}

function isOnTheWay(frame: HTMLIFrameElement): boolean {
  const address = wantedBy(frame);
  if (address === null || frame.loading === 'lazy') return false;
  const known = since.get(frame);
  const shown = documentOf(frame);
  // Of another origin nothing can be told.
  if (!shown || (shown.URL !== 'about:blank' && shown.readyState === 'complete')) {
    if (known && since.delete(frame)) arrived++;
    return false;
  }
  if (known?.address === address) return native.now() - known.began < longest;
  since.set(frame, { address, began: native.now() });
  return true;
}

/** True while a document that a frame is to show has not come; and how many have come so far, as far as was looked. */
export function framesNow(): { onTheWay: boolean; arrived: number } {
  let onTheWay = false;
  for (const frame of framesOfPage()) if (isOnTheWay(frame)) onTheWay = true;
  return { onTheWay, arrived };
}
