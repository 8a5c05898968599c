/** What steps cost, measured in a browser: where the time goes, budgets, and how it is told. */
import { beforeAll, expect, test } from 'vitest';
import type { Flame } from '../../src/core/timing/costs.ts';
import { sguardo } from '../support/cli.ts';
import { openConsole } from '../support/page.ts';
import { project } from '../support/project.ts';
import { type Served, serve } from '../support/service.ts';

const component = `import { useState } from 'react';
function grind(n) { let x = 1; for (let i = 0; i < n; i++) x = (x * 31 + i) % 1000003; return x; }
function Row({ n }) { return <li>{n}</li>; }
export function Mill() {
  const [ground, setGround] = useState(0);
  return <div>
    <button onClick={() => setGround(grind(1e7))}>Grind</button>
    <p>{ground === 0 ? 'idle' : 'ground'}</p>
    {ground > 0 && <ul>{Array.from({ length: 300 }, (_, n) => <Row key={n} n={n} />)}</ul>}
  </div>;
}
`;
const looks = `import { click, ensure, looks, the } from 'sguardo';
import { Mill } from './Mill';
const script = async () => { await click(the.button('Grind')); await ensure(the.text('ground')).isVisible(); };
export default looks(Mill, { budget: { script: 60_000 }, states: {
  idle: {},
  grinds: { script },
  'is too dear': { script, budget: { script: 0.5, shift: 100 } },
} });
`;

let root: string;
let served: Served;

beforeAll(async () => {
  root = project({ 'src/Mill.tsx': component, 'src/Mill.look.tsx': looks });
  served = await serve(root);
});

const names = ({ name, kids }: Flame): string[] => [name, ...kids.flatMap(names)];

test('a step has what it cost, and the functions that it spent it in', async () => {
  const { look } = await served.run({ timing: true, fresh: true });
  const { steps, flames } = await served.client.timeline(look('grinds').id);
  const click = steps.find(({ title }) => title.startsWith('click'))!;
  expect(click.costs!.script).toBeGreaterThan(5);
  expect(click.costs!.longest).toBeGreaterThan(5);
  // What its handler does comes before anything can be painted.
  expect(click.costs!.toPaint).toBeGreaterThan(click.costs!.longest / 2);
  // One for the state that it sets.
  expect(click.costs!.renders).toBe(1);
  const others = steps.filter(({ index, costs }) => index !== click.index && costs);
  for (const { costs } of others) expect(costs!.script).toBeLessThan(click.costs!.script);
  const ran = names(flames![click.index]!);
  expect(ran).toContain('grind');
  // Nothing of what records, finds or waits.
  for (const ours of ['flush', 'findAll', 'retry', 'untilStill']) expect(ran).not.toContain(ours);
  expect(look('idle').verdict).toBe('new');
});

test('a look that spends more than its budget fails, and says on what', async () => {
  const { look } = await served.run({ timing: true, fresh: true, patterns: ['is too dear'] });
  const { verdict, problem } = look('is too dear');
  expect([verdict, problem?.code]).toEqual(['failed', 'budget-spent']);
  expect(problem!.found).toEqual([expect.stringMatching(/^script: [\d.]+ ms, at most 0\.5 ms$/)]);
  // Nothing is spent where nothing is measured.
  expect((await served.run({ fresh: true })).look('is too dear').verdict).toBe('new');
});

test('a timed run is told as a table, and compared with the one before', async () => {
  const first = await sguardo(root, 'run', 'grinds', '--timing', '--repeat', '3', '--json');
  const { timing } = JSON.parse(first.out) as {
    timing: { looks: { look: string; times: number }[]; before: number | null };
  };
  expect(timing.looks.map(({ look, times }) => [look, times])).toEqual([['grinds', 3]]);
  // Nothing was approved by then.
  expect(timing.before).toBeNull();
  expect((await sguardo(root, 'approve', 'grinds')).code).toBe(0);
  await sguardo(root, 'run', 'grinds', '--timing', '--repeat', '3');
  const { code, out } = await sguardo(root, 'run', 'grinds', '--timing', '--repeat', '3');
  expect(code).toBe(0);
  expect(out).toMatch(/timing +script +style +layout +paint +longest +→ paint/);
  expect(out).toMatch(/Mill › grinds, day +[\d.]+/);
  expect(out).toMatch(/medians of 3 runs\. (Nothing differs|1 look differs) from run \d+ by more than noise/);
});

test('the bench shows it, and one function alone', async () => {
  const { look } = await served.run({ timing: true, fresh: true, patterns: ['grinds'] });
  const page = await openConsole(served.service.url);
  await page.open(`/bench/${look('grinds').id}?step=1`);
  await page.shows('What it cost');
  await page.shows('input to paint');
  await page.click('grind');
  await page.shows('src/Mill.tsx:2');
  expect(await page.text()).toContain('Cost');
});
