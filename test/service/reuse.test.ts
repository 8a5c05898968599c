/** A run costs what changed: results whose look files, settings and baselines are as they were are taken over. */
import { execFileSync } from 'node:child_process';
import { readFileSync, rmSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { beforeAll, describe, expect, it } from 'vitest';
import type { RunRequest } from '../../src/core/run/run.ts';
import { childrenOf } from '../support/processes.ts';
import { configuration, lookFile, plainFile, project, swatch, write } from '../support/project.ts';
import { type Served, serve } from '../support/service.ts';

const buoy = (text: string): string =>
  plainFile(
    `return <p className="sea">${text} {depth}</p>;`,
    'plain: {}',
    "import './sea.css';\nimport { depth } from './depth.ts';\n",
  );
const tides = plainFile('return <p>Tides</p>;', "high: { dependsOn: ['data/**/*.json'] }, low: { reuse: false }");
const flag = plainFile('return <img src="/flag.svg" width="20" height="10" />;', 'plain: {}');
const wreck = plainFile(
  'return <p>Wreck</p>;',
  "sunk: { async script() { await ensure(the.text('Afloat')).isVisible(); } }",
);
const files = {
  'sguardo.config.ts': configuration({ patience: 200 }),
  'src/Buoy.look.tsx': buoy('Buoy'),
  'src/Beacon.look.tsx': buoy('Beacon'),
  'src/Flag.look.tsx': flag,
  'src/Wreck.look.tsx': wreck,
  'src/Tides.look.tsx': tides,
  'data/tides/today.json': '[1, 4]',
  'src/depth.ts': 'export const depth = 4;\n',
  'src/sea.css': "@import './tokens.css';\n.sea { color: var(--sea); }\n",
  'src/tokens.css': ':root { --sea: rgb(0, 0, 99); }\n',
  'public/flag.svg': swatch('navy'),
};

let folder: string;
let served: Served;

/** Which components a run has run, and how many results it has taken over. */
async function ran(request: Partial<RunRequest> = {}): Promise<{ ran: string[]; reused: number }> {
  const { run } = await served.run(request);
  const own = await served.client.runResults(run.id, true);
  expect(run.done).toBe(own.length + run.reused);
  expect((await served.client.runResults(run.id)).length).toBe(run.done);
  return { ran: own.map(({ component }) => component.replace('src/', '')).sort(), reused: run.reused };
}

/** Changes files, runs, and puts them back. */
async function ranWith(changed: Record<string, string>): Promise<string[]> {
  write(folder, changed);
  const { ran: components } = await ran();
  write(
    folder,
    Object.fromEntries(Object.keys(changed).map((name) => [name, (files as Record<string, string>)[name]!])),
  );
  return components;
}

beforeAll(async () => {
  folder = project(files);
  served = await serve(folder);
  await served.run();
  await served.client.decide({ kind: 'approve', patterns: ['Buoy', 'Beacon', 'Flag', 'Tides'] });
  await served.run();
});

describe('a run of what has not changed', () => {
  it('takes over what has passed, and runs again what has not', async () => {
    expect(await ran()).toEqual({ ran: ['Tides', 'Wreck'], reused: 4 });
  });

  it('tells where each result comes from', async () => {
    const { run, results } = await served.run({ patterns: ['Buoy'] });
    expect(run).toMatchObject({ reused: 1, planned: 1, done: 1, captures: 0, tally: { passed: 1 } });
    expect(results).toMatchObject([{ verdict: 'passed', run: 2 }]);
  });

  it('runs everything when that is wanted, or several times', async () => {
    expect(await ran({ fresh: true })).toEqual({
      ran: ['Beacon', 'Buoy', 'Flag', 'Tides', 'Tides', 'Wreck'],
      reused: 0,
    });
    expect(await ran({ repeat: 2, patterns: ['Buoy'] })).toEqual({ ran: ['Buoy', 'Buoy'], reused: 0 });
  });
});

describe('a run after a change', () => {
  it.each([
    ['of a look file', { 'src/Buoy.look.tsx': buoy('Bell buoy') }, ['Buoy', 'Tides', 'Wreck']],
    ['of a module', { 'src/depth.ts': 'export const depth = 5;\n' }, ['Beacon', 'Buoy', 'Tides', 'Wreck']],
    [
      'of a sheet that a sheet imports',
      { 'src/tokens.css': ':root { --sea: red; }' },
      ['Beacon', 'Buoy', 'Tides', 'Wreck'],
    ],
    ['of a file that a look asks for', { 'public/flag.svg': swatch('red') }, ['Flag', 'Tides', 'Wreck']],
    ['of a file that a look depends on', { 'data/tides/today.json': '[2]' }, ['Tides', 'Tides', 'Wreck']],
    [
      'of the configuration',
      { 'sguardo.config.ts': configuration({ patience: 201 }) },
      ['Beacon', 'Buoy', 'Flag', 'Tides', 'Tides', 'Wreck'],
    ],
  ])('%s runs what depends on it, and going back runs nothing', async (_what, changed, components) => {
    expect(await ranWith(changed)).toEqual(components);
    expect((await ran()).ran).toEqual(['Tides', 'Wreck']);
    // What the board shows is what the looks come to now.
    const shown = (await served.client.looks()).filter(({ verdict }) => verdict !== 'passed');
    expect(shown.map(({ look }) => look)).toEqual(['sunk']);
  });

  it('of the baselines runs their looks', async () => {
    const path = join(folder, 'baselines/day/src/Buoy/plain.json');
    const before = readFileSync(path);
    rmSync(path);
    expect((await ran()).ran).toEqual(['Buoy', 'Tides', 'Wreck']);
    writeFileSync(path, before);
    expect((await ran()).ran).toEqual(['Tides', 'Wreck']);
  });

  it('of which files there are runs what the new ones change', async () => {
    write(folder, { 'src/depth/index.ts': 'export const depth = 7;\n', 'src/Mole.look.tsx': buoy('Mole') });
    expect((await ran()).ran).toEqual(['Mole', 'Tides', 'Wreck']);
    rmSync(join(folder, 'src/depth.ts'));
    write(folder, { 'src/sea.css': files['src/sea.css'].replace('.sea', '.sea, .mole') });
    rmSync(join(folder, 'src/Mole.look.tsx'));
    const { results } = await served.run();
    // The module is named with its ending, so that nothing else takes its place.
    expect(results.map(({ component, verdict }) => `${component} ${verdict}`)).toContain('src/Buoy broken');
    rmSync(join(folder, 'src/depth'), { recursive: true });
    write(folder, files);
    expect((await ran()).ran).toEqual(['Tides', 'Wreck']);
  });

  it('that cannot be built is told, until it is put right', async () => {
    expect(await ranWith({ 'src/Buoy.look.tsx': 'export default {;' })).toEqual(['Buoy', 'Tides', 'Wreck']);
    expect(await ran()).toEqual({ ran: ['Tides', 'Wreck'], reused: 4 });
  });
});

describe('watching', () => {
  /** Whatever runs come of work are over when nothing has happened for a while. */
  async function due(work: () => void): Promise<string[][]> {
    const abort = new AbortController();
    const told: string[][] = [];
    let ready = (): void => {};
    const listening = new Promise<void>((resolve) => (ready = resolve));
    const following = (async () => {
      for await (const event of served.client.events(abort.signal, ready, {}, true)) {
        if (event.kind !== 'run-finished' || event.run.done === 0) continue;
        const results = await served.client.runResults(event.run.id);
        told.push(results.map(({ component, verdict }) => `${component.replace('src/', '')} ${verdict}`));
        abort.abort();
      }
    })();
    await listening;
    work();
    await following;
    return told;
  }

  it('runs exactly what depends on a file that is saved, and nothing for what was there before', async () => {
    expect(await due(() => write(folder, { 'src/Buoy.look.tsx': buoy('Can buoy') }))).toEqual([['Buoy changed']]);
    const back = due(() => {
      write(folder, { 'src/Buoy.look.tsx': files['src/Buoy.look.tsx'] });
      setTimeout(() => write(folder, { 'src/Wreck.look.tsx': wreck.replace("'Afloat'", "'Wreck'") }), 800);
    });
    expect(await back).toEqual([['Wreck new']]);
    expect((await served.client.looks()).find(({ component }) => component === 'src/Buoy')!.verdict).toBe('passed');
    const { length } = await served.client.runs();
    await due(() => {
      write(folder, { 'README.md': 'nothing depends on it' });
      setTimeout(() => write(folder, { 'src/Wreck.look.tsx': wreck.replace('sunk', 'sunken') }), 800);
    });
    expect((await served.client.runs()).length).toBe(length + 1);
    write(folder, { 'src/Wreck.look.tsx': wreck });
  });
});

describe('another service of the project', () => {
  it('takes over what an earlier one has run', async () => {
    const browsers = (): string[] =>
      childrenOf(process.pid)
        .map(({ command }) => command)
        .filter((command) => command.includes('--headless'));
    await served.service.close();
    expect(browsers()).toEqual([]);
    served = await serve(folder);
    // What it needs to know of the browser is known.
    expect(await ran({ patterns: ['Buoy', 'Beacon'] })).toEqual({ ran: [], reused: 2 });
    expect(browsers()).toEqual([]);
    expect((await served.client.runs())[0]!.engine).toMatch(/^Chromium \d/);
    expect(await ran()).toEqual({ ran: ['Tides', 'Wreck'], reused: 4 });
  });

  it('keeps what a run has taken over for as long as the run', async () => {
    write(folder, { 'sguardo.config.ts': configuration({ patience: 200, keep: 1 }) });
    await served.run();
    const { run } = await served.run();
    expect((await served.client.runResults(run.id)).map(({ component }) => component)).toHaveLength(6);
  });
});

describe('the description of an API', () => {
  it('has looks run again whose answers it may no longer give', async () => {
    const api = (type: string): string =>
      JSON.stringify({
        openapi: '3.0.3',
        info: { title: 'Harbour', version: '1' },
        paths: {
          '/api/berths': {
            get: { responses: { 200: { description: 'all', content: { 'application/json': { schema: { type } } } } } },
          },
        },
      });
    const folder = project({
      'sguardo.config.ts': configuration({ patience: 200, openapi: 'docs/api.json' }),
      'docs/api.json': api('array'),
      'src/Berths.look.tsx': lookFile(
        "useEffect(() => void fetch('/api/berths'), []); return <p>Berths</p>;",
        "none: { answers: { '/api/berths': { json: [] } } }",
      ).replace('import {', "import { useEffect } from 'react';\nimport {"),
    });
    const { client, run } = await serve(folder);
    await run();
    await client.decide({ kind: 'approve', all: true });
    await run();
    expect((await run()).run.reused).toBe(1);
    write(folder, { 'docs/api.json': api('object') });
    const { results } = await run();
    expect(results.map(({ verdict }) => verdict)).toEqual(['failed']);
  });
});

describe('a run of what has changed since a commit', () => {
  const git = (...args: string[]): string =>
    execFileSync('git', ['-C', folder, '-c', 'user.name=Ada', '-c', 'user.email=ada@harbour.test', ...args], {
      encoding: 'utf8',
    });

  it('runs the looks that depend on it, committed or not, and no others', async () => {
    write(folder, { ...files, '.gitignore': '.sguardo\n' });
    await served.run();
    git('init', '--quiet', '--initial-branch', 'main');
    git('add', '.');
    git('commit', '--quiet', '--message', 'harbour');
    expect((await served.run({ changed: 'main' })).run).toMatchObject({ done: 0, problems: [] });
    write(folder, { 'src/Buoy.look.tsx': buoy('Spar buoy') });
    // Tides says that it depends on files which nothing imports.
    expect((await ran({ changed: 'HEAD' })).ran).toEqual(['Buoy', 'Tides']);
    git('checkout', '--quiet', '-b', 'spar');
    git('commit', '--quiet', '--all', '--message', 'spar');
    write(folder, { 'src/depth.ts': 'export const depth = 6;\n' });
    expect((await ran({ changed: 'main' })).ran).toEqual(['Beacon', 'Buoy', 'Tides']);
    expect((await ran({ changed: 'HEAD', fresh: true })).ran).toEqual(['Beacon', 'Buoy', 'Tides', 'Tides']);
  });

  it('says so when git knows no such commit', async () => {
    const { run } = await served.run({ changed: 'nowhere' });
    expect(run.problems).toMatchObject([{ code: 'commit-unknown', message: 'git knows nothing called “nowhere”.' }]);
    expect((await served.run({ changed: '--help' })).run.problems).toMatchObject([{ code: 'commit-unknown' }]);
  });
});
