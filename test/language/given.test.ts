/** What the words of scripts refuse before any page is asked: with what they were given, and an example. */
import { expect, it } from 'vitest';
import type { Problem } from '../../src/core/problem/problem.ts';
import * as sguardo from '../../src/language/index.ts';

// Look files may be JavaScript, and types may be cast away.
// biome-ignore lint/suspicious/noExplicitAny: the compiler would refuse what is meant here
const { the, ensure, spy, action, check, part, capture, clock, answer, world } = sguardo as any;
// biome-ignore lint/suspicious/noExplicitAny: the same
const { type, hold, select, drag, focus, clear, press, upload, paste, resize, unhover } = sguardo as any;

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
  ['the.button(…) was given its name as an entry.', "the.button('Save').", () => the.button({ name: 'Save' })],
  [
    'the.tab(…) was given its name as an entry.',
    'the.tab(/Da/, { selected: true }).',
    () => the.tab({ name: /Da/, selected: true }),
  ],
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
  ['press(…) was given undefined.', "press('Enter')", () => press(the.field('Draught'))],
  ['hasAttribute(…) was given undefined.', "hasAttribute('aria-invalid'", () => ensure(the.row()).hasAttribute()],
  ['hasAttribute(…) was given 4.', "hasAttribute('rows', '4')", () => ensure(the.row()).hasAttribute('rows', 4)],
  ['hasStyle(…) was given {color: "red"}.', "hasStyle('color'", () => ensure(the.row()).hasStyle({ color: 'red' })],
  ['hasRole(…) was given true.', "hasRole('button')", () => ensure(the.row()).hasRole(true)],
  ['ensure(…) was given the options 5000.', '{ patience: 5000 }', () => ensure(the.row(), 5000)],
  ['ensure.eventually(…) was given 2.', 'ensure.eventually(() =>', () => ensure.eventually(2)],
  ['capture(…) was given the options true.', '{ settle: 0 }', () => capture('filled in', true)],
  ['spy(…) was given true.', 'spy(() => true)', () => spy(true)],
  ['clock.advance(…) was given "300".', 'clock.advance(300)', () => clock.advance('300')],
  ['clock.set(…) was given "noon".', "clock.set('2026-", () => clock.set('noon')],
  ['world(…) was given "offline".', 'world({ online: false })', () => world('offline')],
  ["answer('/api/tides') was given the reply undefined.", '{ json: [] }', () => answer('/api/tides')],
  ["action('moor') was given undefined.", "action('moor', async", () => action('moor')],
  ['check(…) was given function (anonymous).', "check('is free', async", () => check(async () => {})],
])('%s', (message, example, call) => {
  expect(refused(call)).toMatchObject({ code: 'bad-step', message, remedy: expect.stringContaining(example) });
});

it('names the method that is not there when something is asked of it in turn', () => {
  expect(refused(() => ensure(the.button('Save')).is.visible()).message).toBe('There is no check is().');
  expect(refused(() => ensure(the.button('Save')).not.has.a.value(2)).message).toBe('There is no check has().');
  expect(refused(() => the.row('C-14').cells.first()).message).toBe('A target has no cells().');
  // Functions have these of their own.
  for (const own of ['length', 'name', 'call', 'bind'])
    expect(refused(() => ensure([1, 2]).is[own](2)).message).toBe('There is no check is().');
});

const row = the.row();

it.each([
  ['isVisible(…) takes nothing, but was given false.', 'ensure(…).not.isVisible()', () => ensure(row).isVisible(false)],
  ['isAbsent(…) takes nothing, but was given true.', 'Leave out true.', () => ensure(row).not.isAbsent(true)],
  [
    'isFocused(…) takes nothing, but was given {patience: 90}.',
    'ensure(target, { patience: 5000 })',
    () => ensure(row).isFocused({ patience: 90 }),
  ],
  ['reads(…) takes 1 value, but was given "A", "B".', 'Leave out "B".', () => ensure(row).reads('A', 'B')],
  ['wasCalled(…) takes nothing, but was given 2.', 'calls(2)', () => ensure(spy()).wasCalled(2)],
  ['ensure(…) takes 2 values, but was given 1, {}, 3.', 'Leave out 3.', () => ensure(1, {}, 3)],
  ['unhover(…) takes nothing, but was given 1.', 'Leave out 1.', () => unhover(1)],
  ['clear(…) takes 1 value, but was given 1, "".', 'Leave out "".', () => clear(1, '')],
  ['press(…) takes 2 values, but was given "a", {}, 3.', 'Leave out 3.', () => press('a', {}, 3)],
  ['paste(…) takes 1 value, but was given "a", "b".', 'paste({ text, html })', () => paste('a', 'b')],
  ['resize(…) takes 1 value, but was given 360, 640.', 'resize([360, 640])', () => resize(360, 640)],
  ['select(…) takes 2 values, but was given 1, "A", "B".', "['C-14', 'C-15']", () => select(1, 'A', 'B')],
  ['upload(…) takes 2 values, but was given 1, "a", "b".', '[first, second]', () => upload(1, 'a', 'b')],
  ['capture(…) takes 2 values, but was given "a", {}, 3.', 'Leave out 3.', () => capture('a', {}, 3)],
  ['world(…) takes 1 value, but was given {}, {}.', 'Leave out {}.', () => world({}, {})],
  ['clock.finish(…) takes nothing, but was given 1.', 'Leave out 1.', () => clock.finish(1)],
])('refuses what it would not look at: %s', (message, way, call) => {
  expect(refused(call)).toMatchObject({ code: 'bad-step', message, remedy: expect.stringContaining(way) });
});

it('refuses options that nothing looks at', () => {
  expect(refused(() => ensure(row, { timeout: 90 }))).toMatchObject({
    code: 'look-entry',
    message: 'What ensure(…) was given has no entry “timeout”.',
    remedy: expect.stringContaining('patience'),
  });
  expect(refused(() => capture('all', { wait: 90 })).message).toBe('What capture(…) was given has no entry “wait”.');
});

it('takes as many arguments of a call as there are, and several targets by a list', () => {
  expect(refused(() => ensure(spy()).wasCalledWith(1, 2, 3)).message).toBe('ensure was called outside a look.');
  expect(refused(() => focus(row, the.button('Save')))).toMatchObject({
    message: 'focus(…) takes 1 value, but was given the row, the button “Save”.',
    remedy: 'Call it once for each.',
  });
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
