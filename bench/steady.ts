/**
 * Whether looks come out the same on a busy machine: the demo, again and again, in one window and in several, beside
 * loops that leave next to nothing of the processor. Floor: no difference at all, in outcome, steps and their times,
 * markup or pictures.
 */
import { spawn } from 'node:child_process';
import { cpus } from 'node:os';
import type { FinishedLook } from '../src/core/run/finished.ts';
import { type Figure, keyOf, openWorkshop } from './workshop.ts';

const rounds = 20;
/** How many endless loops there are to each processor. */
const loops = 1;

/** All of a look that has to be the same in every round, with a word for each. */
function facts({ verdict, problem, timeline, captures }: FinishedLook): Record<string, string> {
  const steps = timeline.steps.map(({ title, outcome, clock }) => [title, outcome, clock]);
  return {
    verdict: `${verdict} ${problem?.message ?? ''}`,
    steps: JSON.stringify(steps),
    ...Object.fromEntries(captures.map(({ summary }) => [`markup of ${summary.name}`, summary.canonical ?? ''])),
    ...Object.fromEntries(captures.map(({ summary }) => [`picture of ${summary.name}`, summary.hash])),
  };
}

export async function measureSteady(): Promise<Figure> {
  const shop = await openWorkshop();
  const busy = Array.from({ length: cpus().length * loops }, () => spawn(process.execPath, ['-e', 'for (;;);']));
  const first = new Map<string, Record<string, string>>();
  const differing: string[] = [];
  let results = 0;
  try {
    for (let round = 0; round < rounds; round++) {
      const looks = await shop.run([], { settings: { lanes: round % 2 === 0 ? 4 : 1 } });
      results += looks.length;
      for (const look of looks) {
        const now = facts(look);
        const before = first.get(keyOf(look)) ?? now;
        first.set(keyOf(look), before);
        const what = Object.keys({ ...before, ...now }).filter((fact) => before[fact] !== now[fact]);
        if (what.length > 0) differing.push(`${keyOf(look)}: ${what.join(', ')}`);
      }
      process.stdout.write(`round ${round + 1} of ${rounds}: ${differing.length} of ${results} results differ\n`);
    }
  } finally {
    for (const loop of busy) loop.kill('SIGKILL');
    await shop.close();
  }
  for (const one of differing.slice(0, 20)) process.stdout.write(`${one}\n`);
  return {
    text: `${differing.length} of ${results} results differ beside ${busy.length} endless loops`,
    limit: '0',
    within: differing.length === 0,
  };
}
