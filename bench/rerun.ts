/**
 * Runs of a large project, of which nothing has changed, one component, or something that all looks share. `npm run
 * bench -- rerun 30` generates 30 components with ten looks each instead of 300.
 */
import { execFile } from 'node:child_process';
import { mkdirSync, mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { join, resolve } from 'node:path';
import { promisify } from 'node:util';
import { type Client, connect } from '../src/client/client.ts';
import { type Service, startService } from '../src/service/service.ts';
import { component, generate, label, looksEach, settle, sheet } from './manyLooks.ts';
import { openNaive } from './naive.ts';
import { type Figure, median, openWorkshop, runToEnd, timed } from './workshop.ts';

/**
 * Milliseconds for the whole command when nothing has changed, and times that of a tenth of the looks; times a bare
 * build on a cold service; milliseconds beside a component's own looks; and times the naive floor a look, for moments
 * that are equal and those that are not.
 */
const limits = { nothing: 1500, growth: 1.3, cold: 4, beside: 500, equal: 0.25, photographed: 0.6 };
const rounds = 5;

const node = (folder: string, ...args: string[]): Promise<number> =>
  timed(() => promisify(execFile)(process.execPath, args, { cwd: folder }));

/** Milliseconds that a bare build of the look files takes. */
function bareBuild(folder: string, components: number): Promise<number> {
  const input = Array.from({ length: components }, (_, n) => `src/Berth${n}.look.tsx`);
  const external = ['sguardo'];
  const options = {
    configFile: false,
    logLevel: 'silent',
    build: { write: false, rollupOptions: { input, external } },
  };
  const program = `import('vite').then(({ build }) => build(${JSON.stringify(options)}))`;
  return node(folder, '-e', program);
}

/** Milliseconds of the naive floor, a look. */
async function naiveFloor(folder: string): Promise<number> {
  const shop = await openWorkshop(folder);
  try {
    const show = await openNaive(shop);
    const all = async (): Promise<void> => {
      for (let n = 0; n < 10; n++)
        for (let i = 0; i < looksEach; i++) await show(`src/Berth${n}.look.tsx`, `ships ${i}`);
    };
    await all();
    return (await timed(all)) / (10 * looksEach);
  } finally {
    await shop.close();
  }
}

/** Milliseconds for the whole command when nothing has changed. The service that it talks to is this process. */
const commandFor = (folder: string): Promise<number> => node(folder, resolve('bin/sguardo.js'), 'run', '--audit', '0');

/** The service of a project whose looks have been run once and approved. */
async function serveApproved(folder: string): Promise<{ service: Service; client: Client }> {
  const service = await startService({ config: join(folder, 'sguardo.config.ts') });
  const client = connect(service.url);
  await runToEnd(client, { audit: 0 });
  await client.decide({ kind: 'approve', all: true });
  settle(folder);
  return { service, client };
}

/** Milliseconds that a run of nothing takes, the whole command. */
async function nothingChanged(folder: string): Promise<number> {
  const { service, client } = await serveApproved(folder);
  try {
    await runToEnd(client, { audit: 0 });
    const times: number[] = [];
    for (let i = 0; i < rounds; i++) times.push(await commandFor(folder));
    return median(times);
  } finally {
    await service.close();
  }
}

/** Milliseconds that each kind of run takes on a warm service; a look where all are run. */
async function warmRuns(folder: string, components: number) {
  const { service, client } = await serveApproved(folder);
  const write = (name: string, text: string): void => writeFileSync(join(folder, name), text);
  const run = async (): Promise<number> => {
    const took = await timed(async () => {
      const { status, done, tally } = await runToEnd(client, { audit: 0 });
      if (status !== 'finished' || tally.passed !== done) throw new Error(`${tally.passed} of ${done} looks passed`);
    });
    await new Promise((done) => setTimeout(done, 1500));
    return took;
  };
  try {
    const looks = components * looksEach;
    const equal = (await run()) / looks;
    const nothing: number[] = [];
    const edited: number[] = [];
    for (let i = 0; i < rounds; i++) {
      nothing.push(await commandFor(folder));
      write('src/Berth0.tsx', `${component(0, 'Berth')}// ${i}\n`);
      edited.push(await run());
    }
    write('src/label.ts', label(' // counted'));
    const helper = (await run()) / looks;
    write('src/sea.css', sheet(' --depth: 2;'));
    const token = (await run()) / looks;
    return { nothing: median(nothing), one: median(edited), equal: Math.min(equal, helper), token };
  } finally {
    await service.close();
  }
}

export async function measureRerun(components = 300): Promise<Figure> {
  mkdirSync(resolve('test/.projects'), { recursive: true });
  const folder = mkdtempSync(resolve('test/.projects/rerun-'));
  const small = mkdtempSync(resolve('test/.projects/rerun-'));
  const say = (text: string): void => void process.stdout.write(`${text}\n`);
  try {
    generate(folder, components);
    generate(small, components / 10);
    const few = await nothingChanged(small);
    const { nothing, one, equal, token } = await warmRuns(folder, components);
    const cold = await commandFor(folder);
    const built = await bareBuild(folder, components);
    const floor = await naiveFloor(folder);
    say(`nothing changed: ${nothing.toFixed(0)} ms, on a cold service ${cold.toFixed(0)} ms`);
    say(`nothing changed of a tenth of the looks: ${few.toFixed(0)} ms`);
    say(`a bare build of the same files: ${built.toFixed(0)} ms`);
    say(
      `one component changed: ${one.toFixed(0)} ms, its looks in the naive page ${(looksEach * floor).toFixed(0)} ms`,
    );
    const [even, shot, bare] = [equal, token, floor].map((one) => one.toFixed(1));
    say(`all run: moments equal ${even} ms a look, photographed ${shot}, naive ${bare}`);
    const found = [nothing, nothing / few, cold / built, one - looksEach * floor, equal / floor, token / floor];
    const most = Object.values(limits);
    return {
      text: found.map((one) => one.toFixed(one > 100 ? 0 : 2)).join(', '),
      limit: most.join(', '),
      within: found.every((one, i) => one <= most[i]!),
    };
  } finally {
    for (const one of [folder, small]) rmSync(one, { recursive: true, force: true, maxRetries: 5 });
  }
}
