/** A document that serves file after file: none of them can tell. */
import { rmSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { expect, it } from 'vitest';
import type { ResultSummary } from '../../src/core/run/run.ts';
import { project } from '../support/project.ts';
import { serve, type Served } from '../support/service.ts';

const config = 'export default { lanes: 1 };';

/** A look file with one look, which shows `what`; `before` is done when the file is evaluated. */
const file = (what: string, before = ''): string => `import { click, looks, the } from 'sguardo';
${before}
function Float() { return <p>{String(${what})}</p>; }
export default looks(Float, { states: { plain: {} } });
`;

/** Serves a project whose looks have all been approved as they are alone. */
async function approved(files: Record<string, string>): Promise<Served & { folder: string }> {
  const folder = project({ 'sguardo.config.ts': config, ...files });
  const served = await serve(folder);
  const { results } = await served.run();
  expect(results.map(({ verdict, problem }) => [verdict, problem])).toEqual(results.map(() => ['new', null]));
  await served.client.decide({ kind: 'approve', all: true });
  return { ...served, folder };
}

const told = (results: ResultSummary[]) =>
  results.map(({ component, verdict, notes }) => [component, verdict, ...notes]).sort();

it('what one file leaves in a module that another one shares is found, and named with its file', async () => {
  const counting = file('(shelf.count += 1)', "import { shelf } from './shelf.js';");
  const { run } = await approved({
    'src/shelf.js': 'export const shelf = { count: 0 };',
    'src/Here.look.jsx': counting,
    'src/There.look.jsx': counting,
  });
  const { results } = await run({ fresh: true });
  expect(results.map(({ verdict }) => verdict)).toEqual(['passed', 'passed']);
  const dependent = results.filter(({ orderDependent }) => orderDependent);
  expect(dependent).toHaveLength(1);
  const other = dependent[0]!.component === 'src/Here' ? 'src/There' : 'src/Here';
  expect(dependent[0]!.notes).toEqual([expect.stringMatching(`^After “plain” of ${other}.look.jsx it came out`)]);
  const again = await run({ fresh: true });
  expect(again.results.flatMap(({ notes }) => notes)).toEqual([]);
});

/** What a file may do when it is evaluated, and what shows it. */
const marks: [name: string, does: string, shows: string][] = [
  ['a global', 'globalThis.tide = 3;', 'globalThis.tide'],
  ['a replaced native', 'Array.prototype.last = () => 3;', '[].last'],
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

it('what a file leaves in the document is not there for another one', async () => {
  const { run } = await approved(
    Object.fromEntries(
      marks.flatMap(([, does, shows], i) => [
        [`src/Does${i}.look.jsx`, file('1', does)],
        [`src/Shows${i}.look.jsx`, file(shows)],
      ]),
    ),
  );
  const { results } = await run({ fresh: true });
  const name = (component: string): string => marks[Number(/\d+/.exec(component)![0])]![0];
  const wrong = results.filter(({ verdict, notes }) => verdict !== 'passed' || notes.length > 0);
  expect(wrong.map(({ component, notes }) => [component, name(component), ...notes])).toEqual([]);
});

it('time and chance are as in a fresh document, and so is the focus after a click', async () => {
  const { run } = await approved({
    'src/Chance.look.jsx': file('drawn', 'const drawn = [Math.random(), Date.now(), performance.now()].join();'),
    'src/Other.look.jsx': file('drawn', 'const drawn = [Math.random(), Date.now(), performance.now()].join() + "!";'),
    'src/Pressed.look.jsx': `import { click, looks, the } from 'sguardo';
      const Buoy = () => <button>Moor</button>;
      export default looks(Buoy, { states: { pressed: { script: () => click(the.button('Moor')) } } });`,
    'src/Focused.look.jsx': `import { useEffect, useRef } from 'react';
      import { looks } from 'sguardo';
      function Buoy() {
        const button = useRef(null);
        useEffect(() => button.current.focus(), []);
        return <button ref={button}>Moor</button>;
      }
      export default looks(Buoy, { states: { plain: {}, again: {} } });`,
  });
  for (let round = 0; round < 2; round++) {
    const { results } = await run({ fresh: true });
    expect(told(results)).toEqual(results.map(({ component }) => [component, 'passed']).sort());
  }
});

it('every file has its own style sheets, in its own order', async () => {
  const { run } = await approved({
    'src/red.css': 'p { color: red; padding: 2px }',
    'src/blue.css': 'p { color: blue; margin: 5px }',
    'src/Bare.look.jsx': file("'bare'"),
    'src/Red.look.jsx': file("'red'", "import './red.css';"),
    'src/Blue.look.jsx': file("'blue'", "import './blue.css';"),
    'src/RedBlue.look.jsx': file("'both'", "import './red.css'; import './blue.css';"),
    'src/BlueRed.look.jsx': file("'both'", "import './blue.css'; import './red.css';"),
  });
  for (let round = 0; round < 2; round++) {
    const { results } = await run({ fresh: true });
    expect(told(results)).toEqual(results.map(({ component }) => [component, 'passed']).sort());
  }
});

it('what a file has shown is known to be shown by another one, too', async () => {
  const svg = (colour: string): string =>
    `<svg xmlns="http://www.w3.org/2000/svg" width="20" height="10"><rect width="20" height="10" fill="${colour}"/></svg>`;
  const image = (from: string): string => file("''").replace('<p>', `<p><img src="${from}" alt="" />`);
  const { run, folder } = await approved({
    'public/flag.svg': svg('navy'),
    'public/pier.svg': svg('grey'),
    'public/tides.json': '[1]',
    'src/One.look.jsx': image('/flag.svg'),
    'src/Two.look.jsx': image('/flag.svg'),
    // With three looks it takes longest, and is run first.
    'src/Pier.look.jsx': image('/pier.svg').replace('plain: {}', 'plain: {}, more: {}, most: {}'),
    'src/None.look.jsx': file("'none'"),
    'src/Drawn.look.jsx': `import { useEffect, useRef } from 'react';
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
  });
  await run({ fresh: true });
  expect((await run()).run.reused).toBe(7);
  writeFileSync(join(folder, 'public/flag.svg'), svg('red'));
  const flag = await run();
  expect([flag.run.reused, flag.run.tally.changed]).toEqual([5, 2]);
  writeFileSync(join(folder, 'public/flag.svg'), svg('navy'));
  rmSync(join(folder, 'public/pier.svg'));
  const pier = await run();
  const changed = pier.results.filter(({ verdict }) => verdict !== 'passed');
  expect(new Set(changed.map(({ component }) => component))).toEqual(new Set(['src/Drawn', 'src/Pier']));
});

it('a file that cannot be evaluated after another one is told as it is alone', async () => {
  const { run, folder } = await approved({ 'src/Good.look.jsx': file('1'), 'src/Bad.look.jsx': file('2') });
  writeFileSync(join(folder, 'src/Bad.look.jsx'), file('2', "throw new Error('no water');"));
  const { results } = await run({ fresh: true });
  expect(results.map(({ component, verdict, problem }) => [component, verdict, problem?.message]).sort()).toEqual([
    ['src/Bad', 'broken', expect.stringContaining('no water')],
    ['src/Good', 'passed', undefined],
  ]);
});
