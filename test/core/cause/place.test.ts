import { expect, test } from 'vitest';
import type { Cause } from '../../../src/core/cause/cause.ts';
import { colourChange, opaque } from '../../../src/core/cause/colours.ts';
import { placeOf } from '../../../src/core/cause/place.ts';

const sources = [
  {
    file: 'src/kit.css',
    text: '.other {\n  padding: 14px;\n}\n/* card */\n.card {\n  padding: 14px;\n}\n:root {\n  --calm: #3a8a2e;\n}\n',
  },
  { file: 'src/Card.look.tsx', text: "// Gale expected\nexport const text = 'No vessel here';\n" },
  { file: 'src/Card.tsx', text: 'export const Card = () => (\n  <p>\n    No vessel here, {depth} m\n  </p>\n);\n' },
  { file: 'src/theme.ts', text: "export const theme = {\n  main: '#8B1563',\n  paddingBlock: '9px',\n};\n" },
];

const cause = (kind: Cause['kind'], now: string | null, trace: Partial<Cause['trace']>): Cause => ({
  key: '',
  kind,
  title: '',
  before: null,
  now,
  elements: 0,
  outlines: [],
  pixels: null,
  regions: [],
  effects: [],
  trace: { property: null, selector: null, texts: now === null ? [] : [now], ...trace },
});

const place = (...given: Parameters<typeof cause>): string | null => {
  const found = placeOf(cause(...given), sources);
  return found && `${found.file}:${found.line}`;
};

test('a declaration is found in its own rule', () => {
  expect(place('style', '14px', { property: 'padding', selector: '.card' })).toBe('src/kit.css:6');
  expect(place('style', '14px', { property: 'padding', selector: '.other' })).toBe('src/kit.css:2');
});

test('a token is found, and a value in a script by the name that scripts give it', () => {
  expect(place('token', '#3a8a2e', { property: '--calm', selector: ':root' })).toBe('src/kit.css:9');
  expect(place('style', '9px', { property: 'padding-block', selector: '.css-1x2y3z' })).toBe('src/theme.ts:3');
  expect(place('style', '#8b1563', { property: 'color', selector: '.css-1x2y3z' })).toBe('src/theme.ts:2');
});

test('a text is found in the component rather than in its look file, by what of it stands there', () => {
  expect(place('text', 'No vessel here, 3.2 m', { texts: ['No vessel here, 3.2 m', 'No vessel here'] })).toBe(
    'src/Card.tsx:3',
  );
  expect(place('text', 'Gale expected', {})).toBe('src/Card.look.tsx:1');
});

test('a colour that was read back from a style attribute is found as it was written', () => {
  const own = [{ file: 'src/Pad.svelte', text: '<p style="color: #555;\nbackground: #dde4ea"></p>\n' }];
  const of = (now: string, property: string) => placeOf(cause('style', now, { property }), own);
  expect(of('rgb(221, 228, 234)', 'background')).toEqual({ file: 'src/Pad.svelte', line: 2 });
  expect(of('1px dashed rgb(85, 85, 85)', 'border')).toEqual({ file: 'src/Pad.svelte', line: 1 });
  expect(of('rgb(221, 228, 23)', 'background')).toBeNull();
});

test('scripts of packages are not taken for the source, and a part that stands everywhere says nothing', () => {
  const all = [
    { file: 'node_modules/kit/Tip.mjs', text: "export const tip = { left: 0, marginTop: '24px' };\n" },
    { file: 'node_modules/kit/kit.css', text: '.kit {\n  margin-top: 24px;\n}\n' },
    { file: 'src/Ships.tsx', text: 'type Ship = { name: string };\nexport const Ships = (ships: Ship[]) => ships;\n' },
  ];
  const left = cause('style', '0', { property: 'left', selector: '.css-1x2y3z' });
  expect(placeOf(left, all)).toBeNull();
  const margin = cause('style', '24px', { property: 'margin-top', selector: '.kit' });
  expect(placeOf(margin, all)).toEqual({ file: 'node_modules/kit/kit.css', line: 2 });
  expect(placeOf(cause('text', 'Ship 4', { texts: ['Ship 4', 'Ship'] }), all)).toBeNull();
});

