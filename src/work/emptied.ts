/** A window that a person had in hand, made ready for whoever uses it next. */
import type { InputRequest, MouseButton } from '../core/wire/wire.ts';
import type { EngineWindow } from '../engine/engine.ts';

/** What a person has pressed is let go, and the pointer taken away: the next page finds a hand nowhere. */
export async function letGo(window: EngineWindow): Promise<void> {
  const up = (button: MouseButton): InputRequest => ({ kind: 'up', x: -1, y: -1, button, clicks: 1, modifiers: 0 });
  const keys = ['Shift', 'Control', 'Alt', 'Meta'].map((key) => ({ kind: 'keyup', key, modifiers: 0 }) as const);
  const away: InputRequest = { kind: 'move', x: -1, y: -1, button: 'none', modifiers: 0 };
  await window.input([up('left'), up('right'), ...keys, away]);
}

/** Takes everything away from a window. True when it can be used again. */
export async function emptied(window: EngineWindow): Promise<boolean> {
  try {
    await window.show(null);
    await letGo(window);
    await window.load('about:blank');
    return true;
  } catch {
    return false;
  }
}
