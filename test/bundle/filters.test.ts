/** What builds cost that have thousands of modules of packages: plugins of ours are asked about none of them. */
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { expect, it } from 'vitest';
import { beginningWith, isOfProject } from '../../src/bundle/filters.ts';
import { own, ownFile } from '../../src/bundle/own.ts';
import { ownPages } from '../../src/bundle/ownPages.ts';
import { kinds } from '../../src/core/look/kind.ts';
import { configuration, plainFile, project } from '../support/project.ts';
import { serve } from '../support/service.ts';

/** Counts the modules of a package that each plugin is asked about in a build, behind what it says it is for. */
const counting = `import { writeFileSync } from 'node:fs';
const asked: Record<string, number> = {};
const counted = (name: string, hook: any, idAt: number) => {
  const { handler = hook, ...rest } = typeof hook === 'function' ? {} : hook;
  return { ...rest, handler(...args: any[]) {
    if (/quay-kit|\\.\\/part/.test(args[idAt])) asked[name] = (asked[name] ?? 0) + 1;
    return handler.apply(this, args);
  } };
};
export default { plugins: [{
  name: 'counting',
  enforce: 'pre',
  configResolved: { order: 'pre', handler({ plugins }: any) {
    for (const one of plugins)
      for (const [hook, idAt] of [['resolveId', 0], ['load', 0], ['transform', 1]])
        if (one[hook] && (one.name.startsWith('sguardo:') || one.name === 'curious'))
          one[hook] = counted(one.name, one[hook], idAt);
  } },
  buildEnd() { writeFileSync(import.meta.dirname + '/asked.json', JSON.stringify(asked)); },
}, { name: 'curious', load: () => null }] };`;

it('asks no plugin of ours about the modules of a package', async () => {
  const parts = Array.from({ length: 20 }, (_, at) => at);
  const folder = project({
    'sguardo.config.ts': configuration({ baselines: false }),
    'vite.config.ts': counting,
    'node_modules/quay-kit/package.json': '{ "name": "quay-kit", "type": "module", "main": "./index.js" }',
    'node_modules/quay-kit/index.js': parts.map((at) => `export * from './part${at}.js';`).join('\n'),
    ...Object.fromEntries(
      parts.map((at) => [`node_modules/quay-kit/part${at}.js`, `export const part${at} = 'part ${at}';`]),
    ),
    'src/Buoy.look.tsx': plainFile(
      'return <p>{part7}</p>;',
      "plain: { async script() { await ensure(the.text('part 7')).isVisible(); } }",
      "// @ts-nocheck\nimport { part7 } from 'quay-kit';\n",
    ),
  });
  const served = await serve(folder);
  expect((await served.run()).look('plain')).toMatchObject({ verdict: 'new', problem: null });
  expect(JSON.parse(readFileSync(join(folder, 'asked.json'), 'utf8'))).toEqual({ curious: 21 });
});

it('means what begins so, letter for letter', () => {
  const filter = beginningWith('\0virtual:a/', '/src/[id].tsx');
  expect(['\0virtual:a/1', '/src/[id].tsx?raw'].map((id) => filter.test(id))).toEqual([true, true]);
  expect(['virtual:a/1', '/src/i.tsx', 'x/src/[id].tsx'].map((id) => filter.test(id))).toEqual([false, false, false]);
});

it('tells modules of the project from those of packages, and from those that are made up', () => {
  const ids = ['/quay/src/a.ts', '/quay/src/a.ts?from=/node_modules/b', '\0virtual:a', '/quay/node_modules/b/b.js?raw'];
  expect(ids.map(isOfProject)).toEqual([true, true, false, false]);
});

it('finds all that our side of pages imports, but for the framework, which is the project’s', async () => {
  const pages = await ownPages();
  const found = kinds.map((kind) => {
    const module = own(`page/adapters/${kind}`);
    expect(pages.filters.module.test(module)).toBe(true);
    const imports = [...pages.standInFor(module)!.matchAll(/(?:\bfrom|\bimport)\s*\(?["']([^"']+)["']/g)].map(
      ([, id]) => id!,
    );
    return imports
      .filter((id) => !/^(react|react-dom|vue|svelte|@angular)\b/.test(id))
      .map((id) => {
        expect(pages.filters.imported.test(id)).toBe(true);
        return pages.resolve(id, module)?.id;
      });
  });
  expect(found.flat().every((id) => id !== undefined)).toBe(true);
  expect(found.flat()).toContain(ownFile('page/adapters/Framed.svelte'));
});