test('a rule that lost a declaration is found; what stands nowhere is not', () => {
  expect(place('style', null, { property: 'gap', selector: '.card' })).toBe('src/kit.css:5');
  expect(place('style', '77px', { property: 'gap', selector: '.card' })).toBeNull();
  expect(place('text', 'Nobody says this', {})).toBeNull();
  expect(place('engine', 'Chromium 156', {})).toBeNull();
});

test.each([
  ['#abc', '#aabbcc'],
  ['#0B5563', '#0b5563'],
  ['#0b556380', '#0b5563'],
  ['rgba(11, 85, 99, 0.04)', '#0b5563'],
  ['rgb(11 85 99 / 50%)', '#0b5563'],
  // The examples of green and of tomato in CSS Color 4.
  ['green', '#008000'],
  ['hsl(120deg 100% 25%)', '#008000'],
  ['lab(46.277% -47.552 48.586)', '#008000'],
  ['oklch(51.975% 0.17686 142.495)', '#008000'],
  ['oklch(51.975% 0.17686 142.495 / 30%)', '#008000'],
  ['color(srgb 1 0.38824 0.27843)', '#ff6347'],
  ['var(--tone)', null],
  ['currentcolor', null],
  ['#12', null],
  ['url(red)', null],
  ['hsl(', null],
  ['', null],
  ['12px', null],
])('the colour %s is %s', (text, wanted) => expect(opaque(text)).toBe(wanted));

test.each([
  ['1px solid #111111', '1px solid #222222', ['#111111', '#222222']],
  [
    '0 0 4px rgba(17, 17, 17, 0.5), 0 0 1px #111',
    '0 0 4px rgba(34, 34, 34, 0.5), 0 0 1px #222',
    ['#111111', '#222222'],
  ],
  ['1px solid #111111', '2px solid #222222', null],
  ['#111', '#111 none', null],
  ['#111 #222', '#333 #444', null],
  ['1px solid red', '1px solid navy', ['red', 'navy']],
  ['color-mix(in oklab, var(--a) 20%, red)', 'color-mix(in oklab, var(--a) 20%, navy)', null],
  ['0 1px hsl(0 0% 0% / 0.2)', '0 1px hsl(0 100% 50% / 0.2)', ['hsl(0 0% 0% / 0.2)', 'hsl(0 100% 50% / 0.2)']],
])('from %s to %s one colour changed: %s', (before, now, wanted) =>
  expect(colourChange(before, now)?.map(({ text }) => text) ?? null).toEqual(wanted),
);

test('a word counts where it is a text, a value or an attribute, and only where it stands once', () => {
  const all = [
    { file: 'src/Marks.tsx', text: 'const role = kind;\nconst before = role.at(-1);\n' },
    { file: 'src/Shots.tsx', text: '<ul role="list" aria-label={name}>\n  <li>before</li>\n</ul>\n' },
    { file: 'src/Tides.tsx', text: "<p>{word}</p>\nconst word = isHigh ? 'high' : 'low';\n<b>low</b>\n" },
  ];
  const at = (...texts: string[]) => placeOf(cause('attribute', texts[0]!, { texts }), all);
  expect(at('before')).toEqual({ file: 'src/Shots.tsx', line: 2 });
  expect(at('list')).toEqual({ file: 'src/Shots.tsx', line: 1 });
  expect(at('aria-label')).toEqual({ file: 'src/Shots.tsx', line: 1 });
  expect(at('kind')).toBeNull();
  expect(at('low')).toBeNull();
  expect(at('low', 'high')).toEqual({ file: 'src/Tides.tsx', line: 2 });
});
