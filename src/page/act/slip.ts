/** What moves away while it is pressed: it is let go elsewhere, so that nothing comes of the click. */
import { native } from '../host/natives.ts';
import { boxOf } from './element.ts';
import { describe } from './names.ts';

let watched: Element | null = null;
let isPressed = false;
let over: string | null = null;

/** Watches an element until it is let go. */
export function watchSlip(element: Element): void {
  watched = element;
  isPressed = false;
  over = null;
}

/** What lay under the pointer when the element was let go, in words, if that had moved away; null if it had not. */
export const slippedOver = (): string | null => over;

function letGo({ clientX: x, clientY: y }: MouseEvent, path: EventTarget[]): void {
  const element = watched!;
  watched = null;
  if (!isPressed || !element.isConnected || path.includes(element)) return;
  const [left, top, width, height] = boxOf(element);
  const isUnder = x >= left && x < left + width && y >= top && y < top + height;
  if (!isUnder && path[0] instanceof Element) over = describe(path[0]);
}

/** Called once, before anything of the project runs. */
export function watchPresses(): void {
  const hear = (run: (event: MouseEvent, path: EventTarget[]) => void) => (event: Event) => {
    if (event.isTrusted && watched) run(event as MouseEvent, event.composedPath());
  };
  const press = hear((_, path) => {
    isPressed = path.includes(watched!);
  });
  native.addEventListener.call(window, 'pointerdown', press, { capture: true });
  native.addEventListener.call(window, 'pointerup', hear(letGo), { capture: true });
}
