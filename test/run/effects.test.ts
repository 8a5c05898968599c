/** What causes do to computed styles, and which declarations win: by the rules of the cascade, in a real browser. */
import { beforeAll, expect, it } from 'vitest';
import type { Cluster } from '../../src/core/cause/cluster.ts';
import { effectText, winnerText } from '../../src/core/cause/effect.ts';
import { sguardo } from '../support/cli.ts';
import { configuration, project, write } from '../support/project.ts';
import { serve } from '../support/service.ts';

/** Styles in pairs, before and now: each pair is one cause, and what lies around it would win by other rules. */
const sheet = (now: boolean): string => {
  const either = (was: string, is: string): string => (now ? is : was);
  return `
@layer low, high;
@layer high { .layered { color: ${either('#101010', '#111111')} } }
@layer low { p#layered { color: #999999 } }
.weighty { color: ${either('#202020', '#212121')} !important }
p#weighty.weighty { color: #999999 }
:root { --base: ${either('#303030', '#313131')}; --made: var(--base) }
.token { background-color: var(--made) }
.before::before { content: 'N'; color: ${either('#404040', '#414141')} }
.before { color: #454545 }
.outer { margin: 0; & .nested { margin: ${either('3px', '5px')} } }
p.nested { margin: 9px }
.card .nested { margin-top: 4px }
button:hover { color: ${either('#505050', '#515151')} }
button { color: #999999 }
@media (min-width: 100px) { .wide { padding: ${either('1px', '2px')} } }
@media (min-width: 9000px) { p.wide { padding: 8px } }
.quiet { color: #606060; padding: 2px }
.loud { color: #b3261e; padding: 6px }
p:where(#loudly) { color: #999999 }
`;
};

const card = (now: boolean): string => `export function Card() {
  return (
    <section className="card">
      <p id="layered" className="layered">Layered</p>
      <p id="weighty" className="weighty" style={{ color: '#998877' }}>Weighty</p>
      <p className="token">Token</p>
      <p className="before">orth</p>
      <div className="outer"><p className="nested">Nested</p></div>
      <p className="wide">Wide</p>
      <p id="loudly" className="${now ? 'loud' : 'quiet'}">Loudly</p>
      <p className="loose" style={{ opacity: ${now ? '0.5' : '0.9'} }}>Own</p>
      <button type="button">Release</button>
    </section>
  );
}
`;

const files = {
  'sguardo.config.ts': configuration({ environments: { day: { viewport: [420, 300] } } }),
  'src/card.css': sheet(false),
  'src/Card.tsx': card(false),
  'src/Card.look.tsx': `import { hover, looks, the } from 'sguardo';
import './card.css';
import { Card } from './Card';
export default looks(Card, { states: { all: { async script() { await hover(the.button('Release')); } } } });
`,
};

let causes: Cluster[];
let folder: string;
beforeAll(async () => {
  folder = project(files);
  const served = await serve(folder);
  await served.run();
  await served.client.decide({ kind: 'approve', all: true });
  write(folder, { 'src/card.css': sheet(true), 'src/Card.tsx': card(true) });
  await served.run();
  causes = (await served.client.causes()).causes;
});

/** The effects of the cause whose title holds a text: the change, the winner with its place, and the earlier winner. */
function effects(title: string) {
  const cause = causes.find((one) => one.title.includes(title));
  if (!cause) throw new Error(`No cause with ${title} among ${causes.map((one) => one.title).join('; ')}`);
  return cause.effects.map((effect) => [
    effectText(effect),
    effect.by && winnerText(effect.by),
    effect.wasBy && winnerText(effect.wasBy),
    effect.by?.place ? effect.by.place.line : null,
  ]);
}

const rgb = (grey: number): string => `#${grey.toString(16).repeat(3)}`;
const colours = (was: number, is: number): string => `color: ${rgb(was)} → ${rgb(is)}`;

it.each([
  ['a stronger layer wins over a more specific selector', '.layered', 0x10, '.layered', ''],
  ['what is important wins over ids and style attributes', '.weighty', 0x20, '.weighty', ' !important'],
  ['what stands before an element has winners of its own', '.before::before', 0x40, '.before::before', ''],
  ['a state that was recorded is told as it was written', 'button:hover', 0x50, 'button:hover', ''],
])('%s', (_, title, was, rule, weight) => {
  const [one] = effects(title);
  expect(one!.slice(0, 3)).toEqual([
    colours(was, was + 1),
    `${rule} { color: ${rgb(was + 1)}${weight} }`,
    `${rule} { color: ${rgb(was)}${weight} }`,
  ]);
  expect(effects(title)).toHaveLength(1);
});

it('a custom property is followed through others to where it is used', () => {
  expect(effects('--base')).toEqual([
    [
      `background-color: ${rgb(0x30)} → ${rgb(0x31)}`,
      '.token { background-color: var(--made) }',
      '.token { background-color: var(--made) }',
      8,
    ],
  ]);
});

it('a nested rule is as specific as its parent and itself together, and wins where nothing later does', () => {
  expect(effects('margin of')).toEqual([
    [
      'margin-bottom, margin-left, margin-right: 3px → 5px',
      ':is(.outer) .nested { margin: 5px }',
      ':is(.outer) .nested { margin: 3px }',
      null,
    ],
  ]);
});

it('media queries that do not hold have no say', () => {
  expect(effects('padding of .wide')).toEqual([
    ['padding: 1px → 2px', '.wide { padding: 2px }', '.wide { padding: 1px }', 16],
  ]);
});

it('a class is told by what it does, with the rule that wins now and the one that won before', () => {
  expect(effects('quiet')).toEqual([
    [`color: ${rgb(0x60)} → #b3261e`, '.loud { color: #b3261e }', `.quiet { color: ${rgb(0x60)} }`, 19],
    ['padding: 2px → 6px', '.loud { padding: 6px }', '.quiet { padding: 2px }', 19],
  ]);
});

it('a style attribute wins by itself', () => {
  expect(effects('opacity')).toEqual([['opacity: 0.9 → 0.5', 'style="opacity: 0.5"', 'style="opacity: 0.9"', null]]);
});

it('is told by the command for causes whose title does not say it', async () => {
  const { out } = await sguardo(folder, 'causes');
  expect(out).toContain('padding: 2px → 6px  by .loud { padding: 6px }');
});
