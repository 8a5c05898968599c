/** What all look files of a project share: its Vite configuration, however it builds, and its frame. */
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { beforeAll, describe, expect, it } from 'vitest';
import { configuration, lookFile, project, write } from '../support/project.ts';
import { type Served, serve } from '../support/service.ts';

/** A component whose look holds only when its sheet has come along. */
const styled = `import './buoy.css';
${lookFile(
  'return <p className="buoy">buoy</p>;',
  `styled: {
    async script() {
      await ensure(() => getComputedStyle(document.querySelector('p')!).color).equals('rgb(1, 2, 3)');
    },
  }`,
)}`;

let folder: string;
let served: Served;

beforeAll(async () => {
  folder = project({
    'src/A.look.tsx': styled,
    'src/B.look.tsx': styled,
    'src/buoy.css': '.buoy { color: rgb(1, 2, 3) }',
    'index.html': '<!doctype html><title>An application</title>',
  });
  served = await serve(folder);
});

describe('a project that builds', () => {
  it.each([
    ['an application of several pages', "base: '/app/', build: { rollupOptions: { input: ['index.html'] } }"],
    [
      'with names of its own',
      "build: { rolldownOptions: { input: 'index.html', output: { entryFileNames: 'x/[name].js', " +
        "chunkFileNames: 'y/[name].js' } } }",
    ],
    [
      'in two formats',
      "build: { rollupOptions: { output: [{ entryFileNames: 'a/[name].js' }, { format: 'cjs', " +
        "entryFileNames: 'b/[name].js' }] } }",
    ],
    [
      'a library',
      "build: { lib: { entry: 'src/A.look.tsx', formats: ['es', 'cjs'] }, rollupOptions: { external: ['react', " +
        '/^react-dom/] } }',
    ],
    ['for a server', "appType: 'custom', build: { ssr: true }"],
    [
      'one sheet, for another network',
      'build: { cssCodeSplit: false, minify: true }, experimental: { renderBuiltUrl: (name: string) => ' +
        "'http://elsewhere.test/' + name }",
    ],
    ['again at every change', 'build: { watch: {} }'],
  ])('has its looks run all the same: %s', async (_what, config) => {
    write(folder, { 'vite.config.ts': `export default { ${config} };` });
    const { run, results } = await served.run();
    expect(results.map(({ component, verdict, problem }) => [component, verdict, problem?.message])).toEqual([
      ['src/A', 'new', undefined],
      ['src/B', 'new', undefined],
    ]);
    expect(run.problems).toEqual([]);
  });
});

describe('names of classes in CSS modules', () => {
  const light = `import css from './light.module.css';
${lookFile('return <p className={css.lit}>light</p>;', 'lit: {}')}`;
  /** The moment as it is kept: what people read has something steady in the place of hashes. */
  const markupOf = (root: string): string =>
    readFileSync(join(root, 'baselines/day/src/Light/lit.moment'), 'utf8').replaceAll('": "', '="');

  it('stay as they are when something else in their file changes', async () => {
    const root = project({ 'src/Light.look.tsx': light, 'src/light.module.css': '.lit { color: rgb(1, 2, 3) }' });
    const { run, client } = await serve(root);
    await run();
    await client.decide({ kind: 'approve', all: true });
    expect(markupOf(root)).toMatch(/class="_lit_[0-9a-f]{6}"/);
    write(root, { 'src/light.module.css': '.dark { color: rgb(4, 5, 6) }\n.lit { color: rgb(1, 2, 3) }' });
    expect((await run()).look('lit').verdict).toBe('passed');
  });

  it('are the ones that the project wants, if it says', async () => {
    const root = project({
      'src/Light.look.tsx': light,
      'src/light.module.css': '.lit { color: rgb(1, 2, 3) }',
      'vite.config.ts': "export default { css: { modules: { generateScopedName: 'harbour-[local]' } } };",
    });
    const { run, client } = await serve(root);
    await run();
    await client.decide({ kind: 'approve', all: true });
    expect(markupOf(root)).toContain('harbour-lit');
  });
});

describe('what cannot be used', () => {
  it('of the Vite configuration is told once, and blamed on no look file', async () => {
    write(folder, { 'vite.config.ts': "throw new Error('no such plugin');" });
    const { run, results } = await served.run();
    expect(run.problems[0]).toMatchObject({
      code: 'config-threw',
      message: 'vite.config.ts could not be read: no such plugin.',
    });
    expect(results).toEqual([]);
    write(folder, { 'vite.config.ts': 'export default {};' });
  });

  it.each([
    [
      'a mistake',
      "import './frame.css';\nexport default ({ children }) => <div>{children</div>;\n",
      /could not be bundled/,
      /^sguardo\.frame\.tsx:2:\d+$/,
    ],
    [
      'a missing file',
      "import './lost.css';\nexport default ({ children }) => children;\n",
      /Could not resolve '\.\/lost\.css'/,
      /^sguardo\.frame\.tsx:1:\d+$/,
    ],
  ])('of the frame is told once, with its place: %s', async (_what, frame, message, place) => {
    write(folder, { 'sguardo.frame.tsx': frame, 'frame.css': '' });
    const { run, results } = await served.run();
    expect(run.problems[0]).toMatchObject({
      code: 'frame-failed',
      message: expect.stringMatching(message),
      place: expect.stringMatching(place),
    });
    expect(run.problems[0]!.frame).toContain('▲');
    expect(results).toEqual([]);
  });

  it.each([
    ['react', 'sguardo.frame.tsx', 'For example: export default function Frame({ children }) { return children; }'],
    ['lit', 'sguardo.frame.ts', 'For example: export default function frame(content) { return content; }'],
  ])('of the frame is told with an example of one: in a project of %s', async (framework, frame, remedy) => {
    const { run } = await serve(
      project({
        'package.json': JSON.stringify({ dependencies: { [framework]: '*' } }),
        [frame]: 'export const harbour = 4;',
        'src/A.look.ts': `import { looks } from 'sguardo';
export default looks(() => null, { states: { plain: {} } });`,
      }),
    );
    const message = `${frame} does not export a component as its default.`;
    expect((await run()).results[0]!.problem).toMatchObject({ message, remedy });
  });

  it('is a function of elements that makes none, which is said', async () => {
    const { run } = await serve(
      project({
        'src/A.look.ts': `import { looks } from 'sguardo/dom';
export default looks(() => null, { states: { plain: {} } });`,
      }),
    );
    const { problem } = (await run()).results[0]!;
    expect(problem?.message).toContain('it returned null, which is neither an element nor markup');
  });

  it('of what the frame imports is not blamed on the frame', async () => {
    const frame = "import './theme';\nexport default ({ children }) => children;\n";
    write(folder, { 'sguardo.frame.tsx': frame, 'theme.ts': 'export const sea = {;\n' });
    const { run } = await served.run();
    expect(run.problems[0]).toMatchObject({
      code: 'frame-failed',
      message: expect.stringMatching(/^theme\.ts, which the frame sguardo\.frame\.tsx imports, could not be bundled/),
      place: expect.stringMatching(/^theme\.ts:1:\d+$/),
    });
  });
});

