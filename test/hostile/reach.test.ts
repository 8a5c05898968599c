/** What a look can reach of the machine that it runs on. */
import { mkdirSync, symlinkSync } from 'node:fs';
import { join } from 'node:path';
import { beforeAll, describe, expect, it } from 'vitest';
import { freshFolder, lookFile, project, write } from '../support/project.ts';
import { serve } from '../support/service.ts';

let stage: string;

beforeAll(async () => {
  const elsewhere = freshFolder();
  write(elsewhere, { 'secret.txt': 'classified' });
  const folder = project({
    'src/Buoy.look.tsx': lookFile('return <p>buoy</p>;', 'plain: {}'),
    'public/flag.txt': 'flag',
    'public/.env': 'TOKEN=classified',
    'public/.well/known.txt': 'classified',
    '.env': 'TOKEN=classified',
    'shared/chart.txt': 'chart',
  });
  symlinkSync(join(elsewhere, 'secret.txt'), join(folder, 'public/link.txt'));
  symlinkSync(elsewhere, join(folder, 'public/folder'));
  symlinkSync(join(folder, '.env'), join(folder, 'public/env.txt'));
  symlinkSync(join(folder, '.sguardo'), join(folder, 'public/records'));
  symlinkSync(join(folder, 'shared/chart.txt'), join(folder, 'public/chart.txt'));
  mkdirSync(join(folder, 'public/empty'));
  const { service, run } = await serve(folder);
  await run();
  ({ stage } = service);
});

describe('the public folder', () => {
  it.each([
    ['/flag.txt', 'flag'],
    ['/chart.txt', 'chart'],
  ])('gives %s', async (path, text) => expect(await (await fetch(stage + path)).text()).toBe(text));

  it.each([
    '/.env',
    '/%2eenv',
    '/.well/known.txt',
    '/link.txt',
    '/folder/secret.txt',
    '/env.txt',
    '/records/sguardo.db',
    '/../.env',
    '/..%2f.env',
    '/%2e%2e/.env',
    '/flag.txt%00',
    '/empty',
    '/',
  ])('does not give %s', async (path) => {
    const reply = await fetch(stage + path);
    expect([400, 404]).toContain(reply.status);
    expect(await reply.text()).not.toContain('classified');
  });
});
