/** That looks share a document never shows: what counts is how each comes out alone. */
import { beforeAll, expect, it } from 'vitest';
import { lookFile, markupIn, project, write } from '../support/project.ts';
import { serve, type Served } from '../support/service.ts';

/** A module that keeps a value from one look to the next. */
const shelf = (more = ''): string => `import { looks, ensure } from 'sguardo';
let held = 0;
const opened = (globalThis.opened = (globalThis.opened ?? 0) + 1);
function Shelf({ adds = 0, label }) { held += adds; return <p>{label} {held} {opened}</p>; }
export default looks(Shelf, { props: { label: 'Nets' }, states: {
  full: { props: { adds: 3 } },
  plain: { props: { label: 'Ropes' } },
  empty: {},
  ${more}
} });
`;

let folder: string;
let served: Served;
beforeAll(async () => {
  folder = project({
    'sguardo.config.ts': 'export default { lanes: 1 };',
    'src/Shelf.look.jsx': shelf(),
    'src/Own.look.jsx': shelf().replace('states: {', 'isolate: true, patience: 100, states: {'),
  });
  served = await serve(folder);
});

it('what is approved owes nothing to other looks', async () => {
  const { results } = await served.run();
  expect(results.map(({ verdict, notes }) => [verdict, notes])).toEqual(results.map(() => ['new', []]));
  await served.client.decide({ kind: 'approve', all: true });
  expect(markupIn(folder, 'src/Shelf/empty').join()).toContain('Nets,    0,    1');
});

it('what others change is found, named, and kept apart from then on', async () => {
  const second = await served.run();
  expect(second.results.map(({ verdict }) => verdict)).toEqual(second.results.map(() => 'passed'));
  const told = (name: string) =>
    second.results.flatMap(({ component, look, orderDependent, notes }) =>
      component === 'src/Shelf' && look === name ? [[orderDependent, ...notes]] : [],
    );
  expect(told('full')).toEqual([[false]]);
  expect(told('plain')).toEqual([[true, expect.stringMatching(/^After “full” it came out as changed\./)]]);
  expect(told('empty')).toEqual([[true, expect.stringMatching(/^After “full” it came out as changed\./)]]);
  expect(second.results.filter(({ component }) => component === 'src/Own').flatMap(({ notes }) => notes)).toEqual([]);

  const third = await served.run({ fresh: true });
  expect(third.results.map(({ verdict, notes }) => [verdict, notes])).toEqual(third.results.map(() => ['passed', []]));
});

it('a real change is reported once it was confirmed alone, and a look of its own is found', async () => {
  write(folder, {
    'src/Shelf.look.jsx': shelf('late: { async script() { await ensure(held).equals(0); } },').replace('Ropes', 'Rope'),
  });
  const { look } = await served.run({ patterns: ['Shelf'] });
  expect([look('plain').verdict, look('plain').orderDependent, look('plain').notes]).toEqual(['changed', false, []]);
  expect([look('late').verdict, look('late').notes]).toEqual(['new', []]);
});

it('settings of a look file are numbers in their range', async () => {
  write(folder, {
    'src/Odd.look.tsx': lookFile('return null;', "plain: { patience: 'long' }"),
    'src/Short.look.tsx': lookFile('return null;', 'plain: { timeLimit: 5 }'),
    'src/Yes.look.tsx': lookFile('return null;', "plain: { isolate: 'look' }"),
    'src/Quick.look.tsx': lookFile(
      'return null;',
      "plain: { patience: 70, script: () => ensure(the.button('Net')).isVisible() }",
    ),
    'src/Endless.look.tsx': lookFile(
      'return null;',
      'plain: { timeLimit: 300, async script() { for (;;) await new Promise((go) => setTimeout(go, 20)); } }',
    ),
  });
  const { results } = await served.run({ patterns: ['Odd', 'Short', 'Yes', 'Quick', 'Endless'] });
  const said = (name: string) => results.find(({ component }) => component === `src/${name}`)!.problem!.message;
  expect(said('Odd')).toContain('The look “plain” has the patience "long".');
  expect(said('Short')).toContain('The look “plain” has the timeLimit 5.');
  expect(said('Yes')).toContain('The look “plain” has the isolate "look".');
  expect(said('Quick')).toContain('within 70 ms');
  expect(said('Endless')).toContain('300 ms');
});

it('a module that keeps how a page was used is found out, although only the keyboard was tried', async () => {
  const { run, client } = await serve(
    project({
      'sguardo.config.ts': 'export default { lanes: 1 };',
      'src/Helm.look.jsx': `import { looks } from 'sguardo';
let used = 'nothing';
addEventListener('keydown', () => { used = 'the keyboard'; });
export default looks(() => <p>Used: {used} <button>Port</button></p>, { states: { first: {}, second: {} } });`,
    }),
  );
  await run();
  await client.decide({ kind: 'approve', all: true });
  const { look } = await run({ fresh: true });
  expect([look('first').verdict, look('second').verdict]).toEqual(['passed', 'passed']);
  expect([look('second').isUnsteady, look('second').orderDependent]).toEqual([false, true]);
});