describe('what cannot be built', () => {
  it('is told where its file has it, not where a compiler has moved it; what has no line, with its file', async () => {
    const plugin = `{ name: 'ink', enforce: 'pre', transform(code) {
  if (code.includes('no-ink')) throw new Error('There is no ink.');
} }`;
    const folder = project({
      'vite.config.mjs': `const alias = { '@': import.meta.dirname + '/src' };
export default { resolve: { alias }, plugins: [${plugin}] };`,
      'src/Quay.look.tsx': `import type { ReactNode } from 'react';
import { looks } from 'sguardo';
import { Quay } from '@/quai';
const shown: ReactNode = null;
export default looks(() => <Quay>{shown}</Quay>, { states: { a: {} } });`,
      'src/Sea.look.tsx': `import { looks } from 'sguardo';
import './sea.css';
export default looks(() => <p>Sea</p>, { states: { a: {} } });`,
      'src/sea.css': 'p { color: no-ink }',
    });
    const served = await serve(folder);
    const { results } = await served.run();
    const of = (name: string) => results.find(({ component }) => component === `src/${name}`)!.problem!;
    expect(of('Quay').place).toMatch(/^src\/Quay\.look\.tsx:3:/);
    expect(of('Sea').message).toMatch(
      /^src\/sea\.css, which src\/Sea\.look\.tsx imports, could not be bundled: .*no ink/,
    );
  });
});

describe('a plugin that is installed in another version', () => {
  it('builds from then on', async () => {
    const plugin = (version: number): Record<string, string> => ({
      'node_modules/knots/package.json': JSON.stringify({ name: 'knots', type: 'module', main: 'index.js' }),
      'node_modules/knots/index.js': `export default () => ({
          name: 'knots',
          transform: (code, id) => (id.endsWith('Buoy.look.tsx') ? code.replaceAll('KNOTS', '${version} knots') : null),
        });`,
      'package-lock.json': JSON.stringify({ knots: version }),
    });
    const folder = project({
      ...plugin(1),
      'sguardo.config.ts': configuration({ patience: 100 }),
      'vite.config.ts': "import knots from 'knots';\nexport default { plugins: [knots()] };",
      'src/Buoy.look.tsx': lookFile(
        'return <p>KNOTS</p>;',
        [1, 2]
          .map((n) => `'is ${n}': { async script() { await ensure(the.text('${n} knots')).isVisible(); } }`)
          .join(', '),
      ),
    });
    const { run } = await serve(folder);
    const verdicts = async (): Promise<string[]> =>
      (await run()).results.map(({ look, verdict }) => `${look} ${verdict}`);
    expect(await verdicts()).toEqual(['is 1 new', 'is 2 failed']);
    write(folder, plugin(2));
    expect(await verdicts()).toEqual(['is 1 failed', 'is 2 new']);
  });
});

describe('a plugin that ends the process it runs in', () => {
  const killer = (unless: string): string => `import { existsSync, writeFileSync } from 'node:fs';
const mark = new URL('./mark', import.meta.url).pathname;
export default { plugins: [{ name: 'killer', buildStart() {
  if (${unless}) return;
  writeFileSync(mark, '');
  process.kill(process.pid, 'SIGKILL');
} }] };`;
  const files = { 'src/A.look.tsx': lookFile('return <p>a</p>;', 'plain: {}') };

  it('has its looks run all the same when it does so once', async () => {
    const { run } = await serve(project({ ...files, 'vite.config.ts': killer('existsSync(mark)') }));
    expect((await run()).run).toMatchObject({ problems: [], tally: { new: 1 } });
  });

  it('is told when it does so every time, and the next run goes on without it', async () => {
    const folder = project({ ...files, 'vite.config.ts': killer('false') });
    const { run } = await serve(folder);
    expect((await run()).run.problems).toMatchObject([
      { code: 'bundler-gone', message: expect.stringContaining('SIGKILL') },
    ]);
    write(folder, { 'vite.config.ts': 'export default {};' });
    expect((await run()).run).toMatchObject({ problems: [], tally: { new: 1 } });
  });
});
