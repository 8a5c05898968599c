/**
 * What the service holds on to: its resident set after many small runs of a project with large libraries against that
 * after a few, and after a run of 3,000 looks against that after one of 300; the processor time of a run in which
 * nothing has changed. `npm run bench -- memory 30`: fewer runs, and a tenth of the looks.
 */
import { spawn } from 'node:child_process';
import { cpSync, mkdirSync, mkdtempSync, readFileSync, rmSync, symlinkSync, writeFileSync } from 'node:fs';
import { join, resolve } from 'node:path';
import { type Client, connect } from '../src/client/client.ts';
import type { RunRequest } from '../src/core/run/run.ts';
import { generate, looksEach } from './manyLooks.ts';
import { type Figure, median, runToEnd } from './workshop.ts';

/** How much larger it may be after all runs than after the first ones, and after ten times the looks; in seconds. */
const limits = { growth: 1.15, looks: 1.3, idle: 0.2 };
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

/** An empty folder for a project of this measurement. */
function freshFolder(): string {
  mkdirSync(resolve('test/.projects'), { recursive: true });
  return mkdtempSync(resolve('test/.projects/memory-'));
}

/** Megabytes after all looks of a generated project have been run. */
async function afterLooks(components: number): Promise<number> {
  const folder = freshFolder();
  generate(folder, components);
  const { pid, client, end } = await serve(folder);
  try {
    await run(client, {});
    const resident = residentOf(pid);
    await client.decide({ kind: 'approve', all: true });
    const approved = residentOf(pid);
    const looks = components * looksEach;
    process.stdout.write(`${looks} looks: ${resident.toFixed(0)} MB, approved ${approved.toFixed(0)} MB\n`);
    return resident;
  } finally {
    await end();
    rmSync(folder, { recursive: true, force: true, maxRetries: 5 });
  }
}

/** How much larger it is after many runs than after the first ones; seconds of a run in which nothing has changed. */
async function afterRuns(runs: number): Promise<{ growth: number; idle: number }> {
  const folder = freshFolder();
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
    return { growth, idle: median(idle) };
  } finally {
    await end();
    rmSync(folder, { recursive: true, force: true, maxRetries: 5 });
  }
}

export async function measureMemory(runs = 100, components = 300): Promise<Figure> {
  const few = await afterLooks(components / 10);
  const looks = (await afterLooks(components)) / few;
  const { growth, idle } = await afterRuns(runs);
  return {
    text:
      `${growth.toFixed(2)} times as much after ${runs} runs as after ${first}, ` +
      `${looks.toFixed(2)} times after ten times the looks; a run of nothing ${idle.toFixed(2)} s`,
    limit: `${limits.growth} times, ${limits.looks} times, ${limits.idle} s of processor time`,
    within: growth <= limits.growth && looks <= limits.looks && idle <= limits.idle,
  };
}
