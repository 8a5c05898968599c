import { expect, test } from 'vitest';
import { parseSheet, parseStyle, writeItems } from '../../../src/core/cause/css.ts';
import { mergeSheets, type SheetDifference, writeMerged } from '../../../src/core/cause/sheet.ts';

/** The differences of two sheets, and the sheet with some of them. */
function merged(before: string, now: string) {
  const found: SheetDifference[] = [];
  const items = mergeSheets(before, now, (difference) => found.push(difference) - 1);
  const plain = (css: string): string => writeItems(parseSheet(css));
  const write = (...chosen: number[]): string => plain(writeMerged(items, (edit) => chosen.includes(edit)));
  return { found, write, plain, all: () => write(...found.keys()) };
}

test('sheets are read as rules, with nesting, conditions and custom properties that hold blocks', () => {
  const css = `/* berths */ @import "a.css"; :root { --gap: 4px; --box: { a: b; c: d } }
    @media (min-width: 40em) { .a:is(.b, .c)::before { content: "; } {"; color: RED !important; & > i { top: 0 } } }
    @layer base, kit; .broken { color: `;
  const [at, root, media, layer, broken] = parseSheet(css);
  expect(at).toEqual({ kind: 'statement', text: '@import "a.css"' });
  expect(root).toMatchObject({ prelude: ':root', items: [{ property: '--gap', value: '4px' }, { property: '--box' }] });
  expect(media).toMatchObject({
    prelude: '@media (min-width: 40em)',
    items: [
      {
        prelude: '.a:is(.b, .c)::before',
        items: [
          { property: 'content', value: '"; } {"' },
          { property: 'color', value: 'RED !important' },
          { kind: 'rule', prelude: '& > i', items: [{ property: 'top', value: '0' }] },
        ],
      },
    ],
  });
  expect(layer).toEqual({ kind: 'statement', text: '@layer base, kit' });
  expect(broken).toMatchObject({ prelude: '.broken', items: [{ property: 'color', value: '' }] });
});

test('what is written is read as the same rules', () => {
  const css = '.a{color:red;padding:1px 2px}@media print{.b{top:0}}.c{&:hover{left:calc(1px + (2px * 3))}}';
  expect(parseSheet(writeItems(parseSheet(css)))).toEqual(parseSheet(css));
});

test('whatever is no sheet is read to its end', () => {
  for (const css of [
    '}}}',
    '{',
    '{{{',
    ';;;',
    'a',
    '@',
    '--x',
    '"',
    'a{b',
    '</style>',
    '('.repeat(200),
    '{'.repeat(200),
  ])
    expect(() => parseSheet(css)).not.toThrow();
});

test('a style attribute is read with addresses that hold semicolons', () =>
  expect(parseStyle('background: url("data:image/png;base64,AA=="); --x: 1')).toEqual([
    { kind: 'declaration', property: 'background', value: 'url("data:image/png;base64,AA==")' },
    { kind: 'declaration', property: '--x', value: '1' },
  ]));

test('differences are declarations, rules, selectors and conditions', () => {
  const { found } = merged(
    '.card { padding: 12px; color: red } .old { top: 0 } @media (max-width: 600px) { .card { margin: 0; left: 0 } }',
    '.card { padding: 14px; color: red; gap: 1px } @media (max-width: 700px) { .card { margin: 0; ' +
      'left: 0 } } .new { a: b }',
  );
  expect(found).toEqual([
    { what: 'declaration', within: ['.card'], property: 'padding', before: '12px', now: '14px' },
    { what: 'declaration', within: ['.card'], property: 'gap', before: null, now: '1px' },
    { what: 'rule', within: ['.old'], property: null, before: '.old {\ntop: 0;\n}', now: null },
    {
      what: 'selector',
      within: [],
      property: null,
      before: '@media (max-width: 600px)',
      now: '@media (max-width: 700px)',
    },
    { what: 'rule', within: ['.new'], property: null, before: null, now: '.new {\na: b;\n}' },
  ]);
});

test('each difference can be chosen by itself, none is the earlier sheet and all are the later one', () => {
  const before = '.a { top: 0; left: 1px } .b { color: red } .c { x: y }';
  const now = '.z { q: r } .a { top: 2px; left: 1px } .b { color: blue; gap: 0 }';
  const { found, write, plain, all } = merged(before, now);
  expect(write()).toBe(plain(before));
  expect(all()).toBe(plain(now));
  const color = found.findIndex(({ property }) => property === 'color');
  expect(write(color)).toBe(plain(before.replace('red', 'blue')));
});

test('a sheet of a thousand rules is merged in a moment, wherever it has changed', () => {
  const rules = Array.from({ length: 2000 }, (_, i) => `.r${i} { top: ${i}px; left: 0 }`);
  const now = rules.with(700, '.r700 { top: 1px; left: 0 }').toSpliced(20, 1).toSpliced(1500, 0, '.new { top: 0 }');
  const { found, plain, all } = merged(rules.join('\n'), now.join('\n'));
  expect(found).toHaveLength(3);
  expect(all()).toBe(plain(now.join('\n')));
});
