import { expect, test } from 'vitest';
import { foldEqual, markupRows } from '../../src/core/moment/markupRows.ts';

const table = (fees: readonly string[]): string[] => [
  '<table>',
  '  <caption>',
  '    Fees',
  ...fees.flatMap((fee) => ['  <tr>', '    <td>', `      ${fee}`]),
  '<p>',
  '  End',
];

const shown = (before: readonly string[], now: readonly string[]): string[] =>
  foldEqual(markupRows(before, now)).map((row) =>
    row.side === 'fold'
      ? `… ${row.rows.length}`
      : `${{ both: ' ', baseline: '−', now: '+' }[row.side]} ${'  '.repeat(row.depth)}${row.text}`,
  );

test('what is equal is folded; what differs stays with everything it lies in', () => {
  expect(shown(table(['mooring', 'water', 'power']), table(['mooring', 'fresh water', 'power']))).toEqual([
    '  <table>',
    '… 5',
    '    <tr>',
    '      <td>',
    '−       water',
    '+       fresh water',
    '… 5',
  ]);
});

test('a whole element that came has no equal lines in it', () => {
  expect(shown(['<p>', '  Free'], ['<b>', '  Gale', '<p>', '  Free'])).toEqual([
    '+ <b>',
    '+   Gale',
    '  <p>',
    '    Free',
  ]);
});

test('what is equal as a whole is one fold; two lines are not worth one', () => {
  expect(shown(table(['power']), table(['power']))).toEqual(['… 8']);
  expect(shown(['<p>', '  Free'], ['<p>', '  Free'])).toEqual(['  <p>', '    Free']);
});

test('every line of both sides is there once, in the order of its side', () => {
  const before = table(['a', 'b', 'c', 'd']);
  const now = table(['b', 'x', 'd', 'e']);
  const rows = markupRows(before, now);
  const side = (other: string): string[] =>
    rows.filter((row) => row.side !== other).map(({ depth, text }) => '  '.repeat(depth) + text);
  expect(side('now')).toEqual(before);
  expect(side('baseline')).toEqual(now);
});
