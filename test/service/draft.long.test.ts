/** Drafting look files through the service: which components there are, and what is written for them. */
import { spawnSync } from 'node:child_process';
import { existsSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { beforeAll, describe, expect, it } from 'vitest';
import { sguardo } from '../support/cli.ts';
import { configuration, copyOf, project, repository } from '../support/project.ts';
import { type Served, serve } from '../support/service.ts';

describe('the components of the harbour office', () => {
  let root: string;
  let served: Served;

  beforeAll(async () => {
    root = copyOf('demo/harbour');
    for (const name of readdirSync(join(root, 'src'))) if (name.includes('.look.')) rmSync(join(root, 'src', name));
    writeFileSync(join(root, 'sguardo.config.ts'), configuration({ unanswered: 'note' }));
    served = await serve(root);
  });

  it('are listed with how often each is imported', async () => {
    const found = await served.client.components();
    expect(found).toHaveLength(9);
    expect(found.every(({ hasLooks }) => !hasLooks)).toBe(true);
    const imports = Object.fromEntries(found.map(({ component, imports: n }) => [component, n]));
    expect(imports).toMatchObject({ FeeTable: 2, TideCurve: 2, BerthCard: 1, SignalFlag: 0 });
    expect(found.map(({ imports: n }) => n)).toEqual(Object.values(imports).toSorted((a, b) => b - a));
  });

  it('have drafts that type-check, and looks that can be run', async () => {
    for (const { file } of await served.client.components()) {
      const drafted = await served.client.draft(file, null, true);
      expect(readFileSync(join(root, drafted.file), 'utf8')).toBe(drafted.text);
    }
    expect((await served.client.components()).every(({ hasLooks }) => hasLooks)).toBe(true);
    const compiler = join(repository, 'node_modules/typescript7/bin/tsc');
    expect(spawnSync(process.execPath, [compiler, '-p', root], { encoding: 'utf8' }).stdout).toBe('');
    const { results } = await served.run();
    expect(results.length).toBeGreaterThan(20);
    const wrong = results.filter(({ verdict }) => verdict !== 'new');
    expect(wrong.map(({ component, look, problem }) => [component, look, problem?.message])).toEqual([]);
    const impossible = results.flatMap(({ notes }) => notes).filter((note) => note.startsWith('No real use'));
    expect(impossible).toEqual([]);
  });

  it('are drafted from the command line, where what is there stays as it is', async () => {
    const path = join(root, 'src/BerthCard.look.tsx');
    writeFileSync(path, '// mine\n');
    const again = await sguardo(root, 'draft', 'src/BerthCard.tsx');
    expect(again).toMatchObject({ code: 2, out: '' });
    expect(again.err).toContain('src/BerthCard.look.tsx is there already, and was left as it is.');
    expect(readFileSync(path, 'utf8')).toBe('// mine\n');
    rmSync(path);
    const dry = await sguardo(root, 'draft', 'src/BerthCard.tsx', '--dry-run');
    expect(dry.out).toContain("import { BerthCard } from './BerthCard';");
    expect(existsSync(path)).toBe(false);
    const listed = await sguardo(root, 'draft');
    expect(listed.out).toMatch(/BerthCard +src\/BerthCard\.tsx · imported by 1 file\n\n1 of 9 components has no looks/);
  });

  it.each([
    ['../outside.tsx', null, 'draft-where', /is not in this project/],
    ['src/Nowhere.tsx', null, 'draft-where', /does not exist/],
    ['src', null, 'draft-where', /is a folder/],
    ['src/FeeTable.look.tsx', null, 'draft-where', /is a look file already/],
    ['package.json', null, 'draft-where', /holds no component/],
    ['src/samples.ts', null, 'draft-nothing', /exports no component\.$/],
    ['src/BerthCard.tsx', 'Crane', 'draft-nothing', /exports no component called Crane/],
  ])('are not drafted for %s (%s)', async (file, name, code, message) => {
    await expect(served.client.draft(file, name, true)).rejects.toMatchObject({
      problem: { code, message: expect.stringMatching(message) },
    });
  });
});

describe('other components', () => {
  it('are found in every way of writing them', async () => {
    const root = project({
      'package.json': '{ "dependencies": { "react": "19" } }',
      'src/Memo.tsx': `import { memo } from 'react';
export default memo(function Memo(_: { depth: number }) { return <b />; });`,
      'src/several.tsx': `export const Buoy = (_: { colour: string }) => <i />;
export const Beacon = (_: { lit: boolean }) => <i />;`,
      'src/plain.jsx': `export function Plain({ name = 'x' }) { return <b>{name}</b>; }`,
      'src/hook.ts': 'export const useTide = () => 3;',
      'src/context.tsx': `import { createContext } from 'react';\nexport const Tide = createContext(3);`,
      'src/Berth.vue': `<script setup lang="ts">defineProps<{ name: string }>();</script><template><p /></template>`,
      'src/Crane.svelte': `<script>let { load } = $props();</script><p>{load}</p>`,
      'src/Quay.look.tsx': `import { looks } from 'sguardo';
import Memo from './Memo';
export default looks(Memo, { states: {} });`,
      'src/Memo.test.tsx': 'export const Test = () => <b />;',
    });
    const { client } = await serve(root);
    const found = await client.components();
    expect(found.map(({ file, component, hasLooks }) => [file, component, hasLooks])).toEqual([
      ['src/Berth.vue', 'Berth', false],
      ['src/Crane.svelte', 'Crane', false],
      ['src/Memo.tsx', 'Memo', true],
      ['src/plain.jsx', 'Plain', false],
      ['src/several.tsx', 'Buoy', false],
    ]);
    const text = async (file: string, name: string | null = null): Promise<string> =>
      (await client.draft(file, name, false)).text;
    expect(await text('src/Memo.tsx')).toContain("import Memo from './Memo';");
    expect(await text('src/several.tsx', 'Beacon')).toContain('looks(Beacon, {\n  props: { lit: false },');
    expect(await client.draft('src/plain.jsx', null, false)).toMatchObject({
      file: 'src/plain.look.jsx',
      component: 'Plain',
    });
    expect(await text('src/Berth.vue')).toContain(
      "import { looks } from 'sguardo/vue';\nimport Berth from './Berth.vue';",
    );
    expect(await client.draft('src/Crane.svelte', null, false)).toMatchObject({ file: 'src/Crane.look.js' });
    await expect(client.draft('src/hook.ts', null, false)).rejects.toMatchObject({
      problem: { code: 'draft-nothing' },
    });
    await expect(client.draft('src/context.tsx', null, false)).rejects.toMatchObject({
      problem: { code: 'draft-nothing' },
    });
  });
});

describe('a manifest of custom elements', () => {
  it('says what the source of an element does not', async () => {
    const root = project({
      'sguardo.config.ts': configuration({}),
      'package.json': JSON.stringify({
        name: 'mole',
        type: 'module',
        devDependencies: { sguardo: '*' },
        customElements: 'meta/elements.json',
      }),
      'meta/elements.json': JSON.stringify({
        schemaVersion: '1.0.0',
        modules: [
          {
            kind: 'javascript-module',
            path: 'src/mole-light.js',
            declarations: [
              {
                kind: 'class',
                customElement: true,
                name: 'MoleLight',
                tagName: 'mole-light',
                members: [
                  { kind: 'field', name: 'tone', type: { text: "'calm' | 'gale'" } },
                  { kind: 'field', name: 'lit', type: { text: 'boolean' } },
                  { kind: 'field', name: 'inner', type: { text: 'string' }, privacy: 'private' },
                  { kind: 'method', name: 'flash' },
                ],
                attributes: [
                  { name: 'lit', fieldName: 'lit' },
                  { name: 'lamp-name', type: { text: 'string' } },
                ],
              },
            ],
          },
        ],
      }),
      'src/mole-light.js': `export class MoleLight extends HTMLElement {
  connectedCallback() { this.textContent = [this.tone, this.lit, this['lamp-name']].join(' '); }
}
customElements.define('mole-light', MoleLight);
`,
    });
    const { client, run } = await serve(root);
    const { text } = await client.draft('src/mole-light.js', null, true);
    for (const state of ["'tone gale': { props: { tone: 'gale' } }", 'lit: { props: { lit: true } }', "'lamp-name': '"])
      expect(text).toContain(state);
    expect(text).not.toContain('inner');
    const { results } = await run();
    expect(results.map(({ verdict }) => verdict)).toEqual(results.map(() => 'new'));
  });
});
