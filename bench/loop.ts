/**
 * From saving a file to the last verdict of its component on the live feed, in projects of growing size, against that
 * component's looks run one after the other in a page that is open already. `npm run bench -- loop 30 300 3000`: looks.
 */
import { mkdirSync, mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { join, resolve } from 'node:path';
import { setTimeout as delay } from 'node:timers/promises';
import { connect } from '../src/client/client.ts';
import { startService } from '../src/service/service.ts';
import { Lane } from '../src/work/lane.ts';
import { component, generate, looksEach, settle } from './manyLooks.ts';
import { type Figure, median, openWorkshop, origin, runToEnd, timed } from './workshop.ts';

/** How many times the floor, and by how much it may grow from a project to one ten times as large. */
const limits = { times: 2, growth: 1.1 };
const rounds = 7;

/** Milliseconds that the looks of one component take in an open page. */
async function floor(folder: string): Promise<number> {
  const shop = await openWorkshop(folder);
  try {
    const lane = new Lane(shop.crew, 0, origin, shop.settings);
    const environment = shop.settings.environments[0]!;
    await lane.open(shop.bundle, 'src/Berth0.look.tsx', environment);
    const all = async (): Promise<void> => {
      for (let i = 0; i < looksEach; i++) await lane.run(`ships ${i}`, environment);
    };
    await all();
    const times: number[] = [];
    for (let i = 0; i < rounds; i++) times.push(await timed(all));
    return median(times);
  } finally {
    await shop.close();
  }
}

/** Milliseconds from a save to the last verdict. */
async function loop(looks: number): Promise<{ took: number; floor: number }> {
  mkdirSync(resolve('test/.projects'), { recursive: true });
  const folder = mkdtempSync(resolve('test/.projects/loop-'));
  generate(folder, looks / looksEach);
  const service = await startService({ config: join(folder, 'sguardo.config.ts') });
  const client = connect(service.url);
  const abort = new AbortController();
  try {
    await runToEnd(client, { audit: 0 });
    await client.decide({ kind: 'approve', all: true });
    settle(folder);
    await runToEnd(client, { audit: 0 });
    let told = (): void => {};
    let count = 0;
    void (async () => {
      for await (const event of client.events(abort.signal, () => {}, {}, true))
        if (event.kind === 'look-finished' && ++count === looksEach) told();
    })();
    // Until everything is watched.
    await delay(1500);
    const times: number[] = [];
    for (let i = 0; i < rounds; i++) {
      count = 0;
      const all = new Promise<void>((resolve) => (told = resolve));
      times.push(
        await timed(() => {
          writeFileSync(join(folder, 'src/Berth0.tsx'), `${component(0, 'Berth')}// ${i}\n`);
          return all;
        }),
      );
      // Nobody saves again before they have looked, and by then the windows are ready for the next run.
      await delay(1000);
    }
    return { took: median(times), floor: await floor(folder) };
  } finally {
    abort.abort();
    await service.close();
    rmSync(folder, { recursive: true, force: true, maxRetries: 5 });
  }
}

export async function measureLoop(...sizes: number[]): Promise<Figure> {
  const found: { took: number; floor: number }[] = [];
  for (const looks of sizes.length > 0 ? sizes : [30, 300]) {
    const one = await loop(looks);
    found.push(one);
    process.stdout.write(
      `${looks} looks: ${one.took.toFixed(0)} ms from save to verdict, ` +
        `alone in an open page ${one.floor.toFixed(0)} ms\n`,
    );
  }
  const times = Math.max(...found.map(({ took, floor }) => took / floor));
  const growth = Math.max(1, ...found.slice(1).map(({ took }, i) => took / found[i]!.took));
  return {
    text: `${times.toFixed(1)} times the looks alone, growth ${growth.toFixed(2)}`,
    limit: `${limits.times}, ${limits.growth}`,
    within: times <= limits.times && growth <= limits.growth,
  };
}
