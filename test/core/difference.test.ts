/** Loose comparison, and what differs between values, entry by entry. */
import { describe, expect, it } from 'vitest';
import { differences, differencesInWords, equalEntries, pathInWords } from '../../src/core/value/difference.ts';
import { matchesLoosely } from '../../src/core/value/equal.ts';

class Berth {
  readonly name: string;
  constructor(name: string) {
    this.name = name;
  }
}

describe('a value', () => {
  it.each([
    [{ a: 1, b: 2 }, { a: 1 }],
    [{ a: { b: [{ c: 1, d: 2 }] } }, { a: { b: [{ d: 2 }] } }],
    ['Tramontana', /mont/],
    [{ name: 'Alba' }, { name: /^A/ }],
    [new Berth('C-14'), { name: 'C-14' }],
    [new Set([1, 2, 3]), new Set([2])],
    [new Map([[1, { a: 1, b: 2 }]]), new Map([[1, { a: 1 }]])],
    [{ a: undefined }, { a: undefined }],
    [[], []],
  ])('%j is as far as it goes as %j', (actual, wanted) => {
    expect(matchesLoosely(actual, wanted)).toBe(true);
  });

  it.each([
    [{ a: 1 }, { a: 2 }],
    [{ a: 1 }, { b: undefined }],
    [[1, 2], [1]],
    [[1], [1, 2]],
    ['Alba', 'Al'],
    [new Set([1]), new Set([1, 2])],
    [null, {}],
    [4, { a: 1 }],
    [undefined, null],
  ])('%j is not as %j', (actual, wanted) => {
    expect(matchesLoosely(actual, wanted)).toBe(false);
  });
});

const lines = (actual: unknown, wanted: unknown, loose = false): string[] =>
  differencesInWords(differences(actual, wanted, { contents: new Map(), loose }), pathInWords);

describe('what differs', () => {
  it.each([
    ['nothing', { a: [1, 2] }, { a: [1, 2] }, []],
    ['an entry', { a: 1, b: 2 }, { a: 1, b: 3 }, ['.b: expected 3, received 2']],
    ['an entry deep inside', { a: [{ b: { c: 1 } }] }, { a: [{ b: { c: 2 } }] }, ['.a[0].b.c: expected 2, received 1']],
    ['a missing entry', { a: 1 }, { a: 1, b: 2 }, ['.b: expected 2, but there is nothing']],
    ['an entry too many', { a: 1, b: 2 }, { a: 1 }, ['.b: received 2, which is not expected']],
    ['a name that has to be quoted', { 'full name': 1 }, { 'full name': 2 }, ['["full name"]: expected 2, received 1']],
    ['one left out of a list', [1, 2, 4], [1, 2, 3, 4], ['[2]: expected 3, but there is nothing']],
    ['one put into a list', [0, 1, 2], [1, 2], ['[0]: received 0, which is not expected']],
    ['one less of the same', ['a'], ['a', 'a'], ['[1]: expected "a", but there is nothing']],
    ['one more of the same', ['a', 'a'], ['a'], ['[1]: received "a", which is not expected']],
    ['two in a list', [1, 9, 3, 9], [1, 2, 3, 4], ['[1]: expected 2, received 9', '[3]: expected 4, received 9']],
    ['another kind', { a: [1] }, { a: { b: 1 } }, ['.a: expected {b: 1}, received [1]']],
    ['the value itself', 4, 5, ['expected 5, received 4']],
    ['nothing where a record is wanted', null, { a: 1 }, ['expected {a: 1}, received null']],
  ])('is told: %s', (_, actual, wanted, expected) => {
    expect(lines(actual, wanted)).toEqual(expected);
  });

  it('leaves out what is not spoken of when it is compared loosely', () => {
    expect(lines({ a: 1, b: 2, c: { d: 3, e: 4 } }, { a: 1, c: { d: 5 } }, true)).toEqual([
      '.c.d: expected 5, received 3',
    ]);
  });

  it('shows long texts where they begin to differ', () => {
    const sea = 'sea '.repeat(50);
    const [line] = lines(`${sea}north pier`, `${sea}south pier`);
    expect(line).toMatch(
      /^expected …"[^"]*south pier", received …"[^"]*north pier" \(they differ from character 201 on\)$/,
    );
  });

  it('is complete, however much it is', () => {
    const actual = Array.from({ length: 300 }, (_, i) => ({ i, at: i }));
    expect(
      lines(
        actual,
        actual.map(({ i }) => ({ i, at: -1 })),
      ),
    ).toHaveLength(300);
  });

  it('ends with values that hold themselves', () => {
    const circle = (end: number): object => {
      const value: { own?: unknown; end: number } = { end };
      value.own = value;
      return value;
    };
    expect(lines(circle(1), circle(2))).toContain('.end: expected 2, received 1');
  });

  it('folds what is equal', () => {
    const found = differences({ a: 1, b: 2, c: 3 }, { a: 1, b: 2, c: 4 }, { contents: new Map(), loose: false });
    expect(equalEntries({ a: 1, b: 2, c: 4 }, found)).toBe('2 other entries as expected');
    expect(equalEntries(4, [])).toBeNull();
  });
});
