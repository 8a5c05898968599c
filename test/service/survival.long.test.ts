/** What is killed in the middle of a run: nothing approved is lost, and every run gets its end. */
import { setTimeout as delay } from 'node:timers/promises';
import { existsSync, readdirSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { expect, it } from 'vitest';
import { connect } from '../../src/client/client.ts';
import { ended, serveByCommand } from '../support/cli.ts';
import { gate } from '../support/gate.ts';
import { childrenOf, descendantsOf } from '../support/processes.ts';
import { configuration, plainFile, project, write } from '../support/project.ts';
import { finished, serve } from '../support/service.ts';

/** Six looks; from the third on they do what is given. */
const six = (then = ''): string =>
  plainFile(
    'return <p>{props.name}</p>;',
    Array.from(
      { length: 6 },
      (_, i) => `'look ${i}': { props: { name: 'buoy ${i}' }, async script() { ${i < 2 ? '' : then} } }`,
    ).join(', '),
  );

const unhurried = () => ({ 'sguardo.config.ts': configuration({ timeLimit: 60_000, lanes: 2 }) });

const browsersOf = (pid: number) =>
  childrenOf(pid).filter(({ command }) => command.includes('--remote-debugging-pipe'));

/** Ends the processes of all pages of browsers that this process has started. */
function killRenderers(): void {
  for (const { pid } of descendantsOf(process.pid).filter(({ command }) => command.includes('--type=renderer')))
    process.kill(pid, 'SIGKILL');
}

it('a browser that is killed is started again, and every look gets its verdict', async () => {
  const { wait, reached, open } = await gate();
  const { client, run } = await serve(
    project({ ...unhurried(), 'src/A.look.tsx': six(wait), 'src/B.look.tsx': six(wait) }),
  );
  const { id } = await client.startRun({});
  await reached;
  const [browser] = browsersOf(process.pid);
  process.kill(browser!.pid, 'SIGKILL');
  open();
  const summary = await finished(client, id);
  expect(summary).toMatchObject({ status: 'finished', problems: [], planned: 12, done: 12 });
  expect(summary.tally).toMatchObject({ new: 12, broken: 0, failed: 0 });
  // And the next run finds a browser, too.
  expect((await run({ patterns: ['A/look 0'] })).run.tally.new).toBe(1);
});

it('a page that is killed is tried again, and says so', async () => {
  const { wait, reached, open } = await gate();
  const { client } = await serve(
    project({ 'sguardo.config.ts': configuration({ lanes: 1, timeLimit: 60_000 }), 'src/A.look.tsx': six(wait) }),
  );
  const { id } = await client.startRun({});
  await reached;
  killRenderers();
  open();
  expect(await finished(client, id)).toMatchObject({ status: 'finished', done: 6, tally: { broken: 0, new: 6 } });
  const notes = (await client.runResults(id)).flatMap((result) => result.notes);
  expect(notes.filter((note) => !note.startsWith('It asks the real network'))).toEqual([
    'At the first try: The page crashed.',
  ]);
});

it('pages that are killed between two runs are replaced before the next one', async () => {
  const { run } = await serve(project({ 'src/A.look.tsx': six() }));
  await run();
  killRenderers();
  expect((await run()).run).toMatchObject({ status: 'finished', done: 6, tally: { new: 6 } });
  // When they are made ready for the next run, a moment after one has ended, and the next run begins meanwhile.
  for (const moment of [250, 300, 350]) {
    await delay(moment);
    killRenderers();
    const { run: told, results } = await run();
    expect(told).toMatchObject({ status: 'finished', done: 6, tally: { new: 6 } });
    expect(results.flatMap(({ notes }) => notes)).toEqual([]);
  }
  // And in the first moments of a run, when windows are prepared.
  const next = run();
  killRenderers();
  expect((await next).run).toMatchObject({ status: 'finished', done: 6, tally: { new: 6 } });
});

it('a service that is killed loses no baseline, and tells of the run that it could not end', async () => {
  const { wait, reached, open } = await gate();
  const folder = project({ 'src/A.look.tsx': six() });
  const first = await serveByCommand(folder);
  const before = connect(first.url);
  await finished(before, (await before.startRun({})).id);
  expect((await before.decide({ kind: 'approve', all: true })).decided).toHaveLength(6);
  write(folder, { 'src/A.look.tsx': six(wait) });
  const { id } = await before.startRun({});
  await reached;
  first.child.kill('SIGKILL');
  await ended(first.child);

  open();
  const { client, run } = await serve(folder);
  expect(await client.run(id)).toMatchObject({
    status: 'ended',
    problems: [{ code: 'run-ended', remedy: expect.stringContaining('Run again') }],
  });
  const again = await run();
  expect(again.run.tally).toMatchObject({ passed: 6, new: 0, changed: 0 });
});

it('a browser whose service was killed does not stay behind', async () => {
  const folder = project({ 'src/A.look.tsx': six() });
  const { child, url } = await serveByCommand(folder);
  const client = connect(url);
  await finished(client, (await client.startRun({ patterns: ['look 0'] })).id);
  const [browser] = browsersOf(child.pid!);
  expect(browser).toBeDefined();
  child.kill('SIGKILL');
  await ended(child);
  for (let tries = 0; tries < 200 && existsSync(`/proc/${browser!.pid}`); tries++)
    await new Promise((resolve) => setTimeout(resolve, 50));
  expect(existsSync(`/proc/${browser!.pid}`)).toBe(false);
});

it('a corrupt picture among the baselines is told at its look alone, and is mended by approving', async () => {
  const folder = project({ 'src/A.look.tsx': six() });
  const { client, run } = await serve(folder);
  await run();
  await client.decide({ kind: 'approve', all: true });
  const files = join(folder, 'baselines/day/src/A');
  expect(readdirSync(files).filter((file) => file.endsWith('.png'))).toHaveLength(6);
  const png = readFileSync(join(files, 'look-1.png'));
  writeFileSync(join(files, 'look-1.png'), png.subarray(0, png.length / 2));
  writeFileSync(join(files, 'look-2.json'), '{ not json');
  // The bytes look like a picture from outside, and are none.
  const rotten = Buffer.from(readFileSync(join(files, 'look-3.png')));
  rotten.fill(7, 60, rotten.length - 20);
  writeFileSync(join(files, 'look-3.png'), rotten);

  const after = await run();
  expect(after.look('look 0').verdict).toBe('passed');
  expect(after.look('look 1')).toMatchObject({
    verdict: 'failed',
    problem: {
      code: 'baseline-corrupt',
      message: expect.stringContaining(
        'baselines/day/src/A/look-1.png cannot be read as a picture: it ends in the middle',
      ),
    },
  });
  expect(after.look('look 2').verdict).toBe('new');
  expect(after.look('look 3')).toMatchObject({
    verdict: 'failed',
    problem: { code: 'baseline-torn', message: expect.stringContaining('look-3.png') },
  });
  expect(after.run.problems.map(({ message }) => /look-\d\.\w+/.exec(message)?.[0])).toEqual([
    'look-1.png',
    'look-2.json',
    'look-3.png',
  ]);

  await client.decide({ kind: 'approve', all: true });
  expect((await run()).run.tally).toMatchObject({ passed: 6 });
});
