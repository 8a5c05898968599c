/**
 * Whether looks come out the same on a busy machine: the demo and the kits, again and again, shuffled, in one window
 * and in several, beside loops that leave next to nothing of the processor. Floor: no difference at all, in outcome,
 * steps and their times, moments, markup or pictures. `npm run steady 5` runs five rounds instead of twenty,
 * `npm run steady 5 4` beside four loops for each processor instead of one.
 */
import { createHash } from 'node:crypto';
import { conditionsInWords, conditionsOf } from '../src/core/steady/conditions.ts';
import { partingOf, type Reference, referenceOf } from '../src/core/steady/parting.ts';
import { makeBusy } from '../src/work/load.ts';
import { type Figure, keyOf, openWorkshop } from './workshop.ts';

const projects = ['demo/harbour', 'test/kits/material', 'test/kits/modules', 'test/kits/headless'];

const hash = (text: string): string => createHash('sha256').update(text).digest('base64');

/** Runs one project so many times; what differed, in words, and how many results there were. */
async function measureProject(
  project: string,
  rounds: number,
  loops: number,
): Promise<{ results: number; differing: string[] }> {
  const shop = await openWorkshop(project);
  const first = new Map<string, Reference>();
  const differing: string[] = [];
  let results = 0;
  try {
    for (let round = 1; round <= rounds; round++) {
      const conditions = conditionsOf(round, 4);
      const rest = conditions.isBusy ? makeBusy(loops) : () => {};
      const looks = await shop.run([], { conditions, settings: { isolate: null } }).finally(rest);
      results += looks.length;
      for (const look of looks) {
        const now = referenceOf(look, hash);
        const before = first.get(keyOf(look)) ?? now;
        first.set(keyOf(look), before);
        const parting = partingOf(before, now);
        if (parting)
          differing.push(`${keyOf(look)}, ${conditionsInWords(conditions)}, step ${parting.step}: ${parting.what}`);
      }
      process.stdout.write(`${project}, round ${round} of ${rounds}: ${differing.length} of ${results} differ\n`);
    }
  } finally {
    await shop.close();
  }
  return { results, differing };
}

export async function measureSteady(rounds = 20, loops = 1): Promise<Figure> {
  let results = 0;
  const differing: string[] = [];
  for (const project of projects) {
    const found = await measureProject(project, rounds, loops);
    results += found.results;
    differing.push(...found.differing);
  }
  for (const one of differing.slice(0, 20)) process.stdout.write(`${one}\n`);
  return {
    text: `${differing.length} of ${results} results differ in ${rounds} rounds`,
    limit: '0',
    within: differing.length === 0,
  };
}
