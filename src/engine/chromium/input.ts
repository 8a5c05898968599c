/** Input events as calls of the DevTools protocol. */
import type { InputRequest } from '../../core/wire/wire.ts';
import { keyOf, shortcutCommands } from './keys.ts';

type Call = { method: string; params: object };

const mouse = (params: object): Call => ({ method: 'Input.dispatchMouseEvent', params });

/** Bits of the buttons that are held, as the protocol counts them. */
const held = { none: 0, left: 1, right: 2, middle: 4 } as const;

function keyCalls(name: string, modifiers: number): Call[] {
  const { key, code, keyCode, text } = keyOf(name);
  // With Control, Alt or Meta held a key makes no text.
  const typed = modifiers & 7 ? undefined : text;
  const common = { key, code, windowsVirtualKeyCode: keyCode, nativeVirtualKeyCode: keyCode, modifiers };
  const down = { type: typed ? 'keyDown' : 'rawKeyDown', text: typed, commands: shortcutCommands(key, modifiers) };
  const method = 'Input.dispatchKeyEvent';
  return [
    { method, params: { ...common, ...down } },
    { method, params: { ...common, type: 'keyUp' } },
  ];
}

/** The calls that make one event. */
export function mouseOrKey(event: InputRequest): Call[] {
  if (event.kind === 'key') return keyCalls(event.key, event.modifiers);
  const { x, y, button } = event;
  if (event.kind === 'move') return [mouse({ type: 'mouseMoved', x, y, button, buttons: held[button] })];
  const { clicks: clickCount, modifiers } = event;
  const type = event.kind === 'down' ? 'mousePressed' : 'mouseReleased';
  const buttons = event.kind === 'down' ? held[button] : 0;
  return [mouse({ type, x, y, button, buttons, clickCount, modifiers })];
}
