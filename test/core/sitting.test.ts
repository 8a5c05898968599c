/** Live looks, as far as they are computed: where they part from what was recorded, and which lines are kept. */
import { describe, expect, it } from 'vitest';
import { blankOf, inputFor, partsOf } from '../../src/core/props/input.ts';
import type { PropType } from '../../src/core/props/type.ts';
import { keptLines } from '../../src/core/sitting/lines.ts';
import { partedFrom } from '../../src/core/sitting/parted.ts';
import type { Stop, TriedLine } from '../../src/core/sitting/sitting.ts';
import type { Moment } from '../../src/core/moment/moment.ts';
import type { Step, Timeline } from '../../src/core/timeline/timeline.ts';
import { emptyTrace, type Trace } from '../../src/core/timeline/trace.ts';
import { codeOf } from '../../src/core/value/code.ts';

const moment = (text: string, scroll = 0): Moment => ({
  root: 1,
  nodes: { 1: { tag: 'html', kids: [2] }, 2: { tag: 'body', kids: [3] }, 3: { text } },
  sheets: {},
  view: { width: 9, height: 9, scroll: [0, scroll], hover: [], focus: null, focusVisible: false, sheets: [] },
});
const step = (index: number, title: string, tried = false): Step => ({
  index,
  kind: 'action',
  title,
  parent: null,
  at: 0,
  took: 0,
  outcome: 'passed',
  before: 0,
  after: 0,
  ...(tried && { tried: true }),
});
const recorded = (text: string): Timeline => ({
  steps: [step(0, 'mount'), step(1, 'click'), step(2, 'press')],
  marks: [],
  taken: [0],
  base: moment(text),
  patches: [],
  assets: {},
  source: null,
});
const trace = (base: Moment, ...steps: Step[]): Trace => ({ ...emptyTrace(), steps, base });
const stop = (number: number, index: number | null): Stop => ({
  why: index === null ? 'end' : 'reached',
  number,
  step: index,
  moment: 0,
  problem: null,
});
const none = { before: {}, now: {} };
const parted = (now: Trace, at: Stop, wanted = 1) =>
  partedFrom(recorded('calm'), now, at, wanted, none, (text) => text);

/** A moment whose head links to sheets. */
function linked(...urls: string[]): Moment {
  const shown = moment('calm');
  const ids = urls.map((_, i) => 50 + i);
  const links = urls.map((_, i) => [50 + i, { tag: 'link', attrs: { rel: 'stylesheet' }, sheet: 60 + i }]);
  const root = shown.nodes[shown.root] as { tag: string; kids?: number[] };
  return {
    ...shown,
    nodes: {
      ...shown.nodes,
      ...Object.fromEntries(links),
      [shown.root]: { ...root, kids: [...(root.kids ?? []), ...ids] },
    },
    sheets: { ...shown.sheets, ...Object.fromEntries(urls.map((url, i) => [60 + i, { url }])) },
  };
}

describe('where a live look parts from what was recorded', () => {
  const steps = [step(0, 'mount'), step(1, 'click')];

  it('is nowhere, when the page shows the same before the same step', () => {
    expect(parted(trace(moment('calm'), ...steps), stop(1, 1))).toBeNull();
    // Steps that were tried count for none.
    expect(
      parted(trace(moment('calm'), step(0, 'mount'), step(1, 'hover', true), step(2, 'click')), stop(1, 2)),
    ).toBeNull();
    expect(parted(trace(moment('calm'), ...steps), stop(3, null), 3)).toBeNull();
  });

  it('is told by lines of markup, by the step that came instead, or by the last one that came', () => {
    expect(parted(trace(moment('gale'), ...steps), stop(1, 1))).toEqual({
      what: 'The page shows something else than was recorded.',
      lines: [expect.stringMatching(/^− .*calm/), expect.stringMatching(/^\+ .*gale/)],
    });
    expect(parted(trace(moment('calm', 40), ...steps), stop(1, 1))?.what).toMatch(/same markup .* scrolled/);
    expect(parted(trace(moment('calm'), step(0, 'mount'), step(1, 'drag')), stop(1, 1))?.what).toMatch(
      /“drag” instead of “click”/,
    );
    expect(parted(trace(moment('calm'), step(0, 'mount')), stop(1, null), 2)?.what).toMatch(/stopped at “mount”/);
  });
});

describe('sheets that were put into other files', () => {
  const steps = [step(0, 'mount'), step(1, 'click')];
  const texts = {
    a: 'p { top: 0 }\n/*1*/',
    b: 'b { top: 1px }',
    ab: 'p { top: 0 }\nb { top: 1px }\n/*1*/',
    c: 'b { top: 2px }',
  };
  const from = (...urls: string[]) =>
    partedFrom(
      { ...recorded('calm'), base: linked('a', 'b') },
      trace(linked(...urls), ...steps),
      stop(1, 1),
      1,
      { before: texts, now: texts },
      (text) => text,
    );

  it('are the same while they say the same', () => {
    expect(from('a', 'b')).toBeNull();
    expect(from('ab')).toBeNull();
    expect(from('a', 'c')?.what).toMatch(/same markup .* styled/);
    expect(from('a')?.what).toMatch(/styled/);
  });
});

describe('lines that are kept', () => {
  it('held and did something, and wait for what they do', () => {
    const line = (text: string, more: Partial<TriedLine> = {}): TriedLine => ({
      text,
      value: null,
      problem: null,
      steps: 1,
      ...more,
    });
    const problem = { code: 'internal', message: 'no', remedy: '' } as const;
    expect(
      keptLines([
        line("click(the.button('Open'))"),
        line('await hover(the.dialog());'),
        line('props.name', { steps: 0, value: '"C-14"' }),
        line('click(the.dialog())', { problem }),
        line('const name = 1; await click(the.text(name))'),
      ]),
    ).toEqual([
      "await click(the.button('Open'));",
      'await hover(the.dialog());',
      'const name = 1; await click(the.text(name));',
    ]);
  });
});

describe('values as code', () => {
  it.each<[unknown, string | null]>([
    ["it's\n", "'it\\'s\\n'"],
    [[1, null, true, undefined], '[1, null, true, undefined]'],
    [{ name: 'C-14', 'de-pth': { m: 3 } }, "{ name: 'C-14', 'de-pth': { m: 3 } }"],
    [{}, '{}'],
    [Number.NaN, null],
    [new Date(0), null],
    [{ on: () => {} }, null],
    ['x'.repeat(300), null],
  ])('%s', (value, code) => {
    expect(codeOf(value)).toBe(code);
  });
});

describe('rows of a list', () => {
  const text: PropType = { is: 'text' };
  const entry = (type: PropType, isOptional = false) => ({ type, isOptional, isOwn: true });
  const fee: PropType = {
    is: 'object',
    name: 'Fee',
    entries: { label: entry(text), price: entry({ is: 'number' }), note: entry(text, true) },
    others: null,
  };

  it('begin as the least that their type says, and have an input for each part', () => {
    expect(inputFor('fees', { is: 'list', of: fee }, undefined)).toEqual({ by: 'rows', of: fee });
    expect(blankOf(fee)).toEqual({ label: '', price: 0 });
    expect(blankOf({ is: 'one', of: [{ is: 'null' }, { is: 'value', value: 'calm' }] })).toBe('calm');
    expect(partsOf(fee)?.map(([name]) => name)).toEqual(['label', 'price', 'note']);
    expect(partsOf({ ...fee, entries: { deep: entry(fee) } })).toBeNull();
    expect(partsOf(text)).toBeNull();
  });
});
