/** Looks that come out differently under other conditions: found, placed and explained, and not approved unawares. */
import { beforeAll, expect, it } from 'vitest';
import type { ResultSummary } from '../../src/core/run/run.ts';
import { sguardo } from '../support/cli.ts';
import { openConsole } from '../support/page.ts';
import { childrenOf } from '../support/processes.ts';
import { lookFile, project } from '../support/project.ts';
import { serve, type Served } from '../support/service.ts';

let folder: string;
let served: Served;
let results: ResultSummary[];
beforeAll(async () => {
  folder = project({
    'src/Buoy.look.tsx': lookFile('return <p>Buoy</p>;', 'plain: {}'),
    'src/Chance.look.tsx': lookFile('return <p>{URL.createObjectURL(new Blob([]))}</p>;', 'plain: {}'),
    // Its picture is always the same: only the markup tells how many were mounted before.
    'src/Count.look.tsx': `let count = 0;
${lookFile('return <p data-count={++count}>Count</p>;', 'a: {}, b: {}, c: {}, d: {}')}`,
  });
  served = await serve(folder);
  ({ results } = await served.run({ repeat: 3, steady: true }));
});

it('every look is run in every round, and what differs is marked', () => {
  const rounds = (component: string) =>
    results.filter((one) => one.component === component).map(({ repetition, isUnsteady }) => [repetition, isUnsteady]);
  expect(rounds('src/Buoy')).toEqual([
    [1, false],
    [2, false],
    [3, false],
  ]);
  expect(rounds('src/Chance')).toEqual([
    [1, false],
    [2, true],
    [3, true],
  ]);
  const [note] = results.find(({ component, repetition }) => component === 'src/Chance' && repetition === 2)!.notes;
  expect(note).toMatch(
    /^In round 2 \(1 lane, busy processor, .*\) it came out differently from the first round at step 1/,
  );
  expect(note).toMatch(/a name that the browser makes up by chance/);
});

it('leaves no loop behind', () => {
  expect(childrenOf(process.pid).filter(({ command }) => command.includes('process.ppid'))).toEqual([]);
});

it('an unsteady capture is approved only when that is said', async () => {
  const refused = await sguardo(folder, 'approve', '--all');
  expect(refused.err).toMatch(/✗ 1 capture is unsteady: Chance › plain \(end\)\.\n→ .*--unsteady/);
  expect(refused.code).toBe(2);
  const approved = await sguardo(folder, 'approve', '--all', '--unsteady');
  expect(approved.out).toContain('6 captures approved.');
});

it('the command says how many, which and why', async () => {
  const { code, out } = await sguardo(folder, 'steady', '--rounds', '2');
  expect(out).toMatch(/≈ unsteady {2}Chance › plain {2}day\n {2}In round 2 /);
  expect(out).toMatch(/^1 look of 6 came out differently in 2 rounds/m);
  expect(code).toBe(1);
  expect(out).not.toContain('Count');
  const steady = await sguardo(folder, 'steady', 'Buoy', '--rounds', '2');
  expect(steady.out).toMatch(/^0 looks of 1 came out differently in 2 rounds/m);
  expect(steady.code).toBe(0);
});

it('a command that is stopped says how many rounds there were', async () => {
  const said = sguardo(folder, 'steady', 'Buoy', '--rounds', '60');
  const going = async () => (await served.client.project()).run;
  await expect.poll(async () => ((await going())?.done ?? 0) > 2, { timeout: 60_000 }).toBe(true);
  expect((await going())!.planned).toBe(60);
  await served.client.stopRun((await going())!.id);
  const { code, out } = await said;
  expect(out).toMatch(/^0 looks of 1 came out differently in \d+ of 60 rounds/m);
  expect(code).toBe(1);
});

it('the console asks before it approves an unsteady capture', async () => {
  const page = await openConsole(served.service.url);
  await page.open('/review');
  await page.shows('unsteady');
  await page.press('a');
  await page.shows('1 capture is unsteady: Chance › plain (end).');
  const open = (): Promise<number> => served.client.project().then(({ undecided }) => undecided);
  expect(await open()).toBe(1);
  await page.click('Approve anyway');
  await page.shows('All decided');
  // The page goes on before the service has written everything.
  await expect.poll(open).toBe(0);
});
