/** Keys as the UI Events specification names them, on a US keyboard: what a real key press carries. */

import { modifierBits } from '../../core/input/keys.ts';

type Key = { key: string; code: string; keyCode: number; text?: string };

const named: Record<string, Omit<Key, 'key'>> = {
  Enter: { code: 'Enter', keyCode: 13, text: '\r' },
  Tab: { code: 'Tab', keyCode: 9 },
  Escape: { code: 'Escape', keyCode: 27 },
  Backspace: { code: 'Backspace', keyCode: 8 },
  Delete: { code: 'Delete', keyCode: 46 },
  ArrowLeft: { code: 'ArrowLeft', keyCode: 37 },
  ArrowUp: { code: 'ArrowUp', keyCode: 38 },
  ArrowRight: { code: 'ArrowRight', keyCode: 39 },
  ArrowDown: { code: 'ArrowDown', keyCode: 40 },
  Home: { code: 'Home', keyCode: 36 },
  End: { code: 'End', keyCode: 35 },
  PageUp: { code: 'PageUp', keyCode: 33 },
  PageDown: { code: 'PageDown', keyCode: 34 },
  Insert: { code: 'Insert', keyCode: 45 },
  Shift: { code: 'ShiftLeft', keyCode: 16 },
  Control: { code: 'ControlLeft', keyCode: 17 },
  Alt: { code: 'AltLeft', keyCode: 18 },
  Meta: { code: 'MetaLeft', keyCode: 91 },
};
for (let i = 1; i <= 12; i++) named[`F${i}`] = { code: `F${i}`, keyCode: 111 + i };

const punctuation: Record<string, [code: string, keyCode: number]> = {
  ' ': ['Space', 32],
  '-': ['Minus', 189],
  _: ['Minus', 189],
  '=': ['Equal', 187],
  '+': ['Equal', 187],
  '[': ['BracketLeft', 219],
  '{': ['BracketLeft', 219],
  ']': ['BracketRight', 221],
  '}': ['BracketRight', 221],
  '\\': ['Backslash', 220],
  '|': ['Backslash', 220],
  ';': ['Semicolon', 186],
  ':': ['Semicolon', 186],
  "'": ['Quote', 222],
  '"': ['Quote', 222],
  ',': ['Comma', 188],
  '<': ['Comma', 188],
  '.': ['Period', 190],
  '>': ['Period', 190],
  '/': ['Slash', 191],
  '?': ['Slash', 191],
  '`': ['Backquote', 192],
  '~': ['Backquote', 192],
};
const shiftedDigits = ')!@#$%^&*(';

/** What a key press of `name` carries; a single character that no key makes is typed as itself. */
export function keyOf(name: string): Key {
  const known = named[name];
  if (known) return { key: name, ...known };
  const character = name === 'Space' ? ' ' : name;
  if (/^[a-z]$/i.test(character))
    return {
      key: character,
      code: `Key${character.toUpperCase()}`,
      keyCode: character.toUpperCase().charCodeAt(0),
      text: character,
    };
  if (/^[0-9]$/.test(character))
    return { key: character, code: `Digit${character}`, keyCode: character.charCodeAt(0), text: character };
  const digit = shiftedDigits.indexOf(character);
  if (digit >= 0 && character.length === 1)
    return { key: character, code: `Digit${digit}`, keyCode: 48 + digit, text: character };
  const mark = punctuation[character];
  if (mark) return { key: character, code: mark[0], keyCode: mark[1], text: character };
  if (character === '\n') return keyOf('Enter');
  return { key: character, code: '', keyCode: 0, text: character };
}

/** Editing commands that a keyboard shortcut stands for; the protocol wants them spelled out. */
export const shortcutCommands = (key: string, modifiers: number): string[] => {
  if (modifiers !== modifierBits.Control && modifiers !== modifierBits.Meta) return [];
  const commands: Record<string, string> = { a: 'selectAll', c: 'copy', x: 'cut', v: 'paste', z: 'undo' };
  const command = commands[key.toLowerCase()];
  return command ? [command] : [];
};
