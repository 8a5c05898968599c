/**
 * Commands and the service that they start: several at once share one, none takes it from another, and an interrupted
 * one leaves nothing behind.
 */
import { existsSync } from 'node:fs';
import { join } from 'node:path';
import { expect, it } from 'vitest';
import { connect } from '../../src/client/client.ts';
import { gone, interrupted, serviceNote, sguardo } from '../support/cli.ts';
import { gate } from '../support/gate.ts';
import { isAlive } from '../support/processes.ts';
import { configuration, plainFile, project, write } from '../support/project.ts';
import { serve } from '../support/service.ts';

const buoy = (name: string, script = ''): string =>
  plainFile(`return <p>${name}</p>;`, `${name}: { async script() { ${script} } }`);

it('two that begin at the same time find one service', async () => {
  const folder = project({ 'src/A.look.tsx': buoy('a'), 'src/B.look.tsx': buoy('b') });
  const both = await Promise.all([sguardo(folder, 'run', 'A'), sguardo(folder, 'run', 'B')]);
  expect(both.map(({ err }) => err)).toEqual(['', '']);
  expect(both.map(({ code }) => code)).toEqual([0, 0]);
  expect(both.map(({ out }) => /1 new {2}1 look,/.test(out))).toEqual([true, true]);
  const third = await sguardo(folder, 'run');
  expect(third.out).toMatch(/2 new/);
  await expect.poll(() => existsSync(join(folder, '.sguardo/service.json')), { timeout: 20_000 }).toBe(false);
});

it('the one that started the service ends, and leaves it to the one that still runs looks', async () => {
  const [a, b] = await Promise.all([gate(), gate()]);
  const folder = project({
    'sguardo.config.ts': configuration({ timeLimit: 60_000, lanes: 2 }),
    'src/A.look.tsx': buoy('a', a.wait),
    'src/B.look.tsx': buoy('b', b.wait),
  });
  const first = sguardo(folder, 'run', 'A');
  await a.reached;
  const { pid, url } = serviceNote(folder);
  const second = sguardo(folder, 'run', 'B', '--json');
  while ((await connect(url).runs()).length < 2) await new Promise((resolve) => setTimeout(resolve, 30));
  a.open();
  expect((await first).code).toBe(0);
  expect(isAlive(pid)).toBe(true);
  b.open();
  const { code, out, err } = await second;
  expect([code, err]).toEqual([0, '']);
  expect(JSON.parse(out)).toMatchObject({
    run: { status: 'finished', problems: [], tally: { new: 1 } },
    results: [{ look: 'b' }],
  });
  await gone(pid);
  expect(existsSync(join(folder, '.sguardo/service.json'))).toBe(false);
});

it('Ctrl+C stops the run after the looks that are under way, and tells what there is', async () => {
  const folder = project({
    'sguardo.config.ts': configuration({ lanes: 1 }),
    'src/A.look.tsx': buoy('a'),
    'src/B.look.tsx': buoy('b', 'await new Promise((resolve) => setTimeout(resolve, 3000));'),
  });
  const { code, out } = await interrupted(folder, / A › a /, 'run', '--repeat', '50');
  expect(out).toContain('Stopping after the looks that are running…');
  expect(out).toMatch(/The run was stopped before every look had a verdict\.\n→ Run again/);
  expect(out).toMatch(/^\d new {2}\d looks/m);
  expect(out).not.toContain('repetitions');
  expect(code).toBe(1);
  expect(existsSync(join(folder, '.sguardo/service.json'))).toBe(false);
});

it('watch runs what depends on a file that is saved, and ends with Ctrl+C', async () => {
  const folder = project({ 'src/A.look.tsx': buoy('a'), 'src/B.look.tsx': buoy('b') });
  const watching = interrupted(folder, /\+ A › bell/, 'watch');
  await expect.poll(() => existsSync(join(folder, '.sguardo/service.json')), { timeout: 20_000 }).toBe(true);
  const client = connect(serviceNote(folder).url);
  await expect.poll(async () => (await client.runs())[0]?.status, { timeout: 20_000 }).toBe('finished');
  // The watcher knows what is there before anything changes.
  await new Promise((resolve) => setTimeout(resolve, 500));
  write(folder, { 'src/A.look.tsx': buoy('bell') });
  const { code, out } = await watching;
  expect(out).toMatch(/^2 new {2}2 looks/m);
  expect(out.slice(out.indexOf('2 looks'))).not.toContain('B › b');
  expect(code).toBe(0);
  expect(existsSync(join(folder, '.sguardo/service.json'))).toBe(false);
});

it('a service that is about to end takes no run any more, and a command finds the next one', async () => {
  const folder = project({ 'src/A.look.tsx': buoy('a') });
  const { service, client } = await serve(folder);
  await client.startRun({});
  const ended = service.close();
  await expect(client.startRun({})).rejects.toMatchObject({
    problem: { code: expect.stringMatching(/^service-(ending|missing)$/) },
  });
  const { code, out } = await sguardo(folder, 'run');
  expect([code, out]).toEqual([0, expect.stringMatching(/1 new/)]);
  await ended;
});
