/**
 * Baselines of other machines: the same browser under another name, whose text is not smoothed, stands for another
 * one. Also families of machines, each with baselines of its own.
 */
import { chmodSync, existsSync, mkdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { ResultSummary } from '../../src/core/run/run.ts';
import { findChromium } from '../../src/engine/chromium/chromium.ts';
import { configuration, freshFolder, lookFile, project, write } from '../support/project.ts';
import { type Served, serve } from '../support/service.ts';

const buoy = (colour: string, text = 'Buoy', rule = ''): Record<string, string> => ({
  'src/buoy.css': `.note { color: ${colour}; font-size: 17px }\n${rule}`,
  'src/Buoy.look.tsx': `import './buoy.css';\n${lookFile(
    `return <p className="note">${text} {props.name}</p>`,
    "plain: {}, named: { props: { name: 'C-14' } }",
  )}`,
});

const home = process.env.HOME;
const chromium = process.env.SGUARDO_CHROMIUM;
const restore = (): void => {
  process.env.HOME = home;
  if (chromium === undefined) delete process.env.SGUARDO_CHROMIUM;
  else process.env.SGUARDO_CHROMIUM = chromium;
};
afterAll(restore);

/** From now on the machine has a font more, and its browser draws text without smoothing it. */
function elsewhere(): void {
  const other = freshFolder();
  mkdirSync(join(other, '.fonts'));
  writeFileSync(join(other, '.fonts/pier.ttf'), 'no font at all');
  const fonts = join(other, 'fonts.conf');
  writeFileSync(
    fonts,
    '<?xml version="1.0"?><!DOCTYPE fontconfig SYSTEM "fonts.dtd"><fontconfig>' +
      '<include ignore_missing="yes">/etc/fonts/fonts.conf</include>' +
      '<match target="font"><edit name="antialias" mode="assign"><bool>false</bool></edit></match>' +
      '<match target="pattern"><edit name="antialias" mode="assign"><bool>false</bool></edit></match></fontconfig>',
  );
  const program = join(other, 'browser');
  writeFileSync(program, `#!/bin/sh\nFONTCONFIG_FILE=${fonts} exec ${findChromium()} "$@"\n`);
  chmodSync(program, 0o755);
  process.env.HOME = other;
  process.env.SGUARDO_CHROMIUM = program;
}

let folder: string;
let here: Served;
let there: Served;

const stands = ({ results }: { results: ResultSummary[] }) =>
  results.map(({ verdict, captures }) => [verdict, captures[0]!.state.kind]);

beforeAll(async () => {
  folder = project(buoy('#123456'));
  here = await serve(folder);
  await here.run();
  await here.client.decide({ kind: 'approve', all: true });
  await here.service.close();
  // As in a fresh clone: nothing but the folder of baselines is known.
  rmSync(join(folder, '.sguardo'), { recursive: true });
  elsewhere();
  there = await serve(folder);
});

describe('a browser that draws otherwise', () => {
  it('changes nothing where the moments are equal, and says how it was compared', async () => {
    const { run, results } = await there.run();
    expect(stands({ results })).toEqual([
      ['passed', 'same'],
      ['passed', 'same'],
    ]);
    expect(results[0]!.captures[0]!.state).toEqual({ kind: 'same', isElsewhere: true });
    expect(results[0]!.captures[0]!.hash).not.toBe(results[0]!.captures[0]!.baseline);
    expect(run.notes).toEqual([
      expect.stringContaining('2 captures were approved with another browser or other fonts'),
    ]);
    expect(run.notes[0]).toContain('sguardo run --upgrade');
  });

  it('hides no real change, which is shown and explained without what the browser does', async () => {
    write(folder, buoy('#b3261e'));
    const { results } = await there.run();
    expect(stands({ results })).toEqual([
      ['changed', 'changed'],
      ['changed', 'changed'],
    ]);
    expect(results[0]!.captures[0]!.state).toMatchObject({ otherFingerprint: true, isRedrawn: true });
    const { causes } = await there.client.causes();
    expect(causes.map(({ title, proof }) => [title, proof])).toEqual([['color of .note: #123456 → #b3261e', 'proved']]);
  });

  it('does not turn what nobody can see into a change, although the moments differ', async () => {
    write(folder, buoy('#123456', 'Buoy', '.unused { color: red }\n'));
    expect(stands(await there.run())).toEqual([
      ['passed', 'same'],
      ['passed', 'same'],
    ]);
  });
});

describe('an upgrade', () => {
  it('shows everything that the browser draws otherwise as one cause, beside real ones', async () => {
    write(folder, buoy('#123456'));
    const { results, run } = await there.run({ upgrade: true });
    expect(stands({ results })).toEqual([
      ['changed', 'changed'],
      ['changed', 'changed'],
    ]);
    expect(run.notes).toEqual([]);
    const { causes } = await there.client.causes();
    expect(causes.map(({ kind, captures }) => [kind, captures.length])).toEqual([['engine', 2]]);
    expect(causes[0]!.title).toMatch(/^drawn by another browser or with other fonts, .*: fonts \w+ → fonts \w+$/);
  });

  it('is taken over in one decision, after which every pixel counts again', async () => {
    const { causes } = await there.client.causes();
    const keys = causes.filter(({ kind }) => kind === 'engine').map(({ key }) => key);
    expect((await there.client.decide({ kind: 'approve', causes: keys })).decided).toHaveLength(2);
    const { results, run } = await there.run({ fresh: true });
    expect(results.map(({ captures }) => captures[0]!.state)).toEqual([{ kind: 'same' }, { kind: 'same' }]);
    expect(run.notes).toEqual([]);
  });

  it('is taken over again when the folder has gone back, although the pictures are the same', async () => {
    for (const name of ['plain', 'named']) {
      const file = join(folder, `baselines/day/src/Buoy/${name}.json`);
      const about = JSON.parse(readFileSync(file, 'utf8')) as { fingerprint: string };
      writeFileSync(file, JSON.stringify({ ...about, fingerprint: about.fingerprint.replace('fonts ', 'fonts 0') }));
    }
    expect(stands(await there.run({ upgrade: true }))).toEqual([
      ['changed', 'changed'],
      ['changed', 'changed'],
    ]);
    expect((await there.client.decide({ kind: 'approve', all: true })).decided).toHaveLength(2);
    const { results } = await there.run({ fresh: true });
    expect(results.map(({ captures }) => captures[0]!.state)).toEqual([{ kind: 'same' }, { kind: 'same' }]);
  });
});

describe('families of machines', () => {
  it('have baselines of their own, and the nearest one until then', async () => {
    const family = (name: string): Record<string, string> => ({ 'sguardo.config.ts': configuration({ family: name }) });
    write(folder, { ...family('ci'), ...buoy('#123456') });
    expect(stands(await there.run())).toEqual([
      ['passed', 'same'],
      ['passed', 'same'],
    ]);
    write(folder, buoy('#0b6e4f'));
    await there.run();
    await there.client.decide({ kind: 'approve', all: true });
    expect(existsSync(join(folder, 'baselines/day@ci/src/Buoy/plain.png'))).toBe(true);
    expect(stands(await there.run())).toEqual([
      ['passed', 'same'],
      ['passed', 'same'],
    ]);
    // Another family has none, and is compared with the usual ones.
    write(folder, family('laptop'));
    expect(stands(await there.run())).toEqual([
      ['changed', 'changed'],
      ['changed', 'changed'],
    ]);
    write(folder, { ...family('laptop'), ...buoy('#123456') });
    expect(stands(await there.run())).toEqual([
      ['passed', 'same'],
      ['passed', 'same'],
    ]);
  });
});
