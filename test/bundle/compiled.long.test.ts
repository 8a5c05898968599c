/** What the project's compilers make of its files: of those of packages once, and of none without saying so. */
import { readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { beforeAll, beforeEach, expect, it } from 'vitest';
import { renewBuilder } from '../../src/bundle/builder.ts';
import { configuration, lookFile, project, write } from '../support/project.ts';
import { type Served, serve } from '../support/service.ts';

/** A compiler that writes down what it is asked to compile, and shouts. */
const shouting = (how = '!', reach = ''): string => `import { appendFileSync } from 'node:fs';
export default { plugins: [{
  name: 'shouting',
  transform(code: string, id: string) {
    if (!/\\.shout$/.test(id)) return;
    const until = performance.now() + 2;
    while (performance.now() < until);
    appendFileSync(${'`${import.meta.dirname}/asked.txt`'}, id.replace(/.*[/]/, '') + '\\n');
    ${reach}
    return { code: 'export default ' + JSON.stringify(code.trim().toUpperCase() + '${how}'), map: null };
  },
}] };`;

const look = lookFile(
  'return <p>{ahoy} {own}</p>;',
  'loud: { async script() { await ensure(the.text(/AHOY/)).isVisible(); } }',
);

const files = {
  'vite.config.ts': shouting(),
  'package.json': '{ "type": "module", "dependencies": { "quay-kit": "1" } }',
  'package-lock.json': '{ "version": 1 }',
  'node_modules/quay-kit/package.json': '{ "name": "quay-kit", "type": "module" }',
  'node_modules/quay-kit/ahoy.shout': 'ahoy',
  'src/own.shout': 'own',
  'sguardo.config.ts': configuration({ baselines: false }),
  'src/Buoy.look.tsx': `// @ts-nocheck
import ahoy from 'quay-kit/ahoy.shout';
import own from './own.shout';
${look}`,
};

let folder: string;
let served: Served;
let edits = 0;

/** What the compiler was asked for in a run that has to build. */
async function asked(): Promise<string[]> {
  writeFileSync(join(folder, 'asked.txt'), '');
  write(folder, { 'src/Buoy.look.tsx': `${files['src/Buoy.look.tsx']}\n// ${++edits}` });
  const { results } = await served.run();
  expect(results.map(({ verdict, problem }) => [verdict, problem?.message])).toEqual([['new', undefined]]);
  return readFileSync(join(folder, 'asked.txt'), 'utf8').trim().split('\n').sort();
}

beforeAll(async () => {
  folder = project(files);
  served = await serve(folder);
  expect(await asked()).toEqual(['ahoy.shout', 'own.shout']);
});

/** Another service, and a process of its own that builds; `meanwhile` is done when neither is there. */
async function another(meanwhile = (): void => {}): Promise<void> {
  await served.service.close();
  renewBuilder();
  meanwhile();
  served = await serve(folder);
}

beforeEach(() => write(folder, files));

it('compiles what is in a package once, and the project again', async () => {
  expect(await asked()).toEqual(['own.shout']);
  expect(await asked()).toEqual(['own.shout']);
});

it('compiles it again when a package or the way of compiling is another', async () => {
  write(folder, { 'node_modules/quay-kit/ahoy.shout': 'ahoy there' });
  expect(await asked()).toEqual(['ahoy.shout', 'own.shout']);
  write(folder, { 'package-lock.json': '{ "version": 2 }' });
  expect(await asked()).toEqual(['ahoy.shout', 'own.shout']);
  write(folder, { 'vite.config.ts': shouting('!!') });
  expect(await asked()).toEqual(['ahoy.shout', 'own.shout']);
});

it('asks a compiler again that reads other files as well, or makes parts', async () => {
  write(folder, { 'vite.config.ts': shouting('?', 'this.addWatchFile(import.meta.dirname + "/package.json");') });
  expect(await asked()).toEqual(['ahoy.shout', 'own.shout']);
  expect(await asked()).toEqual(['ahoy.shout', 'own.shout']);
});

it('knows it in the next service, and compiles when that record is spoiled', async () => {
  expect(await asked()).toEqual(['ahoy.shout', 'own.shout']);
  await another();
  expect(await asked()).toEqual(['own.shout']);
  await another(() => writeFileSync(join(folder, '.sguardo/compiled'), 'barnacles'));
  expect(await asked()).toEqual(['ahoy.shout', 'own.shout']);
});

it('says of an import that leads nowhere where it is', async () => {
  write(folder, {
    'src/Hoist.ts': "export const hook = 1;\nimport 'quay-kit/nothing.js';\n",
    'src/Hoist.look.tsx': `import { hook } from './Hoist';\n${lookFile('return <p>{hook}</p>;', 'plain: {}')}`,
  });
  const { results } = await served.run({ patterns: ['Hoist'] });
  expect(results[0]!.problem).toMatchObject({ code: 'bundle-failed', place: 'src/Hoist.ts:2:8' });
  expect(results[0]!.problem!.frame).toContain('▸ 2 │ import');
});

it('says of a decorator that nobody has compiled where it is, and what to do', async () => {
  write(folder, {
    'src/Crane.js':
      "import { Component } from './component.js';\n\n@Component({ selector: 'x-crane' })\nexport class Crane {}\n",
    'src/component.js': 'export const Component = () => () => {};',
    'src/Crane.look.tsx': `import { Crane } from './Crane.js';
${lookFile('return <p>{String(Crane)}</p>;', 'plain: {}')}`,
  });
  const { results } = await served.run({ patterns: ['Crane'] });
  expect(results[0]!.problem).toMatchObject({
    code: 'bundle-failed',
    place: 'src/Crane.js:3:1',
    message: expect.stringMatching(
      /No browser reads the decorator @Component: Angular’s compiler has not taken this file/,
    ),
  });
});
