/**
 * Messages that the browser shows at a control that is not valid. They are windows of its own, which come and go in
 * real time and are no part of the page: no moment holds them, and no two pictures of them are the same.
 */
import { innermostFocus } from '../act/focused.ts';
import { native } from '../host/natives.ts';
import { onRoot } from '../record/roots.ts';

let mayBeShown = false;

/** Notices when there may be one. Called once. */
export function watchMessages(): void {
  const note = (): void => {
    mayBeShown = true;
  };
  const hear = (root: EventTarget): void => native.addEventListener.call(root, 'invalid', note, { capture: true });
  hear(window);
  // What happens to a control in a shadow root is not heard outside of it.
  onRoot(hear);
}

/** What the page hears when the focus leaves a control and comes back. */
const focusing = ['blur', 'focus', 'focusin', 'focusout'];

/** Hides a message before a picture is taken: the focus leaves its control and comes back, unheard by the page. */
export function hideMessage(): void {
  const control = mayBeShown ? (innermostFocus() as HTMLElement | null) : null;
  mayBeShown = false;
  if (!control) return;
  const hush = (event: Event): void => event.stopImmediatePropagation();
  for (const type of focusing) native.addEventListener.call(window, type, hush, { capture: true });
  try {
    control.blur();
    control.focus({ preventScroll: true });
  } finally {
    for (const type of focusing) native.removeEventListener.call(window, type, hush, { capture: true });
  }
}
