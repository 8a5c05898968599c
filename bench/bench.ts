/**
 * `npm run bench -- <name>`: one measurement; the last line is its figure and limit, and the exit code is 1 past the
 * limit.
 */
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
  explain: async () => (await import('./explain.ts')).measureExplain(...process.argv.slice(3).map(Number)),
};

const name = process.argv[2] ?? '';
const bench = benches[name];
if (!bench) {
  process.stderr.write(`Name a measurement: ${Object.keys(benches).join(', ')}. For example: npm run bench -- run\n`);
  process.exit(2);
}
const { text, limit, within } = await bench();
process.stdout.write(`${name}: ${text} (limit ${limit})\n`);
process.exit(within ? 0 : 1);
