/** Modules that a component imports lazily: they come in the order in which they were asked for. */
import { beforeAll, expect, it } from 'vitest';
import { momentAt } from '../../src/core/moment/patch.ts';
import { project } from '../support/project.ts';
import { type Served, serve } from '../support/service.ts';

const chart = `import { ensure, looks, the } from 'sguardo';
import { useEffect, useState } from 'react';
type Layer = { name: string };
function Chart({ layers }: { layers: (() => Promise<Layer>)[] }) {
  const [came, setCame] = useState('Came:');
  useEffect(() => {
    const tell = (word: string) => setCame((before) => before + ' ' + word);
    for (const layer of layers) layer().then(({ name }) => tell(name), () => tell('nothing'));
  }, []);
  return <p>{came}</p>;
}
const deep = () => import('./deep');
const shoal = () => import('./shoal');
const reads = (text: string) => async () => void (await ensure(the.text(text)).isVisible());
export default looks(Chart, { states: {
  'as asked for': { props: { layers: [deep, shoal] }, script: reads('Came: deep shoal') },
  'one is broken': { props: { layers: [() => import('./broken'), shoal] }, script: reads('Came: nothing shoal') },
  'one waits for another': { props: { layers: [() => import('./nested')] }, script: reads('Came: nested shoal') },
  'one waits for time': { props: { layers: [() => import('./timed'), shoal] }, script: reads('Came: shoal timed') },
} });
`;

let served: Served;
let results: Awaited<ReturnType<Served['run']>>;
beforeAll(async () => {
  served = await serve(
    project({
      'src/Chart.look.tsx': chart,
      // It takes longer to come than the one that is asked for after it.
      'src/deep.ts': `export const name = 'deep';\nexport const soundings = '${'7 fathoms '.repeat(400_000)}';`,
      'src/shoal.ts': `export const name = 'shoal';`,
      'src/broken.ts': `export const name = ((): string => { throw new Error('No soundings here'); })();`,
      'src/nested.ts': `const { name: inner } = await import('./shoal');\nexport const name = 'nested ' + inner;`,
      'src/timed.ts': `await new Promise((go) => setTimeout(go, 50));\nexport const name = 'timed';`,
    }),
  );
  results = await served.run();
});

it.each(['as asked for', 'one is broken', 'one waits for another', 'one waits for time'])('%s', (name) => {
  const { verdict, problem } = results.look(name);
  expect([verdict, problem?.message]).toEqual(['new', undefined]);
});

it('a look is mounted when they have come', async () => {
  const { base, patches, steps } = await served.client.timeline(results.look('as asked for').id);
  const mounted = momentAt(base, patches, steps[0]!.after!);
  expect(JSON.stringify(mounted)).toContain('Came: deep shoal');
});

it('what the module of a look imports without waiting for it has come before its looks begin', async () => {
  const begun = `import { looks, ensure, the } from 'sguardo';
const came = ['Came:'];
// Each is asked for when the one before it has come, as libraries do that read a language and then its words.
import('./deep')
  .then(({ name }) => {
    came.push(name);
    return import('./shoal');
  })
  .then(({ name }) => came.push(name));
export default looks(() => <p>{came.join(' ')}</p>, {
  states: Object.fromEntries([1, 2, 3].map((n) => ['look ' + n, {}])),
});`;
  const { run, client } = await serve(
    project({
      'src/Begun.look.tsx': begun,
      'src/deep.ts': `export const name = 'deep';\nexport const soundings = '${'7 fathoms '.repeat(400_000)}';`,
      'src/shoal.ts': `export const name = 'shoal';`,
    }),
  );
  const { results: all } = await run();
  expect(all).toHaveLength(3);
  for (const { id } of all) {
    const { base, patches, steps } = await client.timeline(id);
    expect(JSON.stringify(momentAt(base, patches, steps[0]!.after!))).toContain('Came: deep shoal');
  }
});
