/** Modules that cannot be built: which look files they are behind, and how much work it is to find out. */
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { beforeAll, expect, it } from 'vitest';
import { type Said, sguardo } from '../support/cli.ts';
import { lookFile, project, write } from '../support/project.ts';
import { type Served, serve } from '../support/service.ts';

const plain = (more = ''): string => `${more}${lookFile('return <p>buoy</p>;', 'plain: {}')}`;
const names = (count: number, of: string): string[] => Array.from({ length: count }, (_, i) => `${of}${i + 1}`);

const counting = `import { appendFileSync } from 'node:fs';
export default { plugins: [{ name: 'counts', buildStart: () => appendFileSync('builds.txt', 'x') }] };`;

let folder: string;
let served: Served;
let builds: number;
let problems: Record<string, [code: string, place: string | undefined] | null>;
let told: Said;

beforeAll(async () => {
  folder = project({
    'vite.config.ts': counting.replace("'builds.txt'", "import.meta.dirname + '/builds.txt'"),
    'src/tides.ts': 'export const tides = 1;\n',
    'src/Chart.tsx': "import { tides, ebb } from './tides';\nexport const chart = [tides, ebb];\n",
    'src/Deep.ts': "export * from './Chart';\n",
    ...Object.fromEntries(names(9, 'Chart').map((name) => [`src/${name}.look.tsx`, plain("import './Deep';\n")])),
    ...Object.fromEntries(names(3, 'Free').map((name) => [`src/${name}.look.tsx`, plain()])),
    'src/Syntax.look.tsx': plain('const = 1;\n'),
    'src/Lost.look.tsx': plain("import { gone } from './gone';\nconsole.log(gone);\n"),
  });
  write(folder, { 'builds.txt': '' });
  served = await serve(folder);
  const { results } = await served.run();
  builds = readFileSync(join(folder, 'builds.txt'), 'utf8').length;
  problems = Object.fromEntries(
    results.map(({ component, problem }) => [component, problem && [problem.code, problem.place]]),
  );
  told = await sguardo(folder, 'run', '--fresh');
});

it('are told of every look file that they are behind, with their place; the others run', () => {
  const chart = ['bundle-failed', 'src/Chart.tsx:1:17'];
  expect(problems).toEqual({
    ...Object.fromEntries(names(9, 'src/Chart').map((name) => [name, chart])),
    ...Object.fromEntries(names(3, 'src/Free').map((name) => [name, null])),
    'src/Syntax': ['bundle-failed', expect.stringMatching(/^src\/Syntax\.look\.tsx:1:/)],
    'src/Lost': ['bundle-failed', expect.stringMatching(/^src\/Lost\.look\.tsx:1:/)],
  });
});

it('are found with as many builds as there are mistakes, and three more', () => {
  expect(builds).toBeLessThanOrEqual(3 + 3);
});

it('are told once on the command line', () => {
  const text = told.out.replace(/^▲.*· broken$/gm, '');
  expect(text.match(/src\/Chart\.tsx, which/g)).toHaveLength(1);
  expect(text).toMatch(/▲ broken {2}Chart1 › \(the file\) .*\n {2}also {2}Chart2, Chart3, .*Chart7 and 2 more\n/);
});
