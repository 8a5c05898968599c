/** Input events as calls of the DevTools protocol. */
import type { InputRequest } from '../../core/wire/wire.ts';
import { keyOf, shortcutCommands } from './keys.ts';

type Call = { method: string; params: object };

const mouse = (params: object): Call => ({ method: 'Input.dispatchMouseEvent', params });

/** Bits of the buttons that are held, as the protocol counts them. */
const held = { none: 0, left: 1, right: 2, middle: 4 } as const;

type Pressed = Extract<InputRequest, { key: string }>;

function keyCalls({ kind, key: name, modifiers, repeat = false }: Pressed): Call[] {
  const { key, code, keyCode, text } = keyOf(name);
  // With Control, Alt or Meta held a key makes no text.
  const typed = modifiers & 7 ? undefined : text;
  const common = { key, code, windowsVirtualKeyCode: keyCode, nativeVirtualKeyCode: keyCode, modifiers };
  const commands = shortcutCommands(key, modifiers);
  const down = { type: typed ? 'keyDown' : 'rawKeyDown', text: typed, commands, autoRepeat: repeat };
  const method = 'Input.dispatchKeyEvent';
  return [
    ...(kind === 'keyup' ? [] : [{ method, params: { ...common, ...down } }]),
    ...(kind === 'keydown' ? [] : [{ method, params: { ...common, type: 'keyUp' } }]),
  ];
}

const phases = { start: 'touchStart', move: 'touchMove', end: 'touchEnd' } as const;

/** Fingers that rest before they leave throw nothing: the protocol takes the times that it is given. */
let touchedAt = 0;

function touchCalls({ phase, points, after, modifiers }: Extract<InputRequest, { kind: 'touch' }>): Call[] {
  touchedAt = phase === 'start' ? Math.max(Date.now() / 1000, touchedAt + 1) : touchedAt + after / 1000;
  const touchPoints = points.map(([x, y], id) => ({ x, y, id }));
  const params = { type: phases[phase], touchPoints, modifiers, timestamp: touchedAt };
  return [{ method: 'Input.dispatchTouchEvent', params }];
}

/** The calls that make one event. */
export function callsOf(event: InputRequest): Call[] {
  if (event.kind === 'touch') return touchCalls(event);
  if ('key' in event) return keyCalls(event);
  const { x, y, modifiers } = event;
  if (event.kind === 'wheel')
    return [mouse({ type: 'mouseWheel', x, y, deltaX: event.by[0], deltaY: event.by[1], modifiers })];
  const { button } = event;
  if (event.kind === 'move') return [mouse({ type: 'mouseMoved', x, y, button, buttons: held[button], modifiers })];
  const { clicks: clickCount } = event;
  const type = event.kind === 'down' ? 'mousePressed' : 'mouseReleased';
  const buttons = event.kind === 'down' ? held[button] : 0;
  return [mouse({ type, x, y, button, buttons, clickCount, modifiers })];
}
