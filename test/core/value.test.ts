/** Equality as a person sees it, and values in words. */
import { describe, expect, it } from 'vitest';
import { blobsIn, equal, matches } from '../../src/core/value/equal.ts';
import { errorInWords, show } from '../../src/core/value/show.ts';

class Berth {
  readonly #secret: number;
  constructor(secret: number) {
    this.#secret = secret;
  }
  read(): number {
    return this.#secret;
  }
}
class Gale extends Error {
  override name = 'Gale';
}
const circle = (end: unknown): unknown => {
  const value: { self?: unknown; end: unknown } = { end };
  value.self = [value];
  return value;
};
const named = (text: string, more: object): Error => Object.assign(new Error(text), more);

/** Each pair twice made; equal to itself and to its like, and to no other. */
const kinds: Record<string, () => unknown[]> = {
  numbers: () => [0, -0, 1, Number.NaN, 1n, '1', true, null, undefined],
  records: () => [{}, { a: 1 }, { a: 2 }, { b: 1 }, { a: undefined }, { a: 1, b: 2 }, { [Symbol.for('a')]: 1 }],
  lists: () => [[], [1], [2], [1, 2], [2, 1], [[1]], [undefined], Object.assign([1], { x: 1 })],
  dates: () => [new Date(0), new Date(1), new Date(Number.NaN)],
  patterns: () => [/a/, /a/g, /b/],
  errors: () => [
    new Error('a'),
    new Error('b'),
    new TypeError('a'),
    new Gale('a'),
    named('a', { code: 1 }),
    new Error('a', { cause: 1 }),
  ],
  addresses: () => [new URL('http://a/'), new URL('http://b/'), new URLSearchParams('a=1'), new URLSearchParams('a=2')],
  maps: () => [
    new Map(),
    new Map([[1, 2]]),
    new Map([[1, 3]]),
    new Map([[{ a: 1 }, 2]]),
    new Map([
      [1, 2],
      [2, 3],
    ]),
  ],
  sets: () => [new Set(), new Set([1]), new Set([2]), new Set([{ a: 1 }]), new Set([1, 2])],
  bytes: () => [
    new Uint8Array([1, 2]),
    new Uint8Array([1, 3]),
    new Int8Array([1, 2]),
    new Uint8Array([1, 2]).buffer,
    new DataView(new Uint8Array([1]).buffer),
  ],
  boxes: () => [Object(1), Object(2), Object('1'), Object(true), Object(1n)],
  forms: () => {
    const form = (value: string): FormData => {
      const made = new FormData();
      made.set('a', value);
      return made;
    };
    return [form('1'), form('2'), new Headers({ a: '1' }), new Headers({ a: '2' })];
  },
  circles: () => [circle(1), circle(2)],
};

describe('equal', () => {
  it.each(Object.entries(kinds))('tells %s apart by what they are', (_name, make) => {
    const [ones, others] = [make(), make()];
    for (const [i, one] of ones.entries())
      for (const [j, other] of others.entries()) expect([i, j, equal(one, other)]).toEqual([i, j, i === j]);
  });

  it('does not care for the order of maps and sets', () => {
    expect(equal(new Set([1, { a: 2 }]), new Set([{ a: 2 }, 1]))).toBe(true);
    expect(
      equal(
        new Map([
          [1, 'a'],
          [2, 'b'],
        ]),
        new Map([
          [2, 'b'],
          [1, 'a'],
        ]),
      ),
    ).toBe(true);
    expect(equal(new Set([{ a: 1 }, { a: 1 }]), new Set([{ a: 1 }, { a: 2 }]))).toBe(false);
  });

  it('takes records for what they hold, whoever made them', () => {
    expect(equal({ a: 1 }, Object.assign(Object.create(null), { a: 1 }))).toBe(true);
  });

  it('knows objects of a class only by themselves: what they hold may be private', () => {
    const berth = new Berth(1);
    expect(equal(berth, berth)).toBe(true);
    expect(equal(new Berth(1), new Berth(2))).toBe(false);
    expect(equal(new Berth(1), new Berth(1))).toBe(false);
    for (const make of [() => new WeakMap(), () => Promise.resolve(), () => new AbortController(), () => () => {}])
      expect(equal(make(), make())).toBe(false);
  });

  it('compares files by name, type and content', () => {
    const file = (text: string, name = 'a', type = 'text/plain'): File => new File([text], name, { type });
    const contents = (...files: [Blob, string][]) =>
      new Map(files.map(([one, text]) => [one, new TextEncoder().encode(text)]));
    const [a, b, c] = [file('x'), file('x'), file('y')];
    const known = contents([a, 'x'], [b, 'x'], [c, 'y']);
    expect(equal(a, b, known)).toBe(true);
    expect(equal(a, c, known)).toBe(false);
    expect(equal(a, file('x'), known)).toBe(false);
    for (const other of [file('x', 'b'), file('x', 'a', 'text/html'), new Blob(['x'], { type: 'text/plain' })])
      expect(equal(a, other, contents([a, 'x'], [other, 'x']))).toBe(false);
    expect([...blobsIn({ list: [a], map: new Map([[1, b]]) })]).toEqual([a, b]);
  });

  it('lets a pattern stand for a text, also inside, and keeps none in mind', () => {
    const moored = /moored/gy;
    for (let i = 0; i < 3; i++) expect([equal('moored', moored), matches(moored, 'moored')]).toEqual([true, true]);
    expect(matches(/C-14/y, 'moored at C-14')).toBe(true);
    expect(equal({ state: 'moored at C-14' }, { state: /C-\d+$/ })).toBe(true);
    expect(equal({ state: 'adrift' }, { state: /C-\d+$/ })).toBe(false);
    expect(equal(['a', 1], [/a/, /1/])).toBe(false);
  });
});

describe('show', () => {
  it.each([
    [{ a: [1, 'b'], c: null }, '{a: [1, "b"], c: null}'],
    [new Map([['a', 1]]), 'Map[["a", 1]]'],
    [new URL('http://a/b'), 'URL(http://a/b)'],
    [new File(['xy'], 'a.txt', { type: 'text/plain' }), 'File("a.txt", 2 bytes, text/plain)'],
    [new Uint8Array(3), 'Uint8Array(3 bytes)'],
    [circle(1), '{end: 1, self: [(circular)]}'],
    [
      {
        get broken() {
          throw new Error('x');
        },
      },
      '(a value that cannot be shown)',
    ],
  ])('%#', (value, text) => expect(show(value)).toBe(text));

  it('says what was thrown, whatever it is', () => {
    expect(errorInWords(new TypeError('no knot'))).toBe('TypeError: no knot');
    expect(errorInWords('text')).toBe('text');
    expect(errorInWords(circle(1))).toBe('{end: 1, self: [(circular)]}');
    expect(
      errorInWords(
        Object.create(null, {
          toString: {
            get: () => {
              throw new Error('x');
            },
          },
        }),
      ),
    ).toBe('{}');
    expect(errorInWords(undefined)).toBe('undefined');
  });
});
