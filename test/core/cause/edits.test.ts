import { describe, expect, test } from 'vitest';
import { applyEdits } from '../../../src/core/cause/apply.ts';
import { candidatesOf } from '../../../src/core/cause/candidates.ts';
import { editsOf } from '../../../src/core/cause/edits.ts';
import { pairScenes } from '../../../src/core/cause/pair.ts';
import { relevant } from '../../../src/core/cause/relevant.ts';
import { usersOf } from '../../../src/core/cause/users.ts';
import type { CanonicalElement, CanonicalNode } from '../../../src/core/moment/canonical.ts';
import type { Scene } from '../../../src/core/moment/flat.ts';
import { isText } from '../../../src/core/moment/moment.ts';
import { numbersFrom } from '../../../src/core/steady/chance.ts';
import { el, scene } from '../../support/scene.ts';

/** A scene as nested values, so that two can be compared whatever their numbers are. */
function shown({ moment }: Scene): unknown {
  const one = (id: number): unknown => {
    const entry = moment.nodes[id]!;
    if (isText(entry)) return entry.text;
    const { tag, attrs, kids = [], state } = entry;
    const sheet = entry.sheet === undefined ? undefined : moment.sheets[entry.sheet];
    return { tag, attrs: attrs ?? {}, state, sheet, kids: kids.map(one) };
  };
  return one(moment.root);
}

const titles = (before: Scene, now: Scene): string[] => {
  const pair = pairScenes(before, now);
  const edits = editsOf(pair);
  return relevant(pair, edits, candidatesOf(pair, edits)).map(({ title }) => title);
};

/** The titles of what differs between two bodies. */
const told = (before: CanonicalNode[], now: CanonicalNode[], css = '', later = css): string[] =>
  titles(scene(before, css), scene(now, later));

