import { describe, expect, it } from 'vitest';
import { withBlanksOf } from '../../src/core/text/blanks.ts';

describe('withBlanksOf', () => {
  it.each([
    ['Lengthin metres', 'Length in metres', 'Length in metres'],
    ['a b', 'ab', 'a b'],
    ['a bc', 'ab c', 'a b c'],
    ['', '', ''],
    ['moor', 'moor', 'moor'],
  ])('puts the blanks of both into %j and %j', (text, other, wanted) => {
    expect(withBlanksOf(text, other)).toBe(wanted);
    expect(withBlanksOf(other, text)).toBe(wanted);
  });

  it.each([
    ['Save', 'SAVE'],
    ['Save', 'Save all'],
    ['', 'x'],
  ])('gives nothing for %j and %j, which differ in more', (text, other) => {
    expect(withBlanksOf(text, other)).toBeNull();
    expect(withBlanksOf(other, text)).toBeNull();
  });
});
