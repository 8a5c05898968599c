/** Tab presses at the ends of looks: what a page does with the keyboard then is not the look's doing, and is known. */
import { beforeAll, expect, test } from 'vitest';
import { configuration, project, write } from '../support/project.ts';
import { serve, type Served } from '../support/service.ts';

/** What each look does when an element gets the focus, as the body of a handler. */
const doings = {
  quiet: '',
  throws: "throw new Error('no focus, please')",
  rejects: "Promise.reject(new Error('later'))",
  fetches: "fetch('/api/nobody')",
  logs: "console.error('focused')",
  asks: "alert('Hello')",
  leaves: "location.href = '/elsewhere'",
  'opens a window': "window.open('/elsewhere')",
  closes: 'window.close()',
  'never ends': 'for (;;) {}',
  'removes itself': 'event.currentTarget.remove()',
  'takes it back': 'event.currentTarget.blur()',
  'takes it elsewhere': "document.getElementById('first').focus()",
  'grows the page': "document.body.append(...Array.from({ length: 500 }, () => document.createElement('button')))",
  'sets timers': 'setInterval(() => event.target.focus(), 1)',
};

const looksOf = (label: string): string =>
  `import { looks } from 'sguardo';
const doings = ${JSON.stringify(doings)};
function Pair({ doing }) {
  const run = new Function('event', doing);
  return <main><button id="first">First</button><button onFocus={run}>${label}</button><button>Last</button></main>;
}
export default looks(Pair, {
  timeLimit: 2000,
  states: Object.fromEntries(Object.entries(doings).map(([name, doing]) => [name, { props: { doing } }])),
});`;

let served: Served;
let root: string;

beforeAll(async () => {
  root = project({ 'src/Pair.look.jsx': looksOf('Second'), 'sguardo.config.ts': configuration({ lanes: 2 }) });
  served = await serve(root);
}, 120_000);

test('whatever the page does with the focus, the look is what it was', async () => {
  const { look } = await served.run();
  for (const name of Object.keys(doings)) {
    const { verdict, problem } = look(name);
    expect([name, verdict, problem]).toEqual([name, 'new', null]);
  }
  const told = (name: string): string => look(name).notes.join('\n');
  expect(told('quiet')).toBe('');
  expect(told('fetches')).toBe('');
  expect(told('never ends')).toMatch(/^When Tab was tried on its page at the end: /);
}, 240_000);

const mixed = (label: string, onKey: string): string => `import { looks } from 'sguardo';
const trap = (event) => {
  if (event.key === 'Tab') ${onKey};
};
function Mixed() {
  return (
    <main>
      <style>{'.bare:focus { outline: none } .faint { color: #ccc }'}</style>
      <p className="faint">Hard to read</p>
      <svg role="img">
        <title>Tide</title>
      </svg>
      <img src="/quay.png" />
      <button className="bare">${label}</button>
      <button onKeyDown={trap}>Second</button>
    </main>
  );
}
export default looks(Mixed, { states: { one: {}, two: {} } });`;

/** What was found of the component Mixed, without which results and pictures show it. */
async function found(): Promise<object[]> {
  const { findings } = await served.client.accessibility();
  return findings
    .filter(({ component }) => component.endsWith('Mixed'))
    .map(({ rule, element, what, sightings }) => ({
      rule,
      element,
      what,
      sightings: sightings.map(({ look, node, box, step }) => ({ look, node, box, step })),
    }));
}

const rulesOf = async (): Promise<string[]> => (await found()).map((one) => (one as { rule: string }).rule);

test('pages are not equal for a title, or a handler in the markup', async () => {
  const page = (html: string): string => `{ props: { html: ${JSON.stringify(html)} } }`;
  write(root, {
    'src/Two.look.jsx': `import { looks } from 'sguardo';
function Two({ html }) { return <div dangerouslySetInnerHTML={{ __html: html }} />; }
export default looks(Two, { states: {
  'no title': ${page('<svg role="img"><title></title></svg>')},
  title: ${page('<svg role="img"><title>Tide</title></svg>')},
  'no handler': ${page('<a>Go</a>')},
  handler: ${page('<a onclick="go()">Go</a>')},
} });`,
  });
  await served.run({ patterns: ['Two'] });
  const { findings } = await served.client.accessibility();
  const shown = findings.filter(({ component }) => component.endsWith('Two'));
  const looksWith = (rule: string): string[] =>
    shown.filter((one) => one.rule === rule).flatMap(({ sightings }) => sightings.map(({ look }) => look));
  expect(looksWith('drawing-has-text')).toEqual(['no title']);
  expect(looksWith('link-has-address')).toEqual(['handler']);
}, 60_000);