describe('what changed is told in words', () => {
  const berths = el('div.card', el('h1', 'Berths'), el('p', 'Two are free'));

  test('nothing', () => expect(told([berths], [berths])).toEqual([]));

  test('a text', () =>
    expect(told([berths], [el('div.card', el('h1', 'Berths today'), el('p', 'Two are free'))])).toEqual([
      'text of the heading: “Berths” → “Berths today”',
    ]));

  test('an element that was put above another one', () =>
    expect(told([berths], [el('p.note', { role: 'alert' }, 'Gale expected'), berths])).toEqual([
      'the notice “Gale expected” was added above div.card',
    ]));

  test('an element that is gone', () =>
    expect(told([berths], [el('div.card', el('h1', 'Berths'))])).toEqual(['the paragraph “Two are free” was removed']));

  test('an element in place of another one', () =>
    expect(told([el('button', 'Release')], [el('a', { href: '#' }, 'Release')])).toEqual([
      'the button “Release” was replaced by the link “Release”',
    ]));

  test('an element that was put around others', () =>
    expect(told([berths], [el('section.wide', berths)])).toEqual(['section.wide was put around div.card']));

  test('an element that was taken away from around others', () =>
    expect(told([el('section.wide', berths)], [berths])).toEqual(['section.wide around div.card was removed']));

  test('another order, with one of them changed as well', () => {
    const item = (text: string): CanonicalElement => el('li', text);
    expect(
      told(
        [el('ul', item('North mole'), item('South mole'), item('Fish quay'))],
        [el('ul', item('Fish quay'), item('North mole'), item('South mole is shut'))],
      ),
    ).toEqual(['the order within the list changed', 'text of the list item: “South mole” → “South mole is shut”']);
  });

  test('a name that an element has lost', () =>
    expect(told([el('button', { 'aria-label': 'Release' }, '×')], [el('button', '×')])).toEqual([
      'the button “Release” lost its name (aria-label)',
    ]));

  test('a class that gave way to another one', () =>
    expect(told([el('p.tone.calm', 'a')], [el('p.tone.gale', 'a')], '.calm { top: 0 } .gale { top: 1px }')).toEqual([
      'class of the paragraph “a”: calm → gale',
    ]));

  test('a class that came together with its rule, as one', () =>
    expect(
      told([el('p.tone', 'a')], [el('p.tone.loud', 'a')], '.tone { x: y }', '.tone { x: y } .loud { top: 1px }'),
    ).toEqual(['class “loud” was added to the paragraph “a”']));

  test('a token whose name has an escape in it', () => {
    const rule = String.raw`.card { padding: var(--gap-1\.5) }`;
    const root = (value: string): string => String.raw`:root { --gap-1\.5: ${value} } ` + rule;
    const card = [el('p.card', 'a')];
    expect(told(card, card, root('6px'), root('7px'))).toEqual([String.raw`--gap-1\.5: 6px → 7px`]);
    expect(usersOf(scene(card, root('6px')).moment, String.raw`--gap-1\.5`).selectors).toEqual(['.card']);
  });

  test('a class that came with its rule and a token that only this uses, as one', () => {
    const root = (tokens: string): string => `:root { --gap: 4px; ${tokens} } .tone { x: y }`;
    const rule = '.loud { padding: var(--wide) }';
    const one = 'class “loud” was added to the paragraph “a”';
    const [before, now] = [[el('p.tone', 'a')], [el('p.tone.loud', 'a')]];
    expect(told(before, now, root(''), `${root('--wide: 9px')} ${rule}`)).toEqual([one]);
    // Another rule that uses it, of a class that was there before, makes it a change of its own.
    const others = '.tone { margin: var(--wide) }';
    expect(told(before, now, root(''), `${root('--wide: 9px')} ${rule} ${others}`)).toContain(
      '--wide: 9px was added to :root',
    );
    // What had another value before says more than that a class came.
    expect(told(before, now, root('--wide: 8px'), `${root('--wide: 9px')} ${rule}`)).toContain('--wide: 8px → 9px');
  });

  test('a declaration in a style attribute', () =>
    expect(
      told([el('i', { style: 'width: 10px; top: 0' }, 'a')], [el('i', { style: 'width: 20px; top: 0' }, 'a')]),
    ).toEqual(['width of i “a”: 10px → 20px (style attribute)']));

  test('a declaration, with its rule', () =>
    expect(told([berths], [berths], '.card { padding: 12px }', '.card { padding: 14px }')).toEqual([
      'padding of .card: 12px → 14px',
    ]));

  test('a shorthand that gave way to a part of it, as one', () =>
    expect(told([berths], [berths], '.card { border: 1px solid red }', '.card { border-top-width: 4px }')).toEqual([
      'border: 1px solid red of .card became border-top-width: 4px',
    ]));

  test('one colour that gave way to another one in several rules, however it is written, as one', () => {
    const rules = (hex: string, rgb: string): string =>
      `.card { color: ${hex}; border: 1px solid ${hex} } .card p { background: rgba(${rgb}, 0.1); ` +
      `--local: ${hex} } i { color: var(--local) }`;
    expect(told([berths], [berths], rules('#0b5563', '11, 85, 99'), rules('#8b1563', '139, 21, 99'))).toEqual([
      '#0b5563 → #8b1563 in 4 declarations (color, border, background, …)',
    ]);
  });

  test('one colour of any notation, as all rules write it, or in hexadecimal', () => {
    const rules = (one: string, other: string): string => `.card { color: ${one} } .card p { background: ${other} }`;
    const [green, navy] = ['oklch(51.975% 0.17686 142.495)', 'hsl(240 100% 25%)'];
    expect(told([berths], [berths], rules(green, green), rules(navy, navy))).toEqual([
      'oklch(51.975% 0.17686 142.495) → hsl(240 100% 25%) in 2 declarations (color, background)',
    ]);
    expect(told([berths], [berths], rules(green, 'green'), rules(navy, 'navy'))).toEqual([
      '#008000 → #000080 in 2 declarations (color, background)',
    ]);
  });

  test('one token with other values by day and by night, once', () => {
    const sheet = (day: string, night: string): string =>
      `:root { --tone: ${day} } @media (prefers-color-scheme: dark) { :root { --tone: ${night} } } .card { ` +
      'color: var(--tone) }';
    expect(told([berths], [berths], sheet('#111', '#eee'), sheet('#222', '#ddd'))).toEqual([
      '--tone: #111 → #222, #eee → #ddd',
    ]);
  });

  test('the same in many elements, once', () => {
    const rows = (price: string): CanonicalNode[] => [1, 2, 3].map((n) => el('p', `Berth ${n}`, el('b', price)));
    expect(told(rows('€ 4'), rows('€ 5'))).toEqual(['text of b: “€ 4” → “€ 5”']);
  });

  test('an image whose file is another one', () =>
    expect(
      told([el('img', { src: '/assets/flag-Ab3dE_9x.svg' })], [el('img', { src: '/assets/flag-Zz3dE_9y.svg' })]),
    ).toEqual(['the file flag.svg changed']));

  test('an image whose bytes are others at the same address', () => {
    const image = el('img', { src: '/flag.png' });
    expect(
      titles(
        scene([image], '', { 'http://looks.localhost/flag.png': 'a', 'http://looks.localhost/other.png': 'c' }),
        scene([image], '', { 'http://looks.localhost/flag.png': 'b', 'http://looks.localhost/other.png': 'd' }),
      ),
    ).toEqual(['the file flag.png changed']);
  });
});

