/**
 * Which looks there are: what is renamed, removed, unusable or of an environment that is gone is not shown as if it
 * were there.
 */
import { once } from 'node:events';
import { rmSync } from 'node:fs';
import { createServer } from 'node:http';
import type { AddressInfo } from 'node:net';
import { join } from 'node:path';
import { beforeAll, describe, expect, it } from 'vitest';
import { afterwards } from '../support/afterwards.ts';
import { configuration, plainFile, project, write } from '../support/project.ts';
import { type Served, serve } from '../support/service.ts';

const buoy = (states: string): string => plainFile('return <p>{props.name}</p>;', states);
const environments = (...names: string[]): string =>
  `export default { environments: { ${names.map((name) => `${name}: {}`).join(', ')} } };`;

let folder: string;
let served: Served;
const board = async (): Promise<string[]> =>
  (await served.client.looks())
    .map(({ component, look, environment }) => `${component.slice(4)} ${look} ${environment}`)
    .sort();

beforeAll(async () => {
  folder = project({
    'sguardo.config.ts': environments('day'),
    'src/Buoy.look.tsx': buoy('plain: {}, named: {}'),
    'src/Light.look.tsx': buoy('lit: {}'),
  });
  served = await serve(folder);
  await served.run();
});

describe('the looks of a project', () => {
  it('are those that its look files declare', async () => {
    expect(await board()).toEqual(['Buoy named day', 'Buoy plain day', 'Light lit day']);
  });

  it('lose those that were renamed or removed, also when only others of the file were run', async () => {
    write(folder, { 'src/Buoy.look.tsx': buoy("plain: {}, 'with a name': {}, aground: {}") });
    await served.run({ patterns: ['Buoy/plain'] });
    expect(await board()).toEqual(['Buoy plain day', 'Light lit day']);
    await served.run({ patterns: ['Buoy'] });
    expect(await board()).toEqual(['Buoy aground day', 'Buoy plain day', 'Buoy with a name day', 'Light lit day']);
    const changes = await served.client.changes();
    expect(changes.some(({ look }) => look === 'named')).toBe(false);
    const { decided } = await served.client.decide({ kind: 'approve', all: true });
    expect(decided.map(({ look }) => look)).not.toContain('named');
    expect(
      (await served.client.history({ component: 'src/Buoy', look: 'named', environment: 'day' })).results,
    ).toHaveLength(1);
  });

  it('come back, and the file itself goes, when a file that could not be read is mended', async () => {
    write(folder, { 'src/Buoy.look.tsx': 'export default looks(' });
    await served.run();
    expect(await board()).toEqual(['Buoy (the file) day', 'Light lit day']);
    write(folder, { 'src/Buoy.look.tsx': "throw new Error('no wind');" });
    await served.run();
    expect(await board()).toEqual(['Buoy (the file) day', 'Light lit day']);
    write(folder, { 'src/Buoy.look.tsx': buoy('plain: {}, aground: {}') });
    await served.run({ patterns: ['Buoy/plain'] });
    expect(await board()).toEqual(['Buoy aground day', 'Buoy plain day', 'Light lit day']);
  });

  it('are known when their file is broken: asking for one tells of the file', async () => {
    write(folder, { 'src/Buoy.look.tsx': 'export default looks(' });
    const { run, look } = await served.run({ patterns: ['aground'] });
    expect(look('(the file)')).toMatchObject({ verdict: 'broken', problem: { code: 'bundle-failed' } });
    expect(run.problems).toEqual([]);
    write(folder, { 'src/Buoy.look.tsx': buoy('plain: {}, aground: {}') });
    await served.run({ patterns: ['Buoy'] });
  });

  it('follow the environments of the configuration', async () => {
    write(folder, { 'sguardo.config.ts': environments('day', 'night') });
    await served.run();
    expect(await board()).toHaveLength(6);
    // A look that is removed is gone in all environments, in whichever its file was opened.
    write(folder, { 'src/Buoy.look.tsx': buoy('plain: {}') });
    await served.run({ environments: ['day'] });
    expect(await board()).toEqual(['Buoy plain day', 'Buoy plain night', 'Light lit day', 'Light lit night']);
    write(folder, { 'src/Buoy.look.tsx': buoy('plain: {}, aground: {}'), 'sguardo.config.ts': environments('night') });
    await served.run();
    expect(await board()).toEqual(['Buoy aground night', 'Buoy plain night', 'Light lit night']);
  });

  it('are gone from an environment that their file has them in no longer, and so are their baselines', async () => {
    write(folder, { 'sguardo.config.ts': environments('day', 'night') });
    await served.run();
    await served.client.decide({ kind: 'approve', all: true });
    await served.client.tidy(true);
    const only = (name: string): string => buoy(`plain: {}, aground: { environments: ['${name}'] }`);
    write(folder, { 'src/Buoy.look.tsx': only('night') });
    const { run } = await served.run();
    expect(run.notes.join()).toContain('1 baseline belongs to a look that is gone');
    const others = ['Buoy plain day', 'Buoy plain night', 'Light lit day', 'Light lit night'];
    expect(await board()).toEqual(['Buoy aground night', ...others]);
    expect((await served.client.tidy(true)).files).toEqual(['baselines/day/src/Buoy/aground.png']);
    // The other way round, and where nothing of the file is left in the other one.
    write(folder, { 'src/Buoy.look.tsx': only('day') });
    await served.run();
    expect(await board()).toEqual(['Buoy aground day', ...others]);
    write(folder, { 'src/Buoy.look.tsx': buoy("plain: { environments: ['night'] }") });
    await served.run();
    expect(await board()).toEqual(['Buoy plain night', 'Light lit day', 'Light lit night']);
    write(folder, { 'sguardo.config.ts': environments('night') });
  });

  it('lose those of a file that is removed', async () => {
    rmSync(join(folder, 'src/Buoy.look.tsx'));
    await served.run();
    expect(await board()).toEqual(['Light lit night']);
  });
});

describe('a run of some looks', () => {
  it('knows from its beginning how many there will be, and opens no other file', async () => {
    let opened = 0;
    const harbour = createServer((_request, reply) => {
      opened++;
      reply.end();
    }).listen(0, '127.0.0.1');
    await once(harbour, 'listening');
    afterwards(() => harbour.close());
    const { port } = harbour.address() as AddressInfo;
    write(folder, {
      'sguardo.config.ts': configuration({ network: [`http://127.0.0.1:${port}`] }),
      'src/Buoy.look.tsx': buoy('plain: {}, aground: {}'),
      'src/Light.look.tsx': `new Image().src = 'http://127.0.0.1:${port}/';\n${buoy('lit: {}')}`,
    });
    await served.run();
    await expect.poll(() => opened).toBe(1);
    const planned = new Set<number>();
    const abort = new AbortController();
    let ready = (): void => {};
    const listening = new Promise<void>((resolve) => (ready = resolve));
    const following = (async () => {
      for await (const event of served.client.events(abort.signal, ready)) {
        if (event.kind === 'run-progress' && event.run.planned > 0) {
          planned.add(event.run.planned);
          expect(event.progress).toMatchObject({ files: 2, bundling: 1 });
        }
        if (event.kind === 'run-finished') return;
      }
    })();
    await listening;
    const { run, results } = await served.run({ patterns: ['aground'], fresh: true });
    await following;
    abort.abort();
    expect(results.map(({ look }) => look)).toEqual(['aground']);
    expect(run.planned).toBe(1);
    expect([...planned]).toEqual([1]);
    await served.run({ patterns: ['lit'], fresh: true });
    await expect.poll(() => opened).toBe(2);
  });
});
