/** What a person does with the keyboard, as lines: text into fields, and keys. */
import { codeOf } from '../../core/value/code.ts';
import { isInput } from '../act/element.ts';
import { addCharacter, deleteSome } from './edit.ts';
import { begin, editOf, type Hand } from './hand.ts';
import { heldIn } from './mouse.ts';
import { fieldOf, focused, isPicked, named } from './named.ts';

const modifiers = ['Control', 'Shift', 'Alt', 'Meta'];

/** A key that is no text: several of one kind are one line. */
function press(hand: Hand, keys: string): void {
  const at = focused();
  const isMoved = at !== hand.focusBefore && at !== document.body && at !== null;
  const to = `press(${isMoved ? `${named(at)}, ` : ''}${codeOf(keys)}`;
  if (hand.pressed?.keys === keys && !isMoved) {
    const times = ++hand.pressed.times;
    hand.scribe.write(`${hand.pressed.to}, { times: ${times} })`, hand.pressed.line);
    return;
  }
  begin(hand);
  hand.entry = null;
  hand.pressed = { keys, times: 1, to, line: hand.scribe.write(`${to})`) };
}

/** A key in a field; true when it belongs to the text there. */
function typed(hand: Hand, field: HTMLElement, key: string, held: readonly string[]): boolean {
  const isPlain = held.every((one) => one === 'Shift');
  const isLine = key === 'Enter' && !isInput(field);
  if (isPlain && (key.length === 1 || isLine)) addCharacter(editOf(hand, field), isLine ? '\n' : key);
  else if (isPlain && (key === 'Backspace' || key === 'Delete')) deleteSome(editOf(hand, field));
  else if (held.join() === 'Control' && key.toLowerCase() === 'a') {
    // Whatever comes next takes the place of everything that is there.
    if (hand.edit?.field === field && hand.edit.typed !== '') begin(hand);
    editOf(hand, field);
  } else return false;
  return true;
}

/** A key was pressed. */
export function keyed(hand: Hand, event: KeyboardEvent): void {
  const { key, isComposing } = event;
  hand.isKeyClick = key === 'Enter' || key === ' ';
  const element = focused();
  // What keys choose in a list is told by what was chosen, and what is picked by its value.
  if (element instanceof HTMLSelectElement && key !== 'Tab') return;
  if (modifiers.includes(key) || isComposing || (element && isPicked(element) && key.length === 1)) return;
  const held = heldIn(event);
  const field = element && fieldOf(element);
  if (field && typed(hand, field, key, held)) return;
  // What is pasted is told as that.
  if (held.includes('Control') && key.toLowerCase() === 'v') return;
  const isShifted = key.length === 1 && held.every((one) => one === 'Shift');
  press(hand, [...(isShifted ? [] : held), key === ' ' ? 'Space' : key].join('+'));
}
