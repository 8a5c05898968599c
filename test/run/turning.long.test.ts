/** A document that serves file after file: none of them can tell. */
import { rmSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { setTimeout as delay } from 'node:timers/promises';
import { beforeAll, expect, it } from 'vitest';
import type { ResultSummary } from '../../src/core/run/run.ts';
import { configuration, plainFile, project, swatch } from '../support/project.ts';
import { serve, type Served } from '../support/service.ts';

/** A look file with one look, which shows `what`; `before` is done when the file is evaluated. */
const file = (what: string, before = ''): string => `import { click, looks, the } from 'sguardo';
${before}
function Float() { return <p>{String(${what})}</p>; }
export default looks(Float, { states: { plain: {} } });
`;

const counting = file('(shelf.count += 1)', "import { shelf } from './shelf.js';");
const drawn = (more: string): string =>
  file('drawn', `const drawn = [Math.random(), Date.now(), performance.now()].join() + '${more}';`);

/** What a file may do when it is evaluated, and what shows it. */
const marks: [name: string, does: string, shows: string][] = [
  ['a global', 'globalThis.tide = 3;', 'globalThis.tide'],
  ['a replaced native', 'Array.prototype.last = () => 3;', '[].last'],
  ['a broken native', 'Array.prototype.some = () => false;', '[1].some(() => true)'],
  [
    'a listener',
    "addEventListener('ebb', (event) => { event.heard = true; });",
    "(() => { const event = new Event('ebb'); dispatchEvent(event); return event.heard; })()",
  ],
  ['a handler', 'window.onhashchange = () => {};', 'window.onhashchange'],
  ['an element', "customElements.define('x-buoy', class extends HTMLElement {});", "customElements.get('x-buoy')"],
  [
    'a property of style sheets',
    "CSS.registerProperty({ name: '--ebb', syntax: '<number>', inherits: true, initialValue: '3' });",
    "getComputedStyle(document.body).getPropertyValue('--ebb')",
  ],
  ['a font', "document.fonts.add(new FontFace('Ebb', 'local(Arial)'));", '[...document.fonts].length'],
  [
    'a style element',
    "document.head.append(Object.assign(document.createElement('style'), { textContent: 'p { color: red }' }));",
    "document.querySelectorAll('style').length",
  ],
  ['an adopted sheet', 'document.adoptedStyleSheets.push(new CSSStyleSheet());', 'document.adoptedStyleSheets.length'],
  ['an attribute', "document.documentElement.dataset.tide = 'high';", 'document.documentElement.dataset.tide'],
  ['a node', "document.body.append(document.createElement('aside'));", "document.querySelectorAll('aside').length"],
  ['a title', "document.title = 'Ebb';", 'document.title'],
  ['an address', "history.replaceState(null, '', '/ebb');", 'location.pathname'],
  [
    'an observer',
    'new MutationObserver(() => { globalThis.name = "seen"; }).observe(document, { childList: true, subtree: true });',
    'globalThis.name',
  ],
];

const image = (from: string): string => file("''").replace('<p>', `<p><img src="${from}" alt="" />`);

let folder: string;
let served: Served;

beforeAll(async () => {
  folder = project({
    'sguardo.config.ts': 'export default { lanes: 1 };',
    'src/shelf/shelf.js': 'export const shelf = { count: 0 };',
    'src/shelf/Here.look.jsx': counting,
    'src/shelf/There.look.jsx': counting,
    ...Object.fromEntries(
      marks.flatMap(([, does, shows], i) => [
        [`src/marks/Does${i}.look.jsx`, file('1', does)],
        [`src/marks/Shows${i}.look.jsx`, file(shows)],
      ]),
    ),
    'src/same/Chance.look.jsx': drawn(''),
    'src/same/Other.look.jsx': drawn('!'),
    'src/same/Pressed.look.jsx': `import { click, looks, the } from 'sguardo';
      const Buoy = () => <button>Moor</button>;
      export default looks(Buoy, { states: { pressed: { script: () => click(the.button('Moor')) } } });`,
    'src/same/Focused.look.jsx': `import { useEffect, useRef } from 'react';
      import { looks } from 'sguardo';
      function Buoy() {
        const button = useRef(null);
        useEffect(() => button.current.focus(), []);
        return <button ref={button}>Moor</button>;
      }
      export default looks(Buoy, { states: { plain: {}, again: {} } });`,
    'src/sheets/red.css': 'p { color: red; padding: 2px }',
    'src/sheets/blue.css': 'p { color: blue; margin: 5px }',
    'src/sheets/Bare.look.jsx': file("'bare'"),
    'src/sheets/Red.look.jsx': file("'red'", "import './red.css';"),
    'src/sheets/Blue.look.jsx': file("'blue'", "import './blue.css';"),
    'src/sheets/RedBlue.look.jsx': file("'both'", "import './red.css'; import './blue.css';"),
    'src/sheets/BlueRed.look.jsx': file("'both'", "import './blue.css'; import './red.css';"),
    'public/flag.svg': swatch('navy'),
    'public/pier.svg': swatch('grey'),
    'src/files/One.look.jsx': image('/flag.svg'),
    'src/files/Two.look.jsx': image('/flag.svg'),
    // With three looks it takes longest, and is run first.
    'src/files/Pier.look.jsx': image('/pier.svg').replace('plain: {}', 'plain: {}, more: {}, most: {}'),
    'src/files/None.look.jsx': file("'none'"),
    'src/files/Drawn.look.jsx': `import { useEffect, useRef } from 'react';
      import { looks } from 'sguardo';
      function Drawn() {
        const canvas = useRef(null);
        useEffect(() => {
          const image = new Image();
          image.src = '/pier.svg';
          image.onload = () => canvas.current?.getContext('2d').drawImage(image, 0, 0);
        }, []);
        return <canvas ref={canvas} width="20" height="10" />;
      }
      export default looks(Drawn, { states: { plain: {} } });`,
    'src/last/Good.look.jsx': file('1'),
    'src/last/Bad.look.jsx': file('2'),
  });
  served = await serve(folder);
  // What is new is run alone.
  const { results } = await served.run();
  expect(results.map(({ verdict, problem }) => [verdict, problem])).toEqual(results.map(() => ['new', null]));
  await served.client.decide({ kind: 'approve', all: true });
});

/** Runs the looks of a folder once more. */
const runAll = (name: string, fresh = true) => served.run({ patterns: [`src/${name}/`], fresh });

/** Results that came out otherwise than alone, or of which that was said. */
const wrong = ({ results }: { results: ResultSummary[] }) =>
  results
    .filter(({ verdict, notes }) => verdict !== 'passed' || notes.length > 0)
    .map(({ component, verdict, notes }) => [component, verdict, ...notes]);

it('what one file leaves in a module that another one shares is found, and named with its file', async () => {
  const { results } = await runAll('shelf');
  expect(results.map(({ verdict }) => verdict)).toEqual(['passed', 'passed']);
  const dependent = results.filter(({ orderDependent }) => orderDependent);
  expect(dependent).toHaveLength(1);
  const other = dependent[0]!.component === 'src/shelf/Here' ? 'There' : 'Here';
  const told = `^After “plain” of src/shelf/${other}.look.jsx it came out`;
  expect(dependent[0]!.notes).toEqual([expect.stringMatching(told)]);
  expect(wrong(await runAll('shelf'))).toEqual([]);
});

it('what a file leaves in the document is not there for another one', async () => {
  const found = wrong(await runAll('marks'));
  const name = (component: string): string => marks[Number(/\d+/.exec(component)![0])]![0];
  expect(found.map(([component, ...said]) => [name(component!), ...said])).toEqual([]);
});

it('time and chance are as in a fresh document, and so is the focus after a click', async () => {
  expect(wrong(await runAll('same'))).toEqual([]);
  // By then the window is ready for the next run, in most cases: that shows as little.
  await delay(1000);
  expect(wrong(await runAll('same'))).toEqual([]);
});

it('every file has its own style sheets, in its own order', async () => {
  for (let round = 0; round < 2; round++) expect(wrong(await runAll('sheets'))).toEqual([]);
});

it('what a file has shown is known to be shown by another one, too', async () => {
  await runAll('files');
  expect((await runAll('files', false)).run.reused).toBe(7);
  writeFileSync(join(folder, 'public/flag.svg'), swatch('red'));
  const flag = await runAll('files', false);
  expect([flag.run.reused, flag.run.tally.changed]).toEqual([5, 2]);
  writeFileSync(join(folder, 'public/flag.svg'), swatch('navy'));
  rmSync(join(folder, 'public/pier.svg'));
  const changed = wrong(await runAll('files', false));
  expect(new Set(changed.map(([component]) => component))).toEqual(new Set(['src/files/Drawn', 'src/files/Pier']));
});

it('a file that cannot be evaluated after another one is told as it is alone', async () => {
  writeFileSync(join(folder, 'src/last/Bad.look.jsx'), file('2', "throw new Error('no water');"));
  const { results } = await runAll('last');
  expect(results.map(({ component, verdict, problem }) => [component, verdict, problem?.message]).sort()).toEqual([
    ['src/last/Bad', 'broken', expect.stringContaining('no water')],
    ['src/last/Good', 'passed', undefined],
  ]);
});

it('a sheet that a file begins to load while it is evaluated is there in every document', async () => {
  const own = project({
    'sguardo.config.ts': configuration({ patience: 200 }),
    'src/late.css': 'p { padding: 9px }',
    'src/late.ts': "import './late.css';",
    'src/Buoy.look.tsx': plainFile('return <p>Buoy</p>;', 'plain: {}'),
    'src/Quay.look.tsx': plainFile('return <p>Quay</p>;', 'moored: {}', "queueMicrotask(() => import('./late.ts'));\n"),
  });
  const { client, run } = await serve(own);
  await run();
  await client.decide({ kind: 'approve', all: true });
  // The window has a document made ready by now, in which the frame alone was evaluated.
  for (let times = 0; times < 3; times++)
    expect((await run({ fresh: true })).results.map(({ look, verdict }) => [look, verdict]).sort()).toEqual([
      ['moored', 'passed'],
      ['plain', 'passed'],
    ]);
});
