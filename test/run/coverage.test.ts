/** What looks run of the sources, counted by a real browser: through the interface and the command line. */
import { existsSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { beforeAll, expect, test } from 'vitest';
import { sguardo } from '../support/cli.ts';
import { configuration, project, write } from '../support/project.ts';
import { type Served, serve } from '../support/service.ts';

const buoy = `import { tide } from './tide';
export type Sea = 'calm' | 'rough' | 'gale';
export function Buoy({ sea, isLit = false, onPing }: { sea: Sea; isLit?: boolean; onPing(): void }) {
  const warns = () => {
    if (sea === 'gale') return 'Stay in';
    return 'Go out';
  };
  return (
    <div>
      <p>{warns()}, {tide(3)}</p>
      {isLit ? <b>lit</b> : <i>dark</i>}
      <button onClick={() => onPing()}>Ping</button>
      <button
        onDoubleClick={() => {
          onPing();
        }}
      >
        Twice
      </button>
    </div>
  );
}
`;
const tide = `export function tide(hours: number): string {
  if (hours > 6) return 'ebb';
  return 'flood';
}
export function never(): number {
  return 1;
}
`;
const looksOf = (states: string): string => `import { looks, the, click, ensure, spy } from 'sguardo';
import { Buoy } from './Buoy';
export default looks(Buoy, { props: { onPing: spy() }, states: { ${states} } });
`;

let root: string;
let served: Served;

beforeAll(async () => {
  root = project({
    'sguardo.config.ts': configuration({ coverage: { thresholds: { 'src/tide.ts': { functions: 80 } } } }),
    'src/Buoy.tsx': buoy,
    'src/tide.ts': tide,
    'src/unused.ts': `export const twice = (a: number) => a * 2;\n`,
    'src/broken.ts': 'export const = 1;',
    'src/Buoy.look.tsx': looksOf(`
      calm: { props: { sea: 'calm' } },
      pinged: { props: { sea: 'calm', isLit: true }, script: async () => { await click(the.button('Ping')); } },
    `),
  });
  served = await serve(root);
  await served.run({ coverage: true });
});

const lineOf = (text: string, part: string): number => text.slice(0, text.indexOf(part)).split('\n').length;

test('each line says how often it was run, and by which looks', async () => {
  const source = await served.client.coverageOf('src/Buoy.tsx');
  const about = (part: string) => {
    const line = source.lines.find(({ line }) => line === lineOf(buoy, part))!;
    const { missing } = line;
    return { ran: line.count > 0, missing, looks: line.looks.map((index) => source.looks[index]!.look).sort() };
  };
  const both = ['calm', 'pinged'];
  expect(about("return 'Stay in'")).toEqual({ ran: true, looks: both, missing: ["never run: return 'Stay in';"] });
  expect(about("return 'Go out'")).toEqual({ ran: true, looks: both, missing: [] });
  expect(about('onClick')).toEqual({ ran: true, looks: ['pinged'], missing: [] });
  expect(about('          onPing();')).toEqual({ ran: false, looks: [], missing: [] });
});

test('what no look reaches is named, with looks that would', async () => {
  const { unreached } = await served.client.coverageOf('src/Buoy.tsx');
  const told = Object.fromEntries(unreached.map(({ what, draft }) => [what, draft]));
  expect(Object.keys(told)).toEqual([
    'sea "rough"',
    'sea "gale"',
    "sea === 'gale' is never true",
    'onDoubleClick of <button> “Twice”',
  ]);
  expect(told['sea "rough"']).toBe("'sea rough': { props: { sea: 'rough' } },");
});

test('all sources count, also those that no look loads; what cannot be parsed is named', async () => {
  const { files, total, looks, notes } = await served.client.coverage();
  const parts = Object.fromEntries(files.map((file) => [file.path, file]));
  expect(Object.keys(parts).sort()).toEqual(['src/Buoy.tsx', 'src/tide.ts', 'src/unused.ts']);
  expect(parts['src/unused.ts']).toMatchObject({ looks: 0, functions: { covered: 0, all: 1 } });
  expect(parts['src/tide.ts']).toMatchObject({
    lines: { covered: 2, all: 3 },
    branches: { covered: 1, all: 2 },
    functions: { covered: 1, all: 2 },
  });
  expect(looks).toBe(2);
  expect(total.functions).toEqual({ covered: 4, all: 7 });
  expect(notes).toEqual(['src/broken.ts could not be parsed, and is not counted.']);
});

test('results that were counted are taken over, and those of a look that was edited are not', async () => {
  const again = await served.run({ coverage: true });
  expect(again.run.reused).toBe(0);
  await served.client.decide({ kind: 'approve', all: true });
  await served.run({ coverage: true });
  expect((await served.run({ coverage: true })).run.reused).toBe(2);
  write(root, {
    'src/Buoy.look.tsx': looksOf(`
      calm: { props: { sea: 'calm' } },
      pinged: { props: { sea: 'calm', isLit: true }, script: async () => { await click(the.button('Ping')); } },
      gale: { props: { sea: 'gale' } },
    `),
  });
  await served.run({ coverage: true });
  const source = await served.client.coverageOf('src/Buoy.tsx');
  const line = source.lines.find((one) => one.line === lineOf(buoy, "return 'Stay in'"))!;
  expect(line.looks.map((index) => source.looks[index]!.look)).toContain('gale');
  expect(source.unreached.map(({ what }) => what)).not.toContain('sea "gale"');
});

test('looks that run without being counted come out as before', async () => {
  const { run, results } = await served.run({ fresh: true });
  expect(run.tally.failed + run.tally.broken).toBe(0);
  expect(results).toHaveLength(3);
});

test('the command line tells shares, fails below a threshold, and writes reports', async () => {
  const { code, out } = await sguardo(root, 'run', '--coverage', '--report', 'lcov=out/lcov.info,coverage=out/html');
  expect(out).toContain('src/tide.ts: 50 % of its functions are covered, 80 % are needed.');
  expect(code).toBe(1);
  const lcov = readFileSync(join(root, 'out/lcov.info'), 'utf8');
  const [ofTide] = lcov.split('end_of_record').filter((part) => part.includes('SF:src/tide.ts'));
  expect(ofTide).toMatch(/DA:2,\d+\nDA:3,\d+\nDA:6,0/);
  expect(ofTide).toContain('FNF:2\nFNH:1');
  expect(existsSync(join(root, 'out/html/index.html'))).toBe(true);
  const some = await sguardo(root, 'run', 'calm', '--coverage');
  expect(some.out).toContain('Only some looks were run, so the thresholds are not checked.');
});
