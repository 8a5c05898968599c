/** What somebody does on the picture of a page, as input for it: in its order, and no faster than it is taken. */
import { type KeyboardEvent, type PointerEvent, type WheelEvent, useMemo, useRef } from 'react';
import { isKey, modifierBits } from '../../core/input/keys.ts';
import type { InputRequest, MouseButton } from '../../core/wire/wire.ts';
import { service } from '../data.ts';

type Held = { altKey: boolean; ctrlKey: boolean; metaKey: boolean; shiftKey: boolean };

const modifiersOf = ({ altKey, ctrlKey, metaKey, shiftKey }: Held): number =>
  (altKey ? modifierBits.Alt : 0) |
  (ctrlKey ? modifierBits.Control : 0) |
  (metaKey ? modifierBits.Meta : 0) |
  (shiftKey ? modifierBits.Shift : 0);

const buttons: MouseButton[] = ['left', 'middle', 'right'];

/** Sends events one bunch after the other. Moves that nobody has seen yet give way to the next one. */
function queueOf(id: number): (event: InputRequest) => void {
  let waiting: InputRequest[] = [];
  let isBusy = false;
  const flush = async (): Promise<void> => {
    isBusy = true;
    while (waiting.length > 0) {
      const events = waiting;
      waiting = [];
      // Whatever it may be is told by the state of the look.
      await service.input(id, events).catch(() => {});
    }
    isBusy = false;
  };
  return (event) => {
    const last = waiting.at(-1);
    if (last?.kind === 'move' && event.kind === 'move' && last.button === event.button) waiting.pop();
    waiting.push(event);
    if (!isBusy) void flush();
  };
}

/**
 * `viewport` is the size of the page, in its CSS pixels. With `pointAt` somebody points at an element: of that the page
 * hears nothing.
 */
export function useHands(
  id: number,
  viewport: readonly [number, number],
  isOn: boolean,
  pointAt: ((x: number, y: number) => void) | null,
) {
  const send = useMemo(() => queueOf(id), [id]);
  const clicks = useRef({ at: 0, x: 0, y: 0, count: 0 });
  const pressed = useRef<MouseButton>('none');
  const pointOf = ({
    clientX,
    clientY,
    currentTarget,
  }: {
    clientX: number;
    clientY: number;
    currentTarget: Element;
  }) => {
    const { left, top, width, height } = currentTarget.getBoundingClientRect();
    return {
      x: Math.round(((clientX - left) / width) * viewport[0]),
      y: Math.round(((clientY - top) / height) * viewport[1]),
    };
  };
  const press = (event: PointerEvent<HTMLElement>, kind: 'down' | 'up'): void => {
    const { x, y } = pointOf(event);
    if (kind === 'down') {
      const { at, x: beforeX, y: beforeY, count } = clicks.current;
      const isSame = event.timeStamp - at < 400 && Math.hypot(x - beforeX, y - beforeY) < 4;
      clicks.current = { at: event.timeStamp, x, y, count: isSame ? Math.min(3, count + 1) : 1 };
    }
    const button = buttons[event.button] ?? 'left';
    pressed.current = kind === 'down' ? button : 'none';
    send({ kind, x, y, button, clicks: clicks.current.count, modifiers: modifiersOf(event) });
  };
  const key = (event: KeyboardEvent, kind: 'keydown' | 'keyup'): void => {
    // Shift+Escape leaves the page.
    if (event.key === 'Escape' && event.shiftKey) return void (event.currentTarget as HTMLElement).blur();
    const name = event.key === ' ' ? 'Space' : event.key;
    if (!isOn || !isKey(name)) return;
    event.preventDefault();
    event.stopPropagation();
    send({ kind, key: name, modifiers: modifiersOf(event), ...(event.repeat && { repeat: true }) });
  };
  if (!isOn) return {};
  if (pointAt)
    return {
      onPointerDown(event: PointerEvent<HTMLElement>) {
        const { x, y } = pointOf(event);
        event.preventDefault();
        pointAt(x, y);
      },
    };
  return {
    onPointerMove: (event: PointerEvent<HTMLElement>) =>
      send({ kind: 'move', ...pointOf(event), button: pressed.current, modifiers: modifiersOf(event) }),
    onPointerDown(event: PointerEvent<HTMLElement>) {
      event.currentTarget.setPointerCapture(event.pointerId);
      event.currentTarget.focus();
      press(event, 'down');
      event.preventDefault();
    },
    onPointerUp: (event: PointerEvent<HTMLElement>) => press(event, 'up'),
    onPointerLeave: () => send({ kind: 'move', x: -1, y: -1, button: 'none', modifiers: 0 }),
    onWheel: (event: WheelEvent<HTMLElement>) =>
      send({ kind: 'wheel', ...pointOf(event), by: [event.deltaX, event.deltaY], modifiers: modifiersOf(event) }),
    onContextMenu: (event: { preventDefault(): void }) => event.preventDefault(),
    onKeyDown: (event: KeyboardEvent) => key(event, 'keydown'),
    onKeyUp: (event: KeyboardEvent) => key(event, 'keyup'),
  };
}
