/**
 * A run of a large project in which nothing has changed, as a whole command on a warm service; then one in which one
 * component has. `npm run bench -- rerun 30` generates 30 components with ten looks each instead of 300.
 */
import { execFile } from 'node:child_process';
import { mkdirSync, mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { join, resolve } from 'node:path';
import { promisify } from 'node:util';
import { connect } from '../src/client/client.ts';
import { startService } from '../src/service/service.ts';
import { component, generate } from './manyLooks.ts';
import { type Figure, median, runToEnd, timed } from './workshop.ts';

/** Milliseconds for the whole command. */
const limit = 1500;
const rounds = 5;

export async function measureRerun(components = 300): Promise<Figure> {
  mkdirSync(resolve('test/.projects'), { recursive: true });
  const folder = mkdtempSync(resolve('test/.projects/rerun-'));
  generate(folder, components);
  const service = await startService({ config: join(folder, 'sguardo.config.ts') });
  const client = connect(service.url);
  const run = async (): Promise<{ reused: number; done: number; passed: number }> => {
    const now = await runToEnd(client, { audit: 0 });
    return { reused: now.reused, done: now.done, passed: now.tally.passed };
  };
  const say = (text: string): void => void process.stdout.write(`${text}\n`);
  try {
    say(`the first run: ${(await timed(run)).toFixed(0)} ms`);
    say(`approving: ${(await timed(() => client.decide({ kind: 'approve', all: true }))).toFixed(0)} ms`);
    say(`the second run, moments as approved: ${(await timed(run)).toFixed(0)} ms`);
    const command = (): Promise<number> =>
      timed(async () => {
        // The service that it talks to is this process.
        await promisify(execFile)(process.execPath, [resolve('bin/sguardo.js'), 'run', '--audit', '0'], {
          cwd: folder,
        });
      });
    const whole: number[] = [];
    const edited: number[] = [];
    for (let i = 0; i < rounds; i++) {
      whole.push(await command());
      writeFileSync(join(folder, 'src/Berth0.tsx'), `${component(0, 'Berth')}// ${i}\n`);
      edited.push(await timed(run));
    }
    const last = await run();
    say(`${last.done} looks, ${last.passed} passed, ${last.reused} of them taken over`);
    const figure = median(whole);
    return {
      text: `nothing changed ${figure.toFixed(0)} ms, one component ${median(edited).toFixed(0)} ms`,
      limit: `at most ${limit} ms`,
      within: figure <= limit,
    };
  } finally {
    await service.close();
    rmSync(folder, { recursive: true, force: true, maxRetries: 5 });
  }
}
