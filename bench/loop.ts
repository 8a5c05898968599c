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
const rounds = 11;

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

/** A project that is watched, until it is closed. */
type Watched = {
  folder: string;
  /** Milliseconds from a save to the last verdict. */
  save(): Promise<number>;
  close(): Promise<void>;
};

async function watched(looks: number): Promise<Watched> {
  mkdirSync(resolve('test/.projects'), { recursive: true });
  const folder = mkdtempSync(resolve('test/.projects/loop-'));
  generate(folder, looks / looksEach);
  const service = await startService({ config: join(folder, 'sguardo.config.ts') });
  const client = connect(service.url);
  const abort = new AbortController();
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
  let saves = 0;
  return {
    folder,
    save() {
      count = 0;
      const all = new Promise<void>((resolve) => (told = resolve));
      return timed(() => {
        writeFileSync(join(folder, 'src/Berth0.tsx'), `${component(0, 'Berth')}// ${saves++}\n`);
        return all;
      });
    },
    async close() {
      abort.abort();
      await service.close();
      rmSync(folder, { recursive: true, force: true, maxRetries: 5 });
    },
  };
}

export async function measureLoop(...sizes: number[]): Promise<Figure> {
  const wanted = sizes.length > 0 ? sizes : [30, 300];
  const projects: Watched[] = [];
  const times = new Map<Watched, number[]>();
  const found: { took: number; floor: number }[] = [];
  try {
    for (const looks of wanted) projects.push(await watched(looks));
    // Until everything is watched.
    await delay(1500);
    // In turn, so that what else the machine does meets all of them.
    for (let i = 0; i < rounds; i++)
      for (const project of projects) {
        times.set(project, [...(times.get(project) ?? []), await project.save()]);
        // Nobody saves again before they have looked, and by then the windows are ready for the next run.
        await delay(1000);
      }
    for (const project of projects)
      found.push({ took: median(times.get(project)!), floor: await floor(project.folder) });
  } finally {
    for (const project of projects) await project.close();
  }
  for (const [i, { took, floor }] of found.entries())
    process.stdout.write(
      `${wanted[i]} looks: ${took.toFixed(0)} ms from save to verdict, ` +
        `alone in an open page ${floor.toFixed(0)} ms\n`,
    );
  const most = Math.max(...found.map(({ took, floor }) => took / floor));
  const growth = Math.max(1, ...found.slice(1).map(({ took }, i) => took / found[i]!.took));
  return {
    text: `${most.toFixed(1)} times the looks alone, growth ${growth.toFixed(2)}`,
    limit: `${limits.times}, ${limits.growth}`,
    within: most <= limits.times && growth <= limits.growth,
  };
}
