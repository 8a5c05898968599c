/** Pressing keys: once, several times, or held down. */
import type { InputRequest } from '../../core/wire/wire.ts';
import type { Action, PressOptions } from '../../language/command.ts';
import { type Recording, recordingNow } from '../record/recording.ts';
import { passTime } from '../session/clock.ts';
import { grouped } from '../session/part.ts';
import { timeNow } from '../time/time.ts';
import { bitsOf, heldBits, holdBits, holding, modifierKeys } from './held.ts';
import { parseKeys, send } from './input.ts';

/** A held key repeats after so long, and then that often, in milliseconds. */
const firstRepeat = 500;
const nextRepeats = 50;

type Press = Extract<Action, { do: 'press' }>;

async function holdKey(recording: Recording, keys: string, milliseconds: number): Promise<void> {
  const { key, modifiers } = parseKeys(keys);
  const { number } = recording;
  const until = timeNow() + milliseconds;
  const isOver = (): boolean => recording.isOver;
  const down = (repeat: boolean): InputRequest => ({ kind: 'keydown', key, modifiers, repeat });
  await send(number, [...modifierKeys('keydown', modifiers), down(false)]);
  for (let next = timeNow() + firstRepeat; next <= until && !isOver(); next += nextRepeats) {
    await passTime(next, isOver);
    await send(number, [down(true)]);
  }
  await passTime(until, isOver);
  await send(number, [{ kind: 'keyup', key, modifiers }, ...modifierKeys('keyup', modifiers)]);
}

/** Presses keys where the focus is. */
export async function pressKeys(recording: Recording, { keys, options }: Press): Promise<void> {
  const { times = 1, held = 0 }: PressOptions = options;
  const { key, modifiers } = parseKeys(keys);
  for (let i = 0; i < times; i++) {
    if (held > 0) await holdKey(recording, keys, held);
    else await send(recording.number, holding(modifiers, [{ kind: 'key', key, modifiers: 0 }]));
  }
}

/** Holds keys down while `body` runs, as a part of the look. */
export function held(keys: string, body: () => Promise<void>): Promise<void> {
  return grouped(`hold ${keys}`, async () => {
    const { key, modifiers } = parseKeys(keys);
    const before = heldBits();
    const { number } = recordingNow()!;
    const own = (modifiers | bitsOf(key)) & ~before;
    const other = (kind: 'keydown' | 'keyup'): InputRequest[] => (bitsOf(key) ? [] : [{ kind, key, modifiers: own }]);
    await send(number, [...modifierKeys('keydown', own), ...other('keydown')]);
    holdBits(before | own);
    try {
      await body();
    } finally {
      holdBits(before);
      if (recordingNow()?.number === number) await send(number, [...other('keyup'), ...modifierKeys('keyup', own)]);
    }
  });
}
