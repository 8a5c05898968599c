/** Sends input to the browser, which gives it to the page as from a mouse and a keyboard. */
import { isKey, modifierBits } from '../../core/input/keys.ts';
import { fail } from '../../core/problem/problem.ts';
import type { InputRequest } from '../../core/wire/wire.ts';
import { ask } from '../host/host.ts';
import { pointerMoved } from './pointer.ts';
import { nextTask, runDue } from '../time/time.ts';

/** A click with the left button at a point of the viewport. */
export const clickAt = ([x, y]: [number, number]): InputRequest[] => [
  { kind: 'move', x, y, button: 'none' },
  { kind: 'down', x, y, button: 'left', clicks: 1, modifiers: 0 },
  { kind: 'up', x, y, button: 'left', clicks: 1, modifiers: 0 },
];

let isUsed = false;

/** Sends input and lets the page react: the handlers have run, and what they scheduled for at once has too. */
export async function send(look: number, events: InputRequest[]): Promise<void> {
  isUsed = true;
  for (const event of events) if (event.kind !== 'key') pointerMoved([event.x, event.y]);
  await ask(look, { do: 'input', events });
  await nextTask();
  await runDue();
}

/** Nobody has it on a keyboard, and nothing listens to it. */
const unusedKey = 'F13';

/**
 * Takes the pointer out of the page, where it is when a look begins. A page that was clicked on shows no focus that a
 * script moves until a key is pressed: that would go on in the next look, while a fresh page shows it.
 */
export async function releaseInput(look: number): Promise<void> {
  pointerMoved(null);
  if (!isUsed) return;
  isUsed = false;
  const events: InputRequest[] = [
    { kind: 'key', key: unusedKey, modifiers: 0 },
    { kind: 'move', x: -1, y: -1, button: 'none' },
  ];
  await ask(look, { do: 'input', events });
}

/** `Control+Enter` as input. @throws ProblemError `bad-step` for what is no key */
export function parseKeys(keys: string): InputRequest {
  // The plus sign itself may be the key: `+` or `Control++`.
  const parts = keys === '+' ? ['+'] : keys.endsWith('++') ? [...keys.slice(0, -2).split('+'), '+'] : keys.split('+');
  const key = parts.pop() ?? '';
  let modifiers = 0;
  for (const name of parts)
    modifiers |= Object.hasOwn(modifierBits, name)
      ? modifierBits[name as keyof typeof modifierBits]
      : fail('bad-step', {
          what: `“${name}” is not a modifier key.`,
          remedy: 'Use Control, Shift, Alt or Meta, joined with +, as in Control+Enter.',
        });
  if (!isKey(key))
    fail('bad-step', {
      what: `“${key}” is not a key.`,
      remedy: 'Use a character or a name such as Enter, Escape, Tab, ArrowDown, Home, F2.',
    });
  return { kind: 'key', key, modifiers };
}
