import { describe, expect, test } from 'vitest';
import { effectsOf, type StyleChange, type Winner, winnerText } from '../../../src/core/cause/effect.ts';
import { selectorsIn, specificityOf } from '../../../src/core/cause/specificity.ts';
import { usersOf } from '../../../src/core/cause/users.ts';
import { el, scene } from '../../support/scene.ts';

// The figures are those of Selectors Level 4, section 17, and its examples.
test.each([
  ['*', [0, 0, 0]],
  ['LI', [0, 0, 1]],
  ['UL LI', [0, 0, 2]],
  ['UL OL+LI', [0, 0, 3]],
  ['H1 + *[REL=up]', [0, 1, 1]],
  ['UL OL LI.red', [0, 1, 3]],
  ['LI.red.level', [0, 2, 1]],
  ['#x34y', [1, 0, 0]],
  ['#s12:not(FOO)', [1, 0, 1]],
  ['.foo :is(.bar, #baz)', [1, 1, 0]],
  [':is(em, #foo)', [1, 0, 0]],
  ['.qux:where(em, #foo#bar#baz)', [0, 1, 0]],
  [':nth-child(even of li, .item)', [0, 2, 0]],
  [':nth-child(2n+1)', [0, 1, 0]],
  [':not(em, strong#foo)', [1, 0, 1]],
  ['a:hover::before', [0, 1, 2]],
  ['p:first-line', [0, 0, 2]],
  [':host(.open) slot', [0, 2, 1]],
  ['svg|a[href="#a:b(c"]', [0, 1, 1]],
] as const)('%s is as specific as Selectors Level 4 says', (selector, wanted) => {
  expect(specificityOf(selector)).toEqual(wanted);
});

test('a list of selectors is parted at its own commas', () => {
  expect(selectorsIn('a:is(b, c), [x="1,2"] d,e')).toEqual(['a:is(b, c)', '[x="1,2"] d', 'e']);
});

const winner = (rule: string | null, value: string, property = 'padding'): Winner => ({ rule, property, value });
const change = (property: string, by: Winner | null, wasBy: Winner | null = by): StyleChange => ({
  property,
  before: '12px',
  now: '14px',
  wasBy,
  by,
});

describe('effects', () => {
  const [quiet, loud] = [winner('.quiet', '12px'), winner('.loud', '14px')];

  test('tell four sides as one property', () => {
    const sides = ['top', 'right', 'bottom', 'left'].map((side) => change(`padding-${side}`, loud, quiet));
    expect(effectsOf(sides)).toEqual([
      { properties: ['padding'], before: '12px', now: '14px', by: loud, wasBy: quiet },
    ]);
    expect(effectsOf(sides.slice(0, 2))[0]!.properties).toEqual(['padding-top', 'padding-right']);
  });

  test('leave out what only follows: no declaration wins, or the same one does', () => {
    expect(effectsOf([change('height', null), change('width', winner('.a', '100%', 'width'))])).toEqual([]);
  });

  test('keep what the same declaration makes of another custom property or font size', () => {
    const same = [winner('.a', 'var(--gap)'), winner('.a', '1.5em')];
    expect(effectsOf(same.map((one) => change('padding-top', one)))).toHaveLength(2);
  });

  test('keep what came or went with its declaration', () => {
    expect(effectsOf([change('color', null, quiet), change('top', loud, null)])).toHaveLength(2);
  });

  test('are written as declarations are', () => {
    expect([winnerText(quiet), winnerText(winner(null, '3px'))]).toEqual([
      '.quiet { padding: 12px }',
      'style="padding: 3px"',
    ]);
  });
});

describe('who uses a custom property', () => {
  const css =
    ':root { --sea: #012; --deep: color-mix(in srgb, var(--sea), black); --other: 1px }\n' +
    '.berth { color: var(--sea); .depth & { top: var(--other) } &:hover { color: var( --deep, red ) } }\n' +
    '@media (min-width: 1px) { h1, h2 { border: 1px solid var(--deep) } }\n.seaside { color: var(--seaside) }';

  test('is found through other custom properties, nesting and conditions', () => {
    const { moment } = scene([el('p', { style: 'color: var(--deep)' }, 'Low water')], css);
    const found = usersOf(moment, '--sea');
    expect(found.selectors).toEqual(['.berth', ':is(.berth):hover', 'h1, h2']);
    expect(found.nodes.map((id) => (moment.nodes[id] as { tag: string }).tag)).toEqual(['p']);
    expect(usersOf(moment, '--other').selectors).toEqual(['.depth :is(.berth)']);
  });

  test('is nobody where properties go round in circles', () => {
    expect(usersOf(scene([], ':root { --a: var(--b); --b: var(--a) }').moment, '--a').selectors).toEqual([]);
  });
});
