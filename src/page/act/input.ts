/** Sends input to the browser, which gives it to the page as from a mouse and a keyboard. */
import { isKey, modifierBits } from '../../core/input/keys.ts';
import { fail } from '../../core/problem/problem.ts';
import type { InputRequest, MouseButton } from '../../core/wire/wire.ts';
import { ask } from '../host/host.ts';
import { caretMoved } from './caret.ts';
import { bitsOf, heldBits, holdBits, modifierKeys } from './held.ts';
import { inputSent } from './memo.ts';
import { pointerMoved } from './pointer.ts';
import { nextTask, runDue } from '../time/time.ts';
import { handComes } from '../session/hand.ts';

type Click = { button?: Exclude<MouseButton, 'none'>; times?: number };

/** A click at a point of the viewport: with the left button and once, unless it says otherwise. */
export const clickAt = ([x, y]: [number, number], { button = 'left', times = 1 }: Click = {}): InputRequest[] => [
  { kind: 'move', x, y, button: 'none', modifiers: 0 },
  ...Array.from({ length: times }, (_, i): InputRequest[] => [
    { kind: 'down', x, y, button, clicks: i + 1, modifiers: 0 },
    { kind: 'up', x, y, button, clicks: i + 1, modifiers: 0 },
  ]).flat(),
];

let isUsed = false;

/** Sends input and lets the page react: the handlers have run, and what they scheduled for at once has too. */
export async function send(look: number, events: InputRequest[]): Promise<void> {
  await handComes();
  await ask(look, { do: 'input', events: asHeld(events) });
  await afterInput();
  if (events.some(({ kind }) => kind === 'key' || kind === 'keydown')) caretMoved('keys');
  else if (events.some(({ kind }) => kind === 'down' || kind === 'touch')) caretMoved('pointer');
}

/** Sends one input after the other: the browser takes moves that come together for one. */
export async function sendEach(look: number, events: InputRequest[]): Promise<void> {
  for (const event of events) await send(look, [event]);
}

/** Input as it is while keys are held. */
export function asHeld(events: InputRequest[]): InputRequest[] {
  for (const event of events) if ('x' in event) pointerMoved([event.x, event.y]);
  return events.map((event) => ({ ...event, modifiers: event.modifiers | heldBits() }));
}

/** Lets the page react to input. */
export async function afterInput(): Promise<void> {
  isUsed = true;
  inputSent();
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
  caretMoved(null);
  const bits = heldBits();
  holdBits(0);
  if (!isUsed) return;
  isUsed = false;
  const events: InputRequest[] = [
    ...modifierKeys('keyup', bits),
    { kind: 'key', key: unusedKey, modifiers: 0 },
    { kind: 'move', x: -1, y: -1, button: 'none', modifiers: 0 },
  ];
  await ask(look, { do: 'input', events });
}

/** `Control+Enter`: the key, and the bits of the modifiers with it. @throws ProblemError `bad-step` for no key */
export function parseKeys(keys: string): { key: string; modifiers: number } {
  // The plus sign itself may be the key: `+` or `Control++`.
  const parts = keys === '+' ? ['+'] : keys.endsWith('++') ? [...keys.slice(0, -2).split('+'), '+'] : keys.split('+');
  const key = parts.pop() ?? '';
  const odd = parts.find((name) => !Object.hasOwn(modifierBits, name));
  if (odd !== undefined)
    fail('bad-step', {
      what: `“${odd}” is not a modifier key.`,
      remedy: 'Use Control, Shift, Alt or Meta, joined with +, as in Control+Enter.',
    });
  if (!isKey(key))
    fail('bad-step', {
      what: `“${key}” is not a key.`,
      remedy: 'Use a character or a name such as Enter, Escape, Tab, ArrowDown, Home, F2.',
    });
  return { key, modifiers: bitsOf(parts.join('+')) };
}
