/** What the handbook is made of: code to copy, events and slots, tokens and their contrasts, and its search. */
import { describe, expect, it } from 'vitest';
import { outletsIn } from '../../src/core/handbook/outlets.ts';
import { type HandbookEntry, referenceKind, search } from '../../src/core/handbook/page.ts';
import { pairsOf, tokensIn, tokensOf } from '../../src/core/handbook/tokens.ts';
import { pathOf, picturesIn } from '../../src/core/handbook/words.ts';
import { elementName, usageText } from '../../src/core/handbook/usage.ts';
import type { Kind } from '../../src/core/look/kind.ts';

describe('code to copy', () => {
  const props = { name: "'Alba'", depth: '3.2', lit: 'true', onRelease: 'spy()', pilot: 'undefined' };
  const of = (kind: Kind, name = 'Berth'): string => usageText(kind, name, { props, script: null });

  it('is written as each framework writes it', () => {
    expect(of('react')).toBe('<Berth name="Alba" depth={3.2} lit onRelease={() => {}} />');
    expect(of('vue')).toBe('<Berth name="Alba" :depth="3.2" :lit="true" @release="() => {}" />');
    expect(of('svelte')).toBe('<Berth name="Alba" depth={3.2} lit={true} onRelease={() => {}} />');
    expect(of('angular', 'app-berth')).toBe('<app-berth name="Alba" [depth]="3.2" [lit]="true"></app-berth>');
    expect(of('dom', 'x-berth')).toBe('<x-berth name="Alba" depth="3.2" lit></x-berth>');
  });

  it('calls an element by the tag that its source gives it', () => {
    expect(elementName('react', 'Mark', 'Berth', '')).toBe('Berth');
    expect(elementName('angular', 'BerthCard', 'BerthCard', "@Component({ selector: 'app-berth' })")).toBe('app-berth');
    expect(elementName('dom', 'BerthCard', 'BerthCard', "customElements.define('x-berth', BerthCard)")).toBe('x-berth');
    expect(elementName('dom', 'x-buoy', null, '')).toBe('x-buoy');
  });

  it('writes names as each framework writes them', () => {
    const named = { props: { underKeel: "'1 m'", onBerthLeft: 'spy()' }, script: null };
    expect(usageText('vue', 'Berth', named)).toBe('<Berth under-keel="1 m" @berth-left="() => {}" />');
    expect(usageText('dom', 'x-berth', named)).toBe('<x-berth under-keel="1 m"></x-berth>');
    expect(usageText('react', 'Berth', named)).toBe('<Berth underKeel="1 m" onBerthLeft={() => {}} />');
  });

  it('keeps what is no plain text as code, and has a line for each prop where it is long', () => {
    const long = {
      legend: '`it is ${depth} deep`',
      quote: "'He said \\'no\\''",
      vessels: "[{ name: 'Alba' }, { name: 'Maestro' }]",
    };
    expect(usageText('react', 'Berth', { props: long, script: null })).toBe(
      `<Berth
  legend={\`it is \${depth} deep\`}
  quote={'He said \\'no\\''}
  vessels={[{ name: 'Alba' }, { name: 'Maestro' }]}
/>`,
    );
  });
});

describe('events and slots', () => {
  it('are those that a source names', () => {
    const vue = `defineEmits<{ arrived: [number]; (e: 'left', at: Date): void }>()
      <template><slot /><slot name="foot" /><!-- <slot name="old" /> --></template>`;
    expect(outletsIn('vue', vue)).toEqual({ events: ['arrived', 'left'], slots: ['default', 'foot'] });
    expect(outletsIn('vue', "defineEmits(['a', \"b\"]); $emit('c')").events).toEqual(['a', 'b', 'c']);
    expect(outletsIn('svelte', '{@render children()} {@render foot?.()}').slots).toEqual(['children', 'foot']);
    expect(
      outletsIn('angular', 'left = output<void>(); @Output() gone = new EventEmitter(); <ng-content select=".x">'),
    ).toEqual({
      events: ['left', 'gone'],
      slots: ['.x'],
    });
    expect(outletsIn('dom', "this.dispatchEvent(new CustomEvent<number>('moored')); <slot name='foot'>")).toEqual({
      events: ['moored'],
      slots: ['foot'],
    });
    expect(outletsIn('react', '<slot name="x">')).toEqual({ events: [], slots: [] });
  });
});

