import { describe, expect, it } from 'vitest';
import { isKey } from '../../src/core/input/keys.ts';
import { keyOf, shortcutCommands } from '../../src/engine/chromium/keys.ts';

describe('keys', () => {
  it.each([
    ['a', { key: 'a', code: 'KeyA', keyCode: 65, text: 'a' }],
    ['Q', { key: 'Q', code: 'KeyQ', keyCode: 81, text: 'Q' }],
    ['7', { key: '7', code: 'Digit7', keyCode: 55, text: '7' }],
    ['&', { key: '&', code: 'Digit7', keyCode: 55, text: '&' }],
    ['?', { key: '?', code: 'Slash', keyCode: 191, text: '?' }],
    ['Space', { key: ' ', code: 'Space', keyCode: 32, text: ' ' }],
    ['Enter', { key: 'Enter', code: 'Enter', keyCode: 13, text: '\r' }],
    ['ArrowDown', { key: 'ArrowDown', code: 'ArrowDown', keyCode: 40 }],
    ['F2', { key: 'F2', code: 'F2', keyCode: 113 }],
    ['è', { key: 'è', code: '', keyCode: 0, text: 'è' }],
  ])('%s is what a real press carries', (name, key) => expect(keyOf(name)).toEqual(key));

  it('are names or single characters', () => {
    expect(['a', 'é', '💡', 'Escape', 'Space'].map(isKey)).toEqual([true, true, true, true, true]);
    expect(['Entre', 'ab', ''].map(isKey)).toEqual([false, false, false]);
  });

  it('stand for editing commands with Control or Meta held', () => {
    expect(shortcutCommands('a', 2)).toEqual(['selectAll']);
    expect(shortcutCommands('V', 4)).toEqual(['paste']);
    expect(shortcutCommands('a', 0)).toEqual([]);
    expect(shortcutCommands('a', 3)).toEqual([]);
  });
});
