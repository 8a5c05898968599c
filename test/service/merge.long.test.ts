/** Branches whose baselines are in conflict, merged with git itself and settled without touching a file by hand. */
import { execFileSync } from 'node:child_process';
import { existsSync, readFileSync, rmSync } from 'node:fs';
import { join } from 'node:path';
import { beforeAll, beforeEach, expect, it } from 'vitest';
import type { CaptureState } from '../../src/core/run/verdict.ts';
import { sguardo } from '../support/cli.ts';
import { openConsole } from '../support/page.ts';
import { plainFile, project, write } from '../support/project.ts';
import { type Served, serve } from '../support/service.ts';

const buoy = (colour: string): Record<string, string> => ({
  'src/Buoy.look.tsx': plainFile(`return <p style={{ color: '${colour}' }}>Buoy</p>`, 'plain: {}'),
});

let folder: string;
let served: Served;

function git(...args: string[]): string {
  const identity = ['-c', 'user.name=Ada', '-c', 'user.email=ada@harbour.example'];
  return execFileSync('git', ['-C', folder, ...identity, ...args], { encoding: 'utf8', stdio: 'pipe' });
}

/** Merges, rebases or picks, which is known to end in a conflict. */
function conflicting(...args: string[]): void {
  expect(() => git(...args)).toThrow();
}

async function approved(colour: string, who: string, why: string): Promise<void> {
  write(folder, buoy(colour));
  await served.run();
  await served.client.decide({ kind: 'approve', all: true, who, why });
  git('add', '-A');
  git('commit', '-m', why);
}

const picture = (): Buffer => readFileSync(join(folder, 'baselines/day/src/Buoy/plain.png'));
const unmerged = (): string => git('diff', '--name-only', '--diff-filter=U').trim();

async function state(): Promise<CaptureState> {
  const { results } = await served.run();
  return results[0]!.captures[0]!.state;
}

let pictures: { base: Buffer; ours: Buffer; theirs: Buffer };

/** Two branches, `main` in teal and `spring` in maroon, each with its own baseline. */
beforeAll(async () => {
  folder = project(buoy('navy'));
  git('init', '-b', 'main');
  served = await serve(folder);
  await approved('navy', 'Ada', 'first look');
  const base = picture();
  git('checkout', '-b', 'spring');
  await approved('maroon', 'Ben', 'spring colours');
  const theirs = picture();
  git('checkout', 'main');
  await approved('teal', 'Mara', 'teal for all');
  pictures = { base, ours: picture(), theirs };
  git('tag', 'teal');
  git('tag', 'maroon', 'spring');
});

/** As if nothing had been merged: `main` is checked out. */
beforeEach(() => {
  rmSync(join(folder, '.git/rebase-merge'), { recursive: true, force: true });
  git('checkout', '-f', '-B', 'spring', 'maroon');
  git('checkout', '-f', '-B', 'main', 'teal');
  git('clean', '-fdq');
});

it('a merge shows base, ours, theirs and now; a decision about now settles the files', async () => {
  conflicting('merge', 'spring');
  expect(unmerged()).toContain('baselines/day/src/Buoy/plain.png');
  write(folder, buoy('purple'));
  git('add', 'src');
  const found = await state();
  expect(found).toMatchObject({
    kind: 'conflict',
    sides: {
      base: { who: 'Ada', why: 'first look' },
      ours: { who: 'Mara', why: 'teal for all', name: 'main' },
      theirs: { who: 'Ben', why: 'spring colours', name: 'spring' },
    },
  });
  const { withoutBaseline } = await served.client.causes();
  expect(withoutBaseline.map(({ why }) => why)).toEqual(['conflict']);
  const told = await sguardo(folder, 'run', '--fresh');
  expect(told.out).toContain('ours    main: approved by Mara on 2');
  expect(told.out).toContain('sguardo approve --take ours');
  expect(told.code).toBe(1);
  await served.client.decide({ kind: 'approve', all: true, who: 'Ada', why: 'purple of both' });
  expect(unmerged()).toBe('');
  expect(await state()).toEqual({ kind: 'same' });
  git('commit', '-m', 'spring is here');
  expect(git('status', '--porcelain')).toBe('');
});

