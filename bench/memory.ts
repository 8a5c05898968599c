/**
 * What the service holds on to: its resident set after many small runs of a project with large libraries against that
 * after a few, and the processor time of a run in which nothing has changed. `npm run bench -- memory 30`: fewer.
 */
import { spawn } from 'node:child_process';
import { cpSync, mkdirSync, mkdtempSync, readFileSync, rmSync, symlinkSync, writeFileSync } from 'node:fs';
import { join, resolve } from 'node:path';
import { type Client, connect } from '../src/client/client.ts';
import type { RunRequest } from '../src/core/run/run.ts';
import { type Figure, median, runToEnd } from './workshop.ts';

/** How much larger it may be after all runs than after the first ones, and seconds of processor time. */
const limits = { growth: 1.15, idle: 0.2 };
const first = 10;
const idleRuns = 5;
const edits = 30;
const kit = 'test/kits/material';
const few = { patterns: ['box ticked', 'switch on'], fresh: true };

/** Megabytes that a process holds in memory. */
function residentOf(pid: number): number {
  const found = /VmRSS:\s+(\d+) kB/.exec(readFileSync(`/proc/${pid}/status`, 'utf8'));
  return Number(found![1]) / 1024;
}

/** Seconds of processor time that a process has used: the 14th and 15th field of proc(5)'s stat, in ticks of 10 ms. */
function processorOf(pid: number): number {
  const fields = readFileSync(`/proc/${pid}/stat`, 'utf8').replace(/^.*\)/, '').trim().split(' ');
  return (Number(fields[11]) + Number(fields[12])) / 100;
}

const run = async (client: Client, request: Partial<RunRequest>): Promise<number> =>
  (await runToEnd(client, { audit: 0, ...request })).done;

/** The service of a folder in a process of its own. */
async function serve(folder: string): Promise<{ pid: number; client: Client; end(): Promise<void> }> {
  const child = spawn(process.execPath, [resolve('bin/sguardo.js'), 'serve'], {
    cwd: folder,
    stdio: ['ignore', 'pipe', 'inherit'],
  });
  const url = await new Promise<string>((found) => {
    let said = '';
    child.stdout.on('data', (chunk: Buffer) => {
      said += chunk.toString('utf8');
      const address = /http:\/\/127\.0\.0\.1:\d+/.exec(said);
      if (address) found(address[0]);
    });
  });
  const ended = new Promise<void>((done) => child.once('exit', () => done()));
  const end = (): Promise<void> => {
    child.kill('SIGINT');
    return ended;
  };
  return { pid: child.pid!, client: connect(url), end };
}

export async function measureMemory(runs = 100): Promise<Figure> {
  mkdirSync(resolve('test/.projects'), { recursive: true });
  const folder = mkdtempSync(resolve('test/.projects/memory-'));
  cpSync(resolve(kit), folder, { recursive: true, filter: (path) => !/node_modules|\.sguardo/.test(path) });
  symlinkSync(resolve('test/kits/node_modules'), join(folder, 'node_modules'));
  const { pid, client, end } = await serve(folder);
  try {
    const all = await run(client, {});
    await client.decide({ kind: 'approve', all: true });
    process.stdout.write(`${all} looks run once: ${residentOf(pid).toFixed(0)} MB\n`);
    let early = 0;
    for (let i = 1; i <= runs; i++) {
      const looks = await run(client, few);
      if (i === first) early = residentOf(pid);
      if (i % first === 0)
        process.stdout.write(`after ${i} runs of ${looks} looks: ${residentOf(pid).toFixed(0)} MB\n`);
    }
    const late = residentOf(pid);
    await run(client, {});
    const idle: number[] = [];
    for (let i = 0; i < idleRuns; i++) {
      const before = processorOf(pid);
      await run(client, {});
      idle.push(processorOf(pid) - before);
    }
    const growth = late / early;
    const file = join(folder, 'src/Data.look.tsx');
    const text = readFileSync(file, 'utf8');
    for (let i = 1; i <= edits; i++) {
      writeFileSync(file, `${text}\n// ${i}\n`);
      await run(client, {});
      if (i % first === 0) process.stdout.write(`after ${i} edits: ${residentOf(pid).toFixed(0)} MB\n`);
    }
    return {
      text:
        `${growth.toFixed(2)} times as much after ${runs} runs as after ${first}; ` +
        `a run of nothing ${median(idle).toFixed(2)} s`,
      limit: `${limits.growth} times, ${limits.idle} s of processor time`,
      within: growth <= limits.growth && median(idle) <= limits.idle,
    };
  } finally {
    await end();
    rmSync(folder, { recursive: true, force: true, maxRetries: 5 });
  }
}
