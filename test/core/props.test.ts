/** Props held against the types that a component declares for them. */
import { describe, expect, it } from 'vitest';
import { contradictions } from '../../src/core/props/contradiction.ts';
import { mistyped } from '../../src/core/props/mistyped.ts';
import { elementsIn, typeOfText } from '../../src/core/props/manifest.ts';
import { callbacksIn, type Prop, type PropType } from '../../src/core/props/type.ts';

const text: PropType = { is: 'text' };
const number: PropType = { is: 'number' };
const value = (one: string | number): PropType => ({ is: 'value', value: one });
const one = (...of: PropType[]): PropType => ({ is: 'one', of });
const told: PropType = { is: 'function', hears: true, text: '() => void' };

/** An object of which entries with a question mark may be left out. */
function object(entries: Record<string, PropType>, name = '', others: PropType | null = null): PropType {
  const props = Object.entries(entries).map(([key, type]): [string, Prop] => [
    key.replace('?', ''),
    { type, isOptional: key.endsWith('?'), isOwn: true },
  ]);
  return { is: 'object', name, entries: Object.fromEntries(props), others };
}

const berth = object({ name: text, depth: number, 'vessel?': one(text, { is: 'null' }) }, 'Berth');
const notice = one(
  object({ kind: value('gale'), force: number }),
  object({ kind: value('calm'), until: text, 'tide?': berth }),
);

class Chart {}
class Sounding extends Date {}

describe('a value and its type', () => {
  it.each<[string, PropType, unknown]>([
    ['anything', { is: 'anything' }, Symbol('x')],
    ['content', { is: 'content' }, undefined],
    ['a text', text, ''],
    ['a number', number, Number.NaN],
    ['a value of several', one(value('calm'), value('gale')), 'gale'],
    ['a list', { is: 'list', of: number }, []],
    ['a row that may end early', { is: 'row', of: [number, text], least: 1 }, [4]],
    ['an object', berth, { name: 'C-14', depth: 3.2 }],
    ['an entry that may be null', berth, { name: 'C-14', depth: 3.2, vessel: null }],
    ['more than is asked for', berth, { name: 'C-14', depth: 3.2, colour: 'red' }],
    ['an optional entry that is undefined', berth, { name: 'C-14', depth: 3.2, vessel: undefined }],
    ['an object without entries', object({}), new Chart()],
    ['entries that are not named', object({}, '', number), { a: 1, b: 2 }],
    ['an instance', { is: 'instance', name: 'Date' }, new Date(0)],
    ['an instance of what is made of it', { is: 'instance', name: 'Date' }, new Sounding(0)],
    ['a function', told, () => 4],
    ['one of several objects', notice, { kind: 'calm', until: 'noon' }],
  ])('agree: %s', (_, type, given) => {
    expect(contradictions(type, given)).toEqual([]);
  });

  it.each<[string, PropType, unknown, string[]]>([
    ['a text', text, 4, ['x: expected a string, got 4']],
    ['a number', number, 'four', ['x: expected a number, got "four"']],
    ['one of several', one(value('calm'), value('gale')), 'storm', ['x: expected "calm" or "gale", got "storm"']],
    ['null', one(text, { is: 'null' }), undefined, ['x: expected a string or null, got undefined']],
    ['an entry of a list', { is: 'list', of: number }, [1, 'b', 3], ['x[1]: expected a number, got "b"']],
    ['no list', { is: 'list', of: number }, { length: 0 }, ['x: expected a list, got {length: 0}']],
    ['too long a row', { is: 'row', of: [number], least: 1 }, [1, 2], ['x: expected a list of 1, got [1, 2]']],
    ['entries', berth, { depth: '3' }, ['x.name is missing', 'x.depth: expected a number, got "3"']],
    ['no object', berth, 'C-14', ['x: expected an object (Berth), got "C-14"']],
    ['nothing', berth, null, ['x: expected an object (Berth), got null']],
    ['entries that are not named', object({}, '', number), { a: 'b' }, ['x.a: expected a number, got "b"']],
    ['an instance', { is: 'instance', name: 'Date' }, '2026-01-01', ['x: expected a Date, got "2026-01-01"']],
    ['a function', told, 'call me', ['x: expected a function, got "call me"']],
    ['what must not be there', one(), 1, ['x: expected nothing, got 1']],
    // The entry that tells the objects apart says which one was meant.
    ['the object that was meant', notice, { kind: 'gale', until: 'noon' }, ['x.force is missing']],
    [
      'deep inside',
      notice,
      { kind: 'calm', until: '', tide: { name: 'C', depth: null } },
      ['x.tide.depth: expected a number, got null'],
    ],
    ['no object of several', notice, 7, ['x: expected an object, got 7']],
  ])('contradict each other: %s', (_, type, given, lines) => {
    expect(contradictions(type, given, 'x')).toEqual(lines);
  });

  it('are told of at most twenty times, however long a list is', () => {
    expect(contradictions({ is: 'list', of: number }, Array(5000).fill('x'))).toHaveLength(20);
  });
});

