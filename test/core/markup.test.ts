import { describe, expect, it } from 'vitest';
import { diffLines, markupLines, perceivedLines } from '../../src/core/moment/markup.ts';
import { className } from '../../src/core/moment/names.ts';
import { emptyMoment, type Moment, type NodeEntry } from '../../src/core/moment/moment.ts';
import { canonicalise } from '../../src/core/moment/canonical.ts';

const linesOf = (moment: Moment): string[] => markupLines(canonicalise(moment, { hash: (text) => text, assets: {} }));

const pageOf = (nodes: Record<string, NodeEntry>, kids: number[]): Moment => ({
  ...emptyMoment(100, 100),
  nodes: {
    1: { tag: 'html', kids: [90, 2] },
    90: { tag: 'head', kids: [91] },
    91: { tag: 'style' },
    2: { tag: 'body', kids },
    ...nodes,
  },
});

describe('markupLines', () => {
  it('gives one element or text a line, indented, with attributes by name', () => {
    const moment = pageOf(
      { 3: { tag: 'button', attrs: { type: 'button', class: 'quiet' }, kids: [4] }, 4: { text: '  Keep \n it ' } },
      [3],
    );
    expect(linesOf(moment)).toEqual(['<button class="quiet" type="button">', '  Keep it']);
  });

  it('leaves out what is not seen: head, styles, scripts, empty text', () => {
    const moment = pageOf(
      { 3: { tag: 'style' }, 4: { tag: 'script' }, 5: { text: ' \n ' }, 6: { tag: 'p' } },
      [3, 4, 5, 6],
    );
    expect(linesOf(moment)).toEqual(['<p>']);
  });

  it('shows live state behind a dot, and shadow trees', () => {
    const moment = pageOf(
      {
        3: { tag: 'input', attrs: { disabled: '' }, state: { value: '2.4' } },
        4: { tag: 'x-flag', shadow: { kids: [5] } },
        5: { text: 'A' },
        6: { tag: 'dialog', state: { dialog: 'modal' } },
        7: { tag: 'input', state: { checked: true } },
      },
      [3, 4, 6, 7],
    );
    expect(linesOf(moment)).toEqual([
      '<input disabled ·value="2.4">',
      '<x-flag>',
      '  #shadow',
      '    A',
      '<dialog ·modal>',
      '<input ·checked=true>',
    ]);
  });

  it('numbers ids that a framework counts up by where they appear, so that what ran before does not show', () => {
    const labelled = (id: string): Moment =>
      pageOf(
        {
          3: { tag: 'label', attrs: { for: id } },
          4: { tag: 'input', attrs: { id, 'aria-describedby': `${id}-wrong` } },
        },
        [3, 4],
      );
    const lines = linesOf(labelled('_r_1_'));
    expect(linesOf(labelled('_r_2f_'))).toEqual(lines);
    expect(lines).toEqual(['<label for="‹id 1›">', '<input aria-describedby="‹id 1›-wrong" id="‹id 1›">']);
  });
});

/** The length of the longest common subsequence, the slow and plain way. */
function longestCommon(a: readonly string[], b: readonly string[]): number {
  if (a.length === 0 || b.length === 0) return 0;
  const rest = a.slice(1);
  if (a[0] === b[0]) return 1 + longestCommon(rest, b.slice(1));
  const at = b.indexOf(a[0]!);
  return Math.max(longestCommon(rest, b), at < 0 ? 0 : 1 + longestCommon(rest, b.slice(at + 1)));
}

describe('diffLines', () => {
  const from = ['<table>', '  <tr>', '    Berth', '    Water', '</table>'];

  it('finds nothing between equal lists', () => {
    expect(diffLines(from, [...from])).toEqual([]);
  });

  it('tells an added line with its number in the new text', () => {
    expect(diffLines(from, ['<banner>', ...from])).toEqual([{ side: 'now', line: 1, text: '<banner>' }]);
  });

  it('tells a changed line as lost and added', () => {
    expect(diffLines(from, from.with(2, '    Mooring'))).toEqual([
      { side: 'baseline', line: 3, text: '    Berth' },
      { side: 'now', line: 3, text: '    Mooring' },
    ]);
  });

  it('finds the shortest script through moved surroundings', () => {
    const changes = diffLines(['a', 'b', 'c', 'a', 'b', 'b', 'a'], ['c', 'b', 'a', 'b', 'a', 'c']);
    expect(changes.filter(({ side }) => side === 'baseline')).toHaveLength(3);
    expect(changes.filter(({ side }) => side === 'now')).toHaveLength(2);
  });

  it('leads from one text to the other, whatever they are', () => {
    let seed = 7;
    const chance = (n: number): number => {
      seed = (seed * 1103515245 + 12345) & 0x7fffffff;
      return (seed >> 9) % n;
    };
    for (let round = 0; round < 60; round++) {
      const a = Array.from({ length: chance(12) }, () => 'abcd'[chance(4)]!);
      const b = Array.from({ length: chance(12) }, () => 'abcd'[chance(4)]!);
      const changes = diffLines(a, b);
      const lost = new Set(changes.filter(({ side }) => side === 'baseline').map(({ line }) => line - 1));
      const kept = a.filter((_, i) => !lost.has(i));
      const added = changes.filter(({ side }) => side === 'now').sort((x, y) => x.line - y.line);
      for (const { line, text } of added) kept.splice(line - 1, 0, text);
      expect(kept).toEqual(b);
      expect(changes).toHaveLength(a.length + b.length - 2 * longestCommon(a, b));
    }
  });

  it('tells all lines when more than the limit differ', () => {
    const a = Array.from({ length: 30 }, (_, i) => `a${i}`);
    const b = Array.from({ length: 30 }, (_, i) => `b${i}`);
    expect(diffLines(a, b, 10)).toHaveLength(60);
  });
});

