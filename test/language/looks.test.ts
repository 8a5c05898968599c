/** What a look file says, before any page is there. */
import { describe, expect, it } from 'vitest';
import { ensure, looks, spy, the } from '../../src/language/index.ts';

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
    [
      { answers: { '/x': { depth: 3.2 } }, states: {} },
      'looks(…), the answer to /x, has no entry “depth”.',
      'To reply with this, write { json: {depth: 3.2} }.',
    ],
    [
      { answers: { '/x': [{ free: true }] }, states: {} },
      'looks(…), the answer to /x, has no entry “free”.',
      'To reply with this, write { json: {free: true} }.',
    ],
    [
      { answers: { '/x': { status: 200, text: 'free' } }, states: {} },
      'looks(…), the answer to /x, has no entry “text”.',
      'Did you mean “body”\\?',
    ],
    [
      { answers: { '/x': { json: 1, constructor: 2 } }, states: {} },
      'looks(…), the answer to /x, has no entry “constructor”.',
      'Use one of: status, json',
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

describe('a name that is not there', () => {
  const told = (call: () => unknown): { message: string; remedy: string } => {
    try {
      call();
    } catch (error) {
      return (error as { problem: { message: string; remedy: string } }).problem;
    }
    throw new Error('It was taken.');
  };
  // biome-ignore lint/suspicious/noExplicitAny: the compiler would refuse what is meant here
  const any = (value: unknown): any => value;

  it.each([
    ['a check', () => any(ensure(the.text('Moored'))).visible(), 'There is no check visible().', 'isVisible'],
    [
      'its opposite',
      () => any(ensure(the.text('Moored')).not).isVisibel(),
      'There is no check isVisibel().',
      'isVisible',
    ],
    ['by another word', () => any(ensure(the.text('Moored'))).hasText('a'), 'There is no check hasText().', 'reads'],
    ['for how many', () => any(ensure(the.option()).not).hasCount(2), 'There is no check hasCount().', 'counts'],
    ['for how often', () => any(ensure(spy())).hasCount(2), 'There is no check hasCount().', 'calls'],
    ['for none', () => any(ensure(the.option())).isHidden(), 'There is no check isHidden().', 'isAbsent'],
    ['of a spy', () => any(ensure(spy())).wasCaled(), 'There is no check wasCaled().', 'wasCalled'],
    ['of a value', () => any(ensure(4)).equal(4), 'There is no check equal().', 'equals'],
    ['of what comes', () => any(ensure.eventually(() => 4)).equal(4), 'There is no check equal().', 'equals'],
    ['of a target', () => any(the.button('Save')).frist(), 'A target has no frist().', '.first(…)'],
  ])('is told with the nearest: %s', (_, call, message, near) => {
    expect(told(call)).toMatchObject({ message, remedy: expect.stringContaining(`Did you mean ${near}`) });
  });

  it('is told with how it is written when it is an action', () => {
    expect(told(() => any(the.button('Save').in(the.dialog())).click()).remedy).toBe(
      "Write click(the.button('Save').in(the.dialog())).",
    );
    expect(told(() => any(the.field('Draught')).type('4')).remedy).toBe("Write type(the.field('Draught'), …).");
  });

  it('is told with all that there are when none is near', () => {
    expect(told(() => any(ensure(the.text('Moored'))).zzzzzz()).remedy).toMatch(/^Use one of: isVisible, isAbs/);
    expect(told(() => any(the.button('Save')).bow()).remedy).toBe('Use one of: in, nth, first, last, having, without.');
  });

  it('may be asked for by whoever wants to know what it is', async () => {
    expect(await the.button('Save')).toMatchObject({ isTarget: true });
    expect(JSON.stringify(the.button('Save'))).toContain('"role":"button"');
    expect(Object.keys(ensure(4))).toContain('equals');
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
