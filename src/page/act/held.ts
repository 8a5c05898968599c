/** Keys that a script holds down while it does something else. */
import { modifierBits } from '../../core/input/keys.ts';
import type { InputRequest } from '../../core/wire/wire.ts';

type Modifier = keyof typeof modifierBits;

let held = 0;

/** The bits of the modifier keys that are held now. */
export const heldBits = (): number => held;

/** Says which modifier keys are held from now on, by their bits. */
export const holdBits = (bits: number): void => {
  held = bits;
};

/** The bits of modifier keys, joined as in `Control+Shift`. */
export const bitsOf = (keys: string | undefined): number =>
  (keys ?? '').split('+').reduce((bits, name) => bits | (modifierBits[name as Modifier] ?? 0), 0);

/** Modifier keys as a person presses or lets go of them, one after the other. */
export const modifierKeys = (kind: 'keydown' | 'keyup', bits: number): InputRequest[] => {
  const names = (Object.keys(modifierBits) as Modifier[]).filter((name) => bits & modifierBits[name]);
  const inOrder = kind === 'keydown' ? names : names.toReversed();
  let now = kind === 'keydown' ? 0 : bits;
  return inOrder.map((key) => {
    now ^= modifierBits[key];
    return { kind, key, modifiers: now };
  });
};

/** Input with modifier keys held down meanwhile, beside those that are held anyway. */
export function holding(bits: number, events: readonly InputRequest[]): InputRequest[] {
  const own = bits & ~held;
  const during = events.map((event) => ({ ...event, modifiers: event.modifiers | bits }));
  return [...modifierKeys('keydown', own), ...during, ...modifierKeys('keyup', own)];
}
