/**
 * The same three components with 24 looks in each of five frameworks: how long a run takes of which everything is
 * approved and nothing reused, against React's in the same series, and how many captures differ in ten repetitions.
 */
import { cpSync, mkdirSync, mkdtempSync, readdirSync, readFileSync, rmSync, symlinkSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { connect } from '../src/client/client.ts';
import type { RunRequest, RunSummary } from '../src/core/run/run.ts';
import { startService } from '../src/service/service.ts';
import { type Figure, median, runToEnd } from './workshop.ts';

const limit = 1.25;
const rounds = 5;
const repository = join(import.meta.dirname, '..');
const kits = ['react', 'vue', 'svelte', 'angular', 'elements'] as const;

/** The kit of a framework in a folder of its own; that of React has the looks of the others. */
function lay(around: string, kit: (typeof kits)[number]): string {
  const folder = join(around, kit);
  mkdirSync(folder);
  const from = join(repository, 'demo', kit === 'react' ? 'harbour' : kit);
  const isOwn = (path: string): boolean => !/node_modules|\.sguardo|baselines/.test(path.slice(from.length));
  cpSync(from, folder, { recursive: true, filter: isOwn });
  if (kit !== 'react') {
    symlinkSync(join(from, 'node_modules'), join(folder, 'node_modules'));
    return folder;
  }
  for (const name of readdirSync(join(folder, 'src')).filter((one) => one.endsWith('.look.tsx')))
    rmSync(join(folder, 'src', name));
  const looks = join(repository, 'demo/elements/src');
  for (const name of ['BerthCard', 'DepthField', 'ArrivalForm']) {
    const source = readFileSync(join(looks, `${name}.look.ts`), 'utf8').replace('sguardo/dom', 'sguardo/react');
    writeFileSync(join(folder, 'src', `${name}.look.tsx`), source);
  }
  writeFileSync(
    join(folder, 'sguardo.config.ts'),
    readFileSync(join(repository, 'demo/vue/sguardo.config.ts'), 'utf8'),
  );
  return folder;
}

type Measured = { kit: string; time: number; unstable: number };

async function measure(around: string, kit: (typeof kits)[number]): Promise<Measured> {
  const service = await startService({ config: join(lay(around, kit), 'sguardo.config.ts') });
  const client = connect(service.url);
  const run = (request: Partial<RunRequest>): Promise<RunSummary> => runToEnd(client, request);
  try {
    const first = await run({});
    if (first.tally.new !== 24)
      throw new Error(`${kit}: ${JSON.stringify(first.tally)} ${first.problems[0]?.message ?? ''}`);
    await client.decide({ kind: 'approve', all: true });
    await run({ fresh: true });
    const times: number[] = [];
    for (let i = 0; i < rounds; i++) {
      const began = performance.now();
      const { tally } = await run({ fresh: true });
      times.push(performance.now() - began);
      if (tally.passed !== 24) throw new Error(`${kit}: ${JSON.stringify(tally)}`);
    }
    const { unstable } = await run({ repeat: 10 });
    return { kit, time: median(times), unstable };
  } finally {
    await service.close();
  }
}

/** The ratios to React's run, and the captures that differed. */
export async function measureFrameworks(): Promise<Figure> {
  const home = join(repository, 'bench/.tmp');
  mkdirSync(home, { recursive: true });
  const around = mkdtempSync(join(home, 'frameworks-'));
  try {
    mkdirSync(join(around, 'harbour'));
    cpSync(join(repository, 'demo/harbour/src'), join(around, 'harbour/src'), { recursive: true });
    const found: Measured[] = [];
    for (const kit of kits) found.push(await measure(around, kit));
    const [{ time: react }] = found as [Measured];
    const text = found.map(
      ({ kit, time, unstable }) =>
        `${kit} ${(time / react).toFixed(2)} (${Math.round(time)} ms, ${unstable} of ten repetitions differ)`,
    );
    const within = found.every(({ time, unstable }) => time <= react * limit && unstable === 0);
    return { text: text.join(', '), limit: `${limit} of React's run, 0 differ`, within };
  } finally {
    rmSync(around, { recursive: true, force: true });
  }
}
