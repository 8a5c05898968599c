/** Measurements through the command line, on a copy of the demo that is taken away afterwards. */
import { spawnSync } from 'node:child_process';
import { join } from 'node:path';
import { endAll } from '../test/support/afterwards.ts';
import { copyOf, repository } from '../test/support/project.ts';
import type { Figure } from './workshop.ts';

/** Runs a command in the copy, and gives back what it has printed. */
export type Sguardo = (...args: string[]) => string;

/** Measures on a fresh copy of the demo, and ends whatever was started for it. */
export async function onDemo(measure: (folder: string, sguardo: Sguardo) => Promise<Figure>): Promise<Figure> {
  const folder = copyOf('demo/harbour');
  const program = join(repository, 'bin/sguardo.js');
  try {
    return await measure(
      folder,
      (...args) => spawnSync(process.execPath, [program, ...args], { cwd: folder, encoding: 'utf8' }).stdout,
    );
  } finally {
    await endAll();
  }
}