describe('what is no change is not told', () => {
  test('a class that was renamed together with its rule', () =>
    expect(
      told(
        [el('p.tone', 'a')],
        [el('p.mood', 'a')],
        '.tone { top: 0 } .tone:hover { left: 0 }',
        '.mood { top: 0 } .mood:hover { left: 0 }',
      ),
    ).toEqual([]));

  test('classes that a library names after what they hold; only the declaration is told', () =>
    expect(
      told(
        [el('p.css-1x2y3z', 'a')],
        [el('p.css-9q8w7e', 'a')],
        '.css-1x2y3z { color: red; top: 0 }',
        '.css-9q8w7e { color: blue; top: 0 }',
      ),
    ).toEqual(['color of .css-1x2y3z: red → blue']));

  test('marks of scoped styles', () =>
    expect(
      told(
        [el('p', { 'data-v-1a2b3c4d': '' }, 'a')],
        [el('p', { 'data-v-9f8e7d6c': '' }, 'a')],
        'p[data-v-1a2b3c4d] { top: 0 }',
        'p[data-v-9f8e7d6c] { top: 0 }',
      ),
    ).toEqual([]));

  test('counted ids, and what refers to them', () =>
    expect(
      told(
        [el('label', { for: 'field-12' }, 'Draught'), el('input', { id: 'field-12' })],
        [el('label', { for: 'field-19' }, 'Draught'), el('input', { id: 'field-19' })],
      ),
    ).toEqual([]));

  test('rules that match nothing', () =>
    expect(told([el('p.a', 'x')], [el('p.a', 'x')], '.a { top: 0 }', '.a { top: 0 } .unused .a { top: 1px }')).toEqual(
      [],
    ));

  test('a class that was renamed without its rule is told', () =>
    expect(told([el('p.tone', 'a')], [el('p.mood', 'a')], '.tone { top: 0 }')).toEqual([
      'class of the paragraph “a”: tone → mood',
    ]));
});

/** A tree of elements made up from numbers, each with some text and classes. */
function madeUp(random: () => number, depth = 0): CanonicalElement {
  const pick = <T>(list: readonly T[]): T => list[Math.floor(random() * list.length)]!;
  const attrs: Record<string, string> = {};
  if (random() < 0.5) attrs.class = pick(['card', 'card wide', 'row', 'row odd', 'note']);
  if (random() < 0.2) attrs.style = pick(['top: 1px', 'top: 2px; left: 0', 'color: red']);
  if (random() < 0.2) attrs['aria-label'] = pick(['Release', 'Close', 'Berth 4']);
  const kids: CanonicalNode[] = [];
  for (let left = Math.floor(random() * (depth > 3 ? 2 : 5)); left > 0; left--)
    kids.push(random() < 0.3 ? pick(['Free', 'Moored', 'Until noon', 'Gale']) : madeUp(random, depth + 1));
  return el(pick(['div', 'p', 'ul', 'li', 'button', 'section']), attrs, ...kids);
}

/** A tree with some of it changed. */
function changed(node: CanonicalElement, random: () => number): CanonicalElement {
  const kids = (node.kids ?? []).flatMap((kid): CanonicalNode[] => {
    const chance = random();
    if (chance < 0.07) return [];
    if (chance < 0.14) return [madeUp(random, 3), kid];
    if (chance < 0.18) return [el('div.wrap', kid)];
    if (typeof kid === 'string') return [random() < 0.2 ? `${kid} now` : kid];
    return [changed(kid, random)];
  });
  if (kids.length > 1 && random() < 0.1) kids.push(kids.shift()!);
  const attrs = { ...node.attrs };
  if (random() < 0.1) attrs.class = `${attrs.class ?? ''} new`.trim();
  if (random() < 0.1) delete attrs.style;
  return el(node.tag, attrs, ...kids);
}

test('with no edit a scene is the earlier one, with all it is the later one; 300 made-up pairs', () => {
  for (let seed = 1; seed <= 300; seed++) {
    const number = numbersFrom(seed);
    const random = (): number => number(1e6) / 1e6;
    const tree = madeUp(random);
    const before = scene([tree], '.card { top: 0 } .row { left: 1px }');
    const now = scene([changed(tree, random)], '.card { top: 2px } .note { left: 1px }');
    const pair = pairScenes(before, now);
    const edits = editsOf(pair);
    const none = applyEdits(pair, edits, new Set());
    const all = applyEdits(pair, edits, new Set(edits.list.keys()));
    expect(shown(none), `seed ${seed}, no edit`).toEqual(shown(before));
    expect(shown(all), `seed ${seed}, every edit`).toEqual(shown(pair.now));
  }
});

test('ten thousand elements are matched and compared in a moment', () => {
  const rows = (n: number, change: (i: number) => string): CanonicalNode[] =>
    Array.from({ length: n }, (_, i) => el('tr.row', el('td', `Berth ${i}`), el('td', change(i)), el('td', 'free')));
  const before = scene([el('table', ...rows(2500, () => 'calm'))]);
  const now = scene([el('table', el('caption', 'Today'), ...rows(2500, (i) => (i % 100 === 7 ? 'gale' : 'calm')))]);
  const began = performance.now();
  const pair = pairScenes(before, now);
  const edits = editsOf(pair);
  // Far above what it takes: only what grows with the square of the elements is caught here.
  expect(performance.now() - began).toBeLessThan(10_000);
  expect(candidatesOf(pair, edits).map(({ title }) => title)).toEqual([
    'the caption “Today” was added above the row',
    'text of the cell: “calm” → “gale”',
  ]);
});
