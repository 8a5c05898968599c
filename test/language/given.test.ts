/** What the words of scripts refuse before any page is asked: with what they were given, and an example. */
import { expect, it } from 'vitest';
import type { Problem } from '../../src/core/problem/problem.ts';
import * as sguardo from '../../src/language/index.ts';

// Look files may be JavaScript, and types may be cast away.
// biome-ignore lint/suspicious/noExplicitAny: the compiler would refuse what is meant here
const { the, type, hold, select, drag, part, capture, ensure, spy, action, check, clock } = sguardo as any;

function refused(call: () => unknown): Problem {
  try {
    call();
  } catch (error) {
    return (error as { problem: Problem }).problem;
  }
  throw new Error('It was taken.');
}

it.each([
  ['the.text(…) was given 42.', "the.text('Moored')", () => the.text(42)],
  ['the.field(…) was given undefined.', "the.field('Moored')", () => the.field()],
  ['the.marked(…) was given /a/.', "the.marked('tide-curve')", () => the.marked(/a/)],
  ['the.css(…) was given null.', "the.css('.berth')", () => the.css(null)],
  ['the.button(…) was given 3.', "the.button('Save')", () => the.button(3)],
  ['the.heading(…) was given the level "1".', '{ level: 2 }', () => the.heading('Tides', { level: '1' })],
  ['the.checkbox(…) was given the checked "yes".', "'mixed'", () => the.checkbox({ checked: 'yes' })],
  ['in(…) was given "Ask".', '.in(the.dialog())', () => the.button('Save').in('Ask')],
  ['nth(…) was given "1".', 'nth(0)', () => the.button('Save').nth('1')],
  ['having(…) was given 4.', "having('Alba')", () => the.row().having(4)],
  ['type(…) was given undefined.', "type(the.field('Draught'), '4.2')", () => type(the.field('Draught'))],
  ["hold('Shift') was given undefined.", "hold('Shift', async () =>", () => hold('Shift')],
  ['select(…) was given undefined.', 'the label of an option', () => select(the.combobox('Berth'))],
  ['drag(…) was given undefined.', '{ by: [40, 0] }', () => drag(the.listitem('Alba'))],
  ['part(…) was given function (anonymous).', "part('fills in", () => part(async () => {})],
  ["part('All') was given undefined.", "part('fills in", () => part('All')],
  ['capture(…) was given undefined.', "capture('filled in')", () => capture()],
  ['reads(…) was given 4.', "reads('Moored')", () => ensure(the.heading()).reads(4)],
  ['hasName(…) was given undefined.', "hasName('Moored')", () => ensure(the.heading()).not.hasName()],
  ['hasValue(…) was given {}.', "hasValue('4.2')", () => ensure(the.field('Draught')).hasValue({})],
  ['counts(…) was given "2".', 'counts(2)', () => ensure(the.row()).counts('2')],
  ['calls(…) was given -1.', 'calls(2)', () => ensure(spy()).calls(-1)],
  ['call(…) was given undefined.', 'call(0)', () => ensure(spy()).call()],
  ['comesBefore(…) was given "C-14".', 'comesBefore(the.row', () => ensure(the.row('B-2')).comesBefore('C-14')],
  ["action('moor') was given undefined.", "action('moor', async", () => action('moor')],
  ['check(…) was given function (anonymous).', "check('is free', async", () => check(async () => {})],
])('%s', (message, example, call) => {
  expect(refused(call)).toMatchObject({ code: 'bad-step', message, remedy: expect.stringContaining(example) });
});

it('numbers may be typed, patterns may be names, and states may be left out', () => {
  expect(refused(() => type(the.field('Draught'), 4.2)).message).toBe('type was called outside a look.');
  expect(String(the.heading(/tides/i, { level: undefined, current: 'page' }))).toBe(
    'the heading /tides/i (current page)',
  );
});

it('the clock says what it can do', () => {
  expect(refused(() => clock.tick(100))).toMatchObject({
    code: 'method-unknown',
    message: 'The clock has no tick().',
    remedy: 'Use one of: advance, set, finish, freeze, release.',
  });
});