describe('callbacks', () => {
  const prop = (type: PropType, isOptional = false, isOwn = true): Prop => ({ type, isOptional, isOwn });
  it('are functions that are only told something; those of packages when they must be given', () => {
    const entries = {
      onRelease: prop(told, true),
      onSort: prop(one(told, { is: 'null' })),
      onWheel: prop(told, true, false),
      onBerth: prop(told, false, false),
      rowFor: prop({ is: 'function', hears: false, text: '() => string' }),
      berth: prop(text),
      gone: prop({ is: 'null' }),
    };
    const types: PropType = { is: 'object', name: '', entries, others: null };
    expect(callbacksIn(types)).toEqual(['onRelease', 'onSort', 'onBerth']);
    expect(callbacksIn(one(types, object({ onClose: told })))).toEqual(['onRelease', 'onSort', 'onBerth', 'onClose']);
    expect(callbacksIn({ is: 'anything' })).toEqual([]);
  });
});

describe('types in a manifest of custom elements', () => {
  it.each<[string, PropType]>([
    ['string', { is: 'text' }],
    ['\'calm\' | "gale" | 3', { is: 'one', of: ['calm', 'gale', 3].map((value) => ({ is: 'value', value })) }],
    ['number[]', { is: 'list', of: { is: 'number' } }],
    ['Array<string | null>', { is: 'list', of: { is: 'one', of: [{ is: 'text' }, { is: 'null' }] } }],
    ['(boolean | string)[]', { is: 'list', of: { is: 'one', of: [{ is: 'boolean' }, { is: 'text' }] } }],
    ["'a|b'", { is: 'value', value: 'a|b' }],
    ['(x: string | number) => void', { is: 'anything' }],
    ['', { is: 'anything' }],
    ['|||', { is: 'anything' }],
  ])('%s', (text, type) => {
    expect(typeOfText(text)).toEqual(type);
  });

  it('are those of the module that is asked about, whatever else stands there', () => {
    const declarations = [{ name: 'Light', tagName: 'mole-light', members: [{ kind: 'field', name: 'lit' }, null, 7] }];
    const manifest = { modules: [{ path: './src/light.js', declarations }, { path: 'src/other.js' }, 3] };
    expect([...elementsIn(manifest, 'src/light.js').keys()]).toEqual(['Light', 'mole-light']);
    expect(Object.keys(elementsIn(manifest, 'src/light.js').get('Light')!)).toEqual(['lit']);
    for (const none of [null, 7, { modules: 'x' }, { modules: [{ path: 'src/light.js', declarations: {} }] }])
      expect(elementsIn(none, 'src/light.js').size).toBe(0);
  });
});

describe('props that are nearly called as one that there is', () => {
  const types = object({ 'rate?': number, 'currency?': text, 'maxDepth?': number, 'onChange?': told });

  it('are told, with the one that was meant', () => {
    expect(mistyped(types, { rats: 3 })).toEqual(['rats: there is no such prop, but there is rate']);
    expect(mistyped(types, { Currency: 'NOK', onChagne: () => {} })).toEqual([
      'Currency: there is no such prop, but there is currency',
      'onChagne: there is no such prop, but there is onChange',
    ]);
    expect(mistyped(types, { rate: 1, rats: 2 })).toHaveLength(1);
    expect(mistyped(types, { onMor: () => {} }, ['onMoor'])).toHaveLength(1);
    expect(mistyped(one(types, object({ kind: text })), { kid: 1 })).toEqual([
      'kid: there is no such prop, but there is kind',
    ]);
  });

  it('are let be where they may be meant for something else', () => {
    const props = { rate: 3, 'max-depth': 4, class: 'big', 'data-rate': 1, href: '#', onClick: () => {} };
    expect(mistyped(types, props)).toEqual([]);
    expect(mistyped(types, { onRate: () => {}, chnage: 1 })).toEqual([]);
    expect(mistyped(types, { onMove: () => {} }, ['onMove', 'onMoor'])).toEqual([]);
    expect(mistyped(object({ rate: number }, '', text), { rats: 'x' })).toEqual([]);
    expect(mistyped({ is: 'anything' }, { rats: 3 })).toEqual([]);
  });
});
