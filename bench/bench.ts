/**
 * `npm run bench -- <name>`: one measurement, or several that belong together; the last lines are their figures and
 * limits, and the exit code is 1 past a limit. What a measurement is made of is installed first.
 */
import { spawnSync } from 'node:child_process';
import { messageOf } from '../src/core/problem/problem.ts';
import type { Figure } from './workshop.ts';

const benches: Record<string, () => Promise<Figure>> = {
  run: async () => (await import('./run.ts')).measureRun(),
  record: async () => (await import('./record.ts')).measureRecord(),
  compare: async () => (await import('./compare.ts')).measureCompare(),
  steady: async () => (await import('./steady.ts')).measureSteady(...process.argv.slice(3).map(Number)),
  clock: async () => (await import('./clock.ts')).measureClock(),
  rerun: async () => (await import('./rerun.ts')).measureRerun(...process.argv.slice(3).map(Number)),
  board: async () => (await import('./board.ts')).measureBoard(...process.argv.slice(3).map(Number)),
  loop: async () => (await import('./loop.ts')).measureLoop(...process.argv.slice(3).map(Number)),
  truth: async () => (await import('./truth.ts')).measureTruth(...process.argv.slice(3).map(Number)),
  memory: async () => (await import('./memory.ts')).measureMemory(...process.argv.slice(3).map(Number)),
  frameworks: async () => (await import('./frameworks.ts')).measureFrameworks(),
  targets: async () => (await import('./targets.ts')).measureTargets(),
  stage: async () => (await import('./stage.ts')).measureStage(),
  live: async () => (await import('./live.ts')).measureLive(),
  doing: async () => (await import('./doing.ts')).measureDoing(),
  redraw: async () => (await import('./redraw.ts')).measureRedraw(),
  why: async () => (await import('./why.ts')).measureWhy(...process.argv.slice(3).map(Number)),
  explainTime: async () => (await import('./explainTime.ts')).measureExplainTime(...process.argv.slice(3).map(Number)),
  accessibility: async () => (await import('./accessibility.ts')).measureAccessibility(),
  challenge: async () => (await import('./challenge.ts')).measureChallenge(),
  publish: async () => (await import('./publish.ts')).measurePublish(),
  coverage: async () => (await import('./coverage.ts')).measureCoverage(),
  causes: async () => (await import('./causes.ts')).measureCauses(...process.argv.slice(3).map(Number)),
  review: async () => (await import('./review.ts')).measureReview(...process.argv.slice(3).map(Number)),
};

/** What some are made of beside the demo, as `scripts/kits.mjs` names it. */
const needs: Record<string, 'libraries' | 'kits'> = {
  steady: 'libraries',
  clock: 'libraries',
  memory: 'libraries',
  frameworks: 'kits',
  doing: 'kits',
  causes: 'kits',
};

/** Those that take a quarter of an hour or more: with all others they come last, so that their figures are there. */
const long = ['memory', 'truth', 'steady'];

/** Several that belong together. */
const groups: Record<string, string[]> = {
  explain: ['causes', 'explainTime', 'why'],
  all: [...Object.keys(benches).filter((name) => !long.includes(name)), ...long],
};

const asked = process.argv[2] ?? '';
const names = groups[asked] ?? [asked];
if (!names.every((name) => Object.hasOwn(benches, name))) {
  const known = [...Object.keys(benches), ...Object.keys(groups)].join(', ');
  process.stderr.write(`Name a measurement: ${known}. For example: npm run bench -- run\n`);
  process.exit(2);
}
for (const what of new Set(names.flatMap((name) => needs[name] ?? []))) {
  const { status } = spawnSync('node', ['scripts/kits.mjs', what], { stdio: 'inherit' });
  if (status !== 0) process.exit(status ?? 3);
}

/** One that cannot be measured is past its limit, and the others are measured all the same. */
const measure = (name: string): Promise<Figure> =>
  benches[name]!().catch((error: unknown) => {
    if (names.length === 1) throw error;
    return { text: `could not be measured: ${messageOf(error)}`, limit: 'unknown', within: false };
  });

const figures: string[] = [];
let isWithin = true;
for (const name of names) {
  const { text, limit, within } = await measure(name);
  isWithin &&= within;
  figures.push(`${within || names.length === 1 ? '' : 'OVER: '}${name}: ${text} (limit ${limit})`);
  // Each is told as soon as it is known, and all of them once more at the end.
  if (names.length > 1) process.stdout.write(`${figures.at(-1)}\n\n`);
}
process.stdout.write(`${figures.join('\n')}\n`);
process.exit(isWithin ? 0 : 1);
