/** What a look file says, before any page is there. */
import { describe, expect, it } from 'vitest';
import { looks, the } from '../../src/language/index.ts';

const Buoy = (): null => null;

describe('a look file with a slip', () => {
  it.each([
    [{ state: {} }, 'What looks(…) was given has no entry “state”.', 'Did you mean “states”?'],
    [{ states: { a: { scrip() {} } } }, 'The look “a” has no entry “scrip”.', 'Did you mean “script”?'],
    [
      { states: { a: { zzzzzz: 1 } } },
      'The look “a” has no entry “zzzzzz”.',
      /Use one of: props, slots, render, answers, after, script/,
    ],
    [
      { answers: { '/x': { jsn: 1 } }, states: {} },
      'looks(…), the answer to /x, has no entry “jsn”.',
      'Did you mean “json”?',
    ],
  ])('is told at once: %j', (definition, message, remedy) => {
    const wrong = expect.objectContaining({ code: 'look-entry', message, remedy: expect.stringMatching(remedy) });
    expect(() => looks(Buoy, definition as never)).toThrow(expect.objectContaining({ problem: wrong }));
  });

  it('is none when every entry is known', () => {
    const states = { a: { props: {}, answers: { '/x': { json: 1, delay: 5 } } }, b: { after: 'a' as const } };
    expect(looks(Buoy, { states }).states).toEqual(states);
  });
});

describe('a role', () => {
  it('that no element can have is told, with the nearest one', () => {
    expect(String(the.button('Save'))).toBe('the button “Save”');
    expect(() => (the as unknown as Record<string, () => void>).buton!()).toThrow(
      expect.objectContaining({
        problem: expect.objectContaining({ code: 'role-unknown', remedy: 'Did you mean the.button(…)?' }),
      }),
    );
  });
});