test('what is known of an equal page is told again; where Tab leads is tried again with new code', async () => {
  const file = 'src/Mixed.look.jsx';
  const patterns = ['Mixed'];
  write(root, { [file]: mixed('Go', 'null') });
  await served.run({ patterns });
  const first = await found();
  expect(await rulesOf()).toEqual(
    expect.arrayContaining(['focus-is-visible', 'text-has-contrast', 'picture-has-text']),
  );
  expect(await rulesOf()).not.toContain('tab-leads-on');
  // Other code, and the same page: nothing but the keyboard is looked at again.
  write(root, { [file]: `${mixed('Go', 'undefined')}\nexport const unused = 1;` });
  expect((await served.run({ patterns })).run.reused).toBe(0);
  expect(await found()).toEqual(first);
  await served.run({ patterns, fresh: true });
  expect(await found()).toEqual(first);
  write(root, { [file]: mixed('Go', 'event.preventDefault()') });
  await served.run({ patterns });
  expect(await rulesOf()).toContain('tab-leads-on');
  // Another page.
  write(root, { [file]: mixed('Go on', 'null').replace('outline: none', 'color: red') });
  await served.run({ patterns });
  expect(await rulesOf()).not.toContain('focus-is-visible');
  expect(await rulesOf()).not.toContain('tab-leads-on');
}, 120_000);

const layered = `import { useEffect, useRef, useState } from 'react';
import { looks, press } from 'sguardo/react';
function Office({ keeps, loops, opens = true }) {
  const [isOpen, setOpen] = useState(opens);
  const own = useRef(null);
  useEffect(() => {
    if (!isOpen) return;
    own.current?.focus();
    const back = ({ target }) => keeps && !target.closest('[role=dialog]') && own.current.focus();
    document.addEventListener('focusin', back);
    return () => document.removeEventListener('focusin', back);
  }, [isOpen]);
  useEffect(() => {
    const listen = ({ key }) => { if (key === 'o') setOpen(true); if (key === 'Escape') setOpen(false); };
    window.addEventListener('keydown', listen);
    return () => window.removeEventListener('keydown', listen);
  }, []);
  const stays = (event) => loops && event.key === 'Tab' && event.preventDefault();
  return <>
    <main aria-hidden={isOpen || undefined}><button>Release</button><button>Moor</button></main>
    {isOpen && <div role="dialog" aria-label="Release berth?"><button ref={own} onKeyDown={stays}>Yes</button></div>}
  </>;
}
export default looks(Office, { states: {
  'keeps the focus': { props: { keeps: true } },
  'lets it go': {},
  'has one control': { props: { keeps: true, loops: true } },
  'opened and closed by keys': { props: { opens: false }, async script() { await press('o'); await press('Escape'); } },
} });`;

test('a layer that keeps the focus hides what is behind it; one that does not is told', async () => {
  write(root, { 'src/Office.look.jsx': layered });
  const { run } = await served.run({ patterns: ['Office'] });
  expect(run.tally).toMatchObject({ new: 4 });
  const { findings } = await served.client.accessibility();
  const told = findings
    .filter(({ component }) => component.endsWith('Office'))
    .flatMap(({ rule, what, sightings }) => sightings.map(({ look }) => `${look}: ${rule}: ${what}`));
  expect(told.filter((one) => /hidden-is|tab-leads|focus-is-not-lost/.test(one))).toEqual([
    'lets it go: hidden-is-not-focusable: Tab comes to it, and aria-hidden hides it.',
  ]);
}, 60_000);

test('a page that takes the focus back later keeps it as well', async () => {
  write(root, {
    'src/Clinging.look.jsx': `import { useRef } from 'react';
import { looks } from 'sguardo/react';
function Clinging() {
  const own = useRef(null);
  return <main>
    <button>Release</button>
    <button ref={own} onBlur={() => setTimeout(() => own.current.focus(), 0)}>Moor</button>
    {Array.from({ length: 12 }, (_, i) => <button key={i}>Berth {i}</button>)}
  </main>;
}
export default looks(Clinging, { states: { plain: {} } });`,
  });
  await served.run({ patterns: ['Clinging'] });
  const { findings } = await served.client.accessibility();
  const told = findings.filter(({ component, rule }) => component.endsWith('Clinging') && rule === 'tab-leads-on');
  expect(told.map(({ element }) => element)).toEqual(['button “Moor”']);
}, 60_000);

test('stops that follow one another are seen as such, also where a list shows other rows as it scrolls', async () => {
  write(root, {
    'src/Quay.look.jsx': `import { useState } from 'react';
import { looks } from 'sguardo/react';
function Quay() {
  const [first, setFirst] = useState(0);
  const rows = Array.from({ length: 6 }, (_, i) => first + i);
  return <div style={{ height: 180, overflow: 'hidden' }}>
    {rows.map((row, i) => <button key={row % 6} style={{ display: 'block', height: 30 }}
      onFocus={() => i > 3 && setFirst(first + 1)}>Berth {row}</button>)}
  </div>;
}
export default looks(Quay, { states: { plain: {} } });`,
  });
  await served.run({ patterns: ['Quay'] });
  const { findings } = await served.client.accessibility();
  const told = findings.filter(({ component, rule }) => component.endsWith('Quay') && rule === 'tab-follows-page');
  expect(told).toEqual([]);
}, 60_000);
