/**
 * Recording by doing: the input of every script of the demo projects is sent again by hand to a live look, and what was
 * written down is run.
 */
import { cpSync, existsSync, mkdirSync, mkdtempSync, rmSync, symlinkSync } from 'node:fs';
import { join, resolve } from 'node:path';
import { doAll } from '../test/support/byHand.ts';
import type { Figure } from './workshop.ts';

/** How many of the scripts have to pass, in percent. */
const limit = 95;

const projects = ['harbour', 'vue', 'svelte', 'angular', 'elements'];

/** A copy of a demo project, with its packages and the styles that all of them share. */
function copyOf(name: string, around: string): string {
  const from = resolve('demo', name);
  const isOwn = (file: string): boolean => !/node_modules|\.sguardo|baselines/.test(file.slice(from.length));
  const folder = join(around, name);
  mkdirSync(folder, { recursive: true });
  cpSync(resolve('demo/harbour/src'), join(around, 'harbour/src'), { recursive: true });
  cpSync(from, folder, { recursive: true, filter: isOwn });
  if (existsSync(join(from, 'node_modules'))) symlinkSync(join(from, 'node_modules'), join(folder, 'node_modules'));
  return folder;
}

export async function measureDoing(): Promise<Figure> {
  let acted = 0;
  let passed = 0;
  let same = 0;
  mkdirSync('bench/.tmp', { recursive: true });
  for (const name of projects) {
    const around = mkdtempSync(resolve('bench/.tmp/doing-'));
    const done = (await doAll(copyOf(name, around))).filter(({ verdict }) => verdict !== 'nothing');
    rmSync(around, { recursive: true, force: true });
    const missed = done.filter(({ verdict }) => verdict !== 'new');
    for (const { look, verdict, why, lines } of missed)
      process.stdout.write(`${name} ${look}: ${verdict}, ${why}\n  ${lines.join('\n  ')}\n`);
    acted += done.length;
    passed += done.length - missed.length;
    same += done.filter(({ isSame }) => isSame).length;
    process.stdout.write(`${name}: ${done.length - missed.length} of ${done.length} pass\n`);
  }
  const share = (100 * passed) / acted;
  return {
    text:
      `${passed} of ${acted} scripts pass as they were done by hand, ${share.toFixed(1)} %; ` +
      `${same} end in the same picture`,
    limit: `${limit} %`,
    within: share >= limit,
  };
}