const sheet = `
  :root {
    --ink: #000; --paper: #fff; --soft: var(--ink); --gap: 12px; --font: "Inter", sans-serif; --dur: 2s;
    --lost: var(--none);
  }
  @media (prefers-color-scheme: dark) { :root { --ink: #eee; --paper: #111; } }
  .card { color: var(--ink); background: var(--paper); gap: var(--gap); }
  .card .soft { color: var(--soft, red); }
  dialog { background-color: var(--paper); font-family: var(--font); }
`;

describe('tokens', () => {
  const found = tokensIn([sheet, sheet]);
  const token = (name: string) => found.tokens.find((one) => one.name === name)!;

  it('are told by what they are for, with every place where they have a value, each once', () => {
    expect(found.tokens.map(({ name, kind }) => `${name} ${kind}`)).toEqual([
      '--ink colour',
      '--paper colour',
      '--soft colour',
      '--gap length',
      '--font type',
      '--dur other',
      '--lost other',
    ]);
    expect(token('--ink').values.map(({ where, value }) => [where, value])).toEqual([
      [':root', '#000'],
      ['@media (prefers-color-scheme: dark) :root', '#eee'],
    ]);
    expect(token('--soft').values[0]!.resolved).toBe('#000');
    expect(token('--lost').values[0]!.resolved).toBeNull();
    expect([token('--paper').used, token('--dur').used]).toEqual([2, 0]);
  });

  it('are paired as text and ground, in light and in dark', () => {
    const pairs = pairsOf(found.tokens, found.uses).map(({ text, ground, where, ratio }) => [
      text,
      ground,
      where.includes('dark'),
      ratio.toFixed(1),
    ]);
    // 21 : 1 is black on white; #eee on #111 by WCAG 2.2: (0.8632 + 0.05) / (0.0056 + 0.05).
    expect(pairs).toContainEqual(['--ink', '--paper', false, '21.0']);
    expect(pairs).toContainEqual(['--ink', '--paper', true, '16.3']);
    expect(pairs).toContainEqual(['--soft', '--paper', false, '21.0']);
  });

  it('are colours in whatever notation, in a layer or as the channels of one', () => {
    const sheet = `@layer theme { :root, :host { --ink: oklch(0 0 0); --veil: rgb(0 0 0 / 40%); --deep: var(--ink) } }
      :root { --paper: 0 0% 100%; --step: 4 } .dark { --ink: hsl(0 0% 100%); --paper: 0 0% 0% }
      p { color: var(--deep); background: hsl(var(--paper)) } i { color: var(--veil) } b { color: var(--ink) }`;
    const { tokens, uses } = tokensIn([sheet]);
    expect(tokens.map(({ name, kind }) => `${name} ${kind}`)).toEqual([
      '--ink colour',
      '--veil colour',
      '--deep colour',
      '--paper colour',
      '--step other',
    ]);
    expect(tokens[3]!.values.map(({ value, resolved }) => [value, resolved])).toEqual([
      ['0 0% 100%', 'hsl(0 0% 100%)'],
      ['0 0% 0%', 'hsl(0 0% 0%)'],
    ]);
    const pairs = pairsOf(tokens, uses);
    // What others are seen through has no contrast of its own.
    expect(pairs.some(({ text }) => text === '--veil')).toBe(false);
    expect(pairs.filter(({ where }) => where === '.dark').map(({ text, ratio }) => [text, ratio])).toEqual([
      ['--ink', 21],
      ['--deep', 1],
    ]);
  });

  it('belong to a component whose elements its rules name', () => {
    const of = (classes: string[], tags: string[], styles: string[] = []): string[] =>
      tokensOf(found, { classes: new Set(classes), tags: new Set(tags), styles });
    expect(of(['card'], ['div'])).toEqual(['--ink', '--paper', '--gap']);
    expect(of(['card', 'soft'], ['div'])).toEqual(['--ink', '--paper', '--soft', '--gap']);
    expect(of([], ['dialog'])).toEqual(['--paper', '--font']);
    expect(of([], ['div'], ['transition: all var(--dur)'])).toEqual(['--dur']);
  });

  it('are not what a library puts one property of one element together with', () => {
    const registered = `@property --own { syntax: '*'; inherits: false; }
      @property --sea { syntax: '<color>'; inherits: true; initial-value: navy; }
      @layer parts { * { --own: 0 0 #0000 } }
      :root { --sea: teal } p { box-shadow: var(--own); color: var(--sea) }`;
    expect(tokensIn([registered]).tokens.map(({ name, used }) => [name, used])).toEqual([['--sea', 1]]);
  });

  it('come out of nonsense as nothing', () => {
    expect(
      tokensIn(['}}} --x', '', ':root { --a: var(--a) }']).tokens.map(({ values }) => values[0]!.resolved),
    ).toEqual([null]);
  });
});