describe('names that are made up', () => {
  it.each([
    ['css-1a2b3c-MuiButton-root', 'css-‹›-MuiButton-root'],
    ['css-abcdefg', 'css-‹›'],
    ['sc-bdVaJa', 'sc-‹›'],
    ['makeStyles-root-1234567', 'makeStyles-root-‹›'],
    ['m_a513464', 'm_‹›'],
    ['_card_1x2y3_41', '_card_‹›'],
    ['svelte-1tky8bj', ''],
    ['col-md-6', 'col-md-6'],
    ['text-2xl', 'text-2xl'],
    ['w-[320px]', 'w-[320px]'],
    ['MuiButton-root', 'MuiButton-root'],
    ['berth-card', 'berth-card'],
  ])('class %s reads %s', (written, reads) => expect(className(written)).toBe(reads));

  it('ids with a number are told by their order, wherever they are referred to', () => {
    const labelled = (label: string, clip: string): Moment =>
      pageOf(
        {
          3: { tag: 'label', attrs: { id: label, for: `${label}-field` } },
          4: { tag: 'input', attrs: { id: `${label}-field`, 'aria-labelledby': `${label} title` } },
          5: { tag: 'svg', attrs: { style: `clip-path: url("#${clip}"); color: red` }, kids: [6] },
          6: { tag: 'clipPath', attrs: { id: clip } },
        },
        [3, 4, 5],
      );
    expect(linesOf(labelled('mui-7', 'recharts1-clip'))).toEqual(linesOf(labelled('mui-12', 'recharts35-clip')));
    expect(linesOf(labelled('mui-7', 'c1'))[1]).toBe('<input aria-labelledby="‹name 1› title" id="‹name 2›">');
    expect(linesOf(pageOf({ 3: { tag: 'p', attrs: { id: 'title' } } }, [3]))).toEqual(['<p id="title">']);
  });

  it('are told by their order where libraries keep them for themselves, and as gone where nothing has that id', () => {
    const marked = (attrs: Record<string, string>): string =>
      linesOf(
        pageOf(
          { 3: { tag: 'p', attrs }, 4: { tag: 'b', attrs: { 'cdk-host': 'ng-9', name: 'radio-group-4' } } },
          [3, 4],
        ),
      ).join();
    expect(marked({ 'cdk-host': 'ng-1', 'data-calendar': 'mat-datepicker-0' })).toBe(
      '<p cdk-host="ng-‹1›" data-calendar="mat-datepicker-‹1›">,<b cdk-host="ng-‹2›" name="radio-group-‹1›">',
    );
    expect(marked({ 'data-calendar': 'mat-datepicker-4', class: 'col-4 mat-datepicker-4-backdrop' })).toContain(
      '<p class="col-4 mat-datepicker-‹1›-backdrop" data-calendar="mat-datepicker-‹1›">',
    );
    expect(marked({ 'cdk-host': 'ng-9' })).toContain('<p cdk-host="ng-‹1›">,<b cdk-host="ng-‹1›"');
    expect(marked({ 'aria-controls': 'menu-panel-3 title' })).toContain('<p aria-controls="‹gone› title">');
    // What is written by hand stays: by numbers alone, by marks for tests, in what people perceive.
    const byHand = { 'data-row': '3', 'data-testid': 'row-3', title: 'berth-3' };
    expect(marked(byHand)).toContain('<p data-row="3" data-testid="row-3" title="berth-3">');
  });

  it('never share a name with those that the canonical form has named', () => {
    const both = pageOf(
      { 3: { tag: 'p', attrs: { id: 'mui-7' } }, 4: { tag: 'p', attrs: { id: '_r_1_', 'aria-details': 'mui-7' } } },
      [3, 4],
    );
    expect(linesOf(both)).toEqual(['<p id="‹name 1›">', '<p aria-details="‹name 1›" id="‹id 1›">']);
  });

  it('marks of scoped styles are left out, and style attributes are declarations', () => {
    const styled = (attrs: Record<string, string>): string => linesOf(pageOf({ 3: { tag: 'p', attrs } }, [3])).join();
    expect(styled({ 'data-v-7ba5bd90': '', '_ngcontent-abc-c12': '', class: 'svelte-1tky8bj' })).toBe('<p>');
    expect(styled({ style: 'color: red; top:1px' })).toBe(styled({ style: 'top: 1px; color: red;' }));
    expect(styled({ style: '' })).toBe('<p>');
  });
});

describe('what is perceived beside the picture', () => {
  it('is roles, names, states and texts; not classes, styles, ids, or elements that only hold others', () => {
    expect(
      perceivedLines([
        '<div class="a" id="b">',
        '  <button aria-pressed="true" class="c" data-x="1" style="top: 0" ·checked=true>',
        '    Save',
        '  <span>',
        '  <div role="alert">',
        '  <img alt="Flag" src="/a.png">',
      ]),
    ).toEqual(['<button aria-pressed="true" ·checked=true>', 'Save', '<div role="alert">', '<img alt="Flag">']);
  });

  it('leaves out what is not rendered', () => {
    const moment = pageOf({ 3: { tag: 'p', kids: [4] }, 4: { text: 'closed' }, 5: { tag: 'p' } }, [3, 5]);
    const canonical = canonicalise(moment, { hash: (text) => text, assets: {}, unseen: new Set([3]) });
    expect(markupLines(canonical)).toEqual(['<p>']);
  });
});
