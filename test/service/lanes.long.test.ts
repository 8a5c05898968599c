/** Lanes: windows side by side that share the looks of a run out among themselves. */
import { once } from 'node:events';
import { createServer, type ServerResponse } from 'node:http';
import type { AddressInfo } from 'node:net';
import { beforeAll, describe, expect, it } from 'vitest';
import { afterwards } from '../support/afterwards.ts';
import { finished, type Served, serve } from '../support/service.ts';
import { configuration, plainFile, project, write } from '../support/project.ts';

let served: Served;
let folder: string;
let port: number;
/** Pictures that were asked for and are not answered yet: it takes two at a time. */
let waiting: ServerResponse[] = [];

beforeAll(async () => {
  const pair = createServer((_request, reply) => {
    waiting.push(reply);
    if (waiting.length < 2) return;
    for (const one of waiting) one.end();
    waiting = [];
  }).listen(0, '127.0.0.1');
  await once(pair, 'listening');
  afterwards(() => {
    pair.close();
    pair.closeAllConnections();
  });
  ({ port } = pair.address() as AddressInfo);
  const network = [`http://127.0.0.1:${port}`];
  folder = project({ 'sguardo.config.ts': configuration({ patience: 20_000, timeLimit: 60_000, network, lanes: 4 }) });
  served = await serve(folder);
});

/** A look that ends when another one is at the same point at the same time. */
const meets = (name: string): string => `${name}: { async script() {
  const image = new Image();
  image.src = 'http://127.0.0.1:${port}/${name}';
  await ensure(() => image.complete).equals(true);
} }`;

describe('the looks of one file', () => {
  it('are run in several windows when the others have nothing to do', async () => {
    const names = ['a', 'b', 'c', 'd', 'e', 'f', 'g', 'h'];
    write(folder, { 'src/Buoy.look.tsx': plainFile('return <p>buoy</p>;', names.map(meets).join(', ')) });
    const { results, run } = await served.run();
    expect(results.map(({ look, verdict }) => `${look} ${verdict}`).sort()).toEqual(names.map((name) => `${name} new`));
    expect(run).toMatchObject({ status: 'finished', planned: 8, done: 8 });
  });

  it('leave a run that is stopped in good order', async () => {
    const run = await served.client.startRun({ repeat: 100 });
    while ((await served.client.run(run.id)).done < 8) await new Promise((resolve) => setTimeout(resolve, 30));
    await served.client.stopRun(run.id);
    const { status, done } = await finished(served.client, run.id);
    expect(status).toBe('stopped');
    expect(done).toBeLessThan(800);
  });
});

describe('environments with a mouse and with a touch screen', () => {
  it('each say what the person has, whichever came before in a window', async () => {
    const media = ['(pointer: fine)', '(hover: hover)', '(pointer: coarse)'];
    const body = `return <p>{${JSON.stringify(media)}.map((one) => matchMedia(one).matches).join()}</p>;`;
    const states = `mouse: { async script() { await ensure(the.text('true,true,false')).isVisible(); } },
      touch: { async script() { await ensure(the.text('false,false,true')).isVisible(); } },
      none: { async script() { await ensure(the.text('false,false,false')).isVisible(); } }`;
    const environments = { desk: {}, hand: { pointer: 'touch' }, wall: { pointer: 'none' } };
    const { client, run } = await serve(
      project({
        'sguardo.config.ts': configuration({ environments, patience: 100 }),
        'src/Pointer.look.tsx': plainFile(body, states),
      }),
    );
    for (const wanted of [['hand'], ['desk'], ['wall'], []]) {
      const { results } = await run({ environments: wanted });
      for (const { environment, look, verdict } of results)
        expect([environment, look, verdict]).toEqual([
          environment,
          look,
          look === { desk: 'mouse', hand: 'touch', wall: 'none' }[environment] ? 'new' : 'failed',
        ]);
    }
    expect((await client.runs()).length).toBe(4);
  });
});