it.each(['ours', 'theirs', 'base'] as const)('“%s” is taken byte for byte', async (take) => {
  conflicting('merge', 'spring');
  write(folder, buoy({ ours: 'teal', theirs: 'maroon', base: 'navy' }[take]));
  git('add', 'src');
  expect((await state()).kind).toBe('conflict');
  if (take === 'theirs')
    expect((await sguardo(folder, 'approve', '--take', take)).out).toContain('1 capture approved.');
  else await served.client.decide({ kind: 'approve', all: true, take });
  expect(picture().equals(pictures[take])).toBe(true);
  expect(unmerged()).toBe('');
  expect(await state()).toEqual({ kind: 'same' });
  expect((await served.client.causes()).withoutBaseline).toEqual([]);
});

it('is settled with a key in the console, which shows all four pictures', async () => {
  conflicting('merge', 'spring');
  write(folder, buoy('maroon'));
  git('add', 'src');
  await state();
  const page = await openConsole(served.service.url);
  await page.open('/review');
  await page.shows('merge conflict');
  await page.shows('Theirs (what is shown now)');
  await page.shows('spring · approved by Ben');
  await page.holds(
    "[...document.querySelectorAll('figure img')].filter((image) => image.naturalWidth > 0).length === 4",
  );
  await page.press('r');
  await page.shows('All decided');
  await page.shows('Approved 1 capture.');
  expect(picture().equals(pictures.theirs)).toBe(true);
  await page.press('u');
  await page.shows('Taken back for 1 capture.');
});

it('what was taken, and is not what is shown, has changed', async () => {
  conflicting('merge', 'spring');
  write(folder, buoy('maroon'));
  git('add', 'src');
  await state();
  await served.client.decide({ kind: 'approve', all: true, take: 'ours' });
  expect((await state()).kind).toBe('changed');
  const again = served.client.decide({ kind: 'approve', all: true, take: 'ours' });
  expect((await again).decided).toEqual([]);
});

it('nothing is taken before somebody has seen what there is', async () => {
  await served.run();
  conflicting('merge', 'spring');
  await expect(served.client.decide({ kind: 'approve', all: true, take: 'ours' })).rejects.toMatchObject({
    problem: { code: 'nothing-to-decide', remedy: expect.stringContaining('sguardo run') },
  });
});

it('is open again, for git as well, when the decision is taken back', async () => {
  conflicting('merge', 'spring');
  write(folder, buoy('maroon'));
  git('add', 'src');
  await state();
  await served.client.decide({ kind: 'approve', all: true, take: 'ours' });
  expect(unmerged()).toBe('');
  await served.client.undo();
  expect(unmerged()).toContain('baselines/day/src/Buoy/plain.json');
  expect((await state()).kind).toBe('conflict');
});

it('a rebase is settled in the same way', async () => {
  conflicting('rebase', 'spring');
  write(folder, buoy('teal'));
  git('add', 'src');
  expect(await state()).toMatchObject({ kind: 'conflict', sides: { ours: { who: 'Ben' }, theirs: { who: 'Mara' } } });
  await served.client.decide({ kind: 'approve', all: true, take: 'theirs' });
  expect(picture().equals(pictures.ours)).toBe(true);
  expect(unmerged()).toBe('');
  git('-c', 'core.editor=true', 'rebase', '--continue');
  expect(existsSync(join(folder, '.git/rebase-merge'))).toBe(false);
});

it('a side that has removed its baseline has none to take', async () => {
  git('checkout', 'spring');
  git('rm', '-r', '-q', 'baselines/day');
  git('commit', '-m', 'no baselines here');
  git('checkout', 'main');
  conflicting('merge', 'spring');
  write(folder, buoy('teal'));
  git('add', 'src');
  const found = await state();
  expect(found).toMatchObject({ kind: 'conflict', sides: { ours: { who: 'Mara' }, theirs: null } });
  await expect(served.client.decide({ kind: 'approve', all: true, take: 'theirs' })).rejects.toMatchObject({
    problem: { code: 'conflict-side' },
  });
});
