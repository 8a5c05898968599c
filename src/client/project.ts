/** Which project a folder belongs to. */
import { existsSync } from 'node:fs';
import { dirname, join, resolve } from 'node:path';
import { fail } from '../core/problem/problem.ts';

/** What configuration files are called. */
export const configNames = ['sguardo.config.ts', 'sguardo.config.js', 'sguardo.config.mjs'];

/** The configuration file of a folder or the nearest one above it. @throws ProblemError `config-missing` */
export function findConfig(folder: string): string {
  for (let at = resolve(folder); ; at = dirname(at)) {
    for (const name of configNames) if (existsSync(join(at, name))) return join(at, name);
    if (dirname(at) === at) return fail('config-missing', { folder });
  }
}