it('says what a reference is, and fetches no picture from elsewhere', () => {
  expect(referenceKind('design/card.PNG')).toBe('picture');
  expect(referenceKind('design/card.pdf')).toBe('pdf');
  expect(referenceKind('https://design.test/card.png')).toBe('link');
  expect(referenceKind('https://design.test/card')).toBe('link');
});

it.each([
  ['quay.png', 'src/quay.png'],
  ['./quay.png', 'src/quay.png'],
  ['../art/quay.png?v=2#top', 'art/quay.png'],
  ['/art/quay.png', 'art/quay.png'],
  ['a%20quay.png', 'src/a quay.png'],
  ['100%.png', 'src/100%.png'],
  ['../../../etc/passwd', 'etc/passwd'],
  ['https://elsewhere.test/quay.png', null],
  ['//elsewhere.test/quay.png', null],
  ['data:image/png;base64,AA', null],
])('the address %s in words leads to %s', (address, path) => {
  expect(pathOf(address, 'src/Berth.md')).toBe(path);
});

it('an address in words at the root of a project leads into it', () => {
  expect(pathOf('quay.png', 'Berth.md')).toBe('quay.png');
});

it('knows the pictures of words as whoever draws them does', () => {
  const words = `![One](one.png) in a row, ![two](<number two.png> "Two"), ![three][it] and \`![no](no.png)\`.

| a |
| - |
| ![four](../100%.png) |

[it]: three.png
`;
  expect(picturesIn(words, 'src/50% #1/Berth.md')).toEqual([
    'src/50% #1/one.png',
    'src/50% #1/number two.png',
    'src/50% #1/three.png',
    'src/100%.png',
  ]);
});

it('finds pages by all words, names first', () => {
  const entry = (name: string, words: string): HandbookEntry => ({
    component: `src/${name}`,
    name,
    about: '',
    looks: 1,
    verdict: null,
    words,
  });
  const entries = [
    entry('FeeTable', 'prices of a berth'),
    entry('BerthCard', 'one berth'),
    entry('Tide', 'numberth, low-water “spring”'),
  ];
  const found = (text: string): string[] => search(entries, text).map(({ name }) => name);
  expect(found('')).toEqual(['FeeTable', 'BerthCard', 'Tide']);
  expect(found('berth')).toEqual(['BerthCard', 'FeeTable', 'Tide']);
  expect(found('price berth')).toEqual(['FeeTable']);
  expect(found('c++ (')).toEqual([]);
  expect(found('low-water “spring')).toEqual(['Tide']);
});
