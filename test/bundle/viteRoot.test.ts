/** Projects whose Vite has a root of its own: public files, variables and absolute imports are those of that. */
import { expect, it } from 'vitest';
import { findIn } from '../../src/setup/find.ts';
import { configuration, plainFile, project } from '../support/project.ts';
import { serve } from '../support/service.ts';

it('public files, variables and absolute imports come from there', async () => {
  const folder = project({
    'sguardo.config.ts': configuration({ baselines: false }),
    'vite.config.ts':
      "export default { root: 'client', base: '/quay/', publicDir: '../static', envDir: '..', " +
      "build: { outDir: '../out' } };",
    '.env': 'VITE_PORT=Trieste\n',
    'static/berths.json': '["A-1","B-2"]',
    'static/lantern.svg': '<svg xmlns="http://www.w3.org/2000/svg" width="8" height="8"><path d="M0 0H8V8H0Z"/></svg>',
    'client/index.html': '<!doctype html><body><script type="module" src="/src/main.tsx"></script></body>',
    'client/src/main.tsx': "import './ink.css';",
    'client/src/ink.css': 'p { color: navy; }',
    'client/src/units.ts': 'export const metres = (n: number): string => `${n} m`;',
    'client/src/Quay.look.tsx': plainFile(
      `const list = document.createElement('ul');
void fetch('/berths.json')
  .then((reply) => reply.json())
  .then((all) => list.append(...all.map((name) => <li>{name}</li>)));
return <div><p>{metres(4)} in {import.meta.env.VITE_PORT}</p><img alt="" src={lantern} />{list}</div>;`,
      `there: { async script() {
  await ensure(the.text('4 m in Trieste')).isVisible();
  await ensure(the.listitem()).counts(2);
  await ensure(() => document.images[0].naturalWidth).equals(8);
} }`,
      "import lantern from '/lantern.svg'; import { metres } from '/src/units'; import './ink.css';\n",
    ),
  });
  const served = await serve(folder);
  expect((await served.run()).look('there')).toMatchObject({ verdict: 'new', problem: null, notes: [] });
  expect(await findIn(folder)).toMatchObject({ page: 'client/index.html', entry: 'client/src/main.tsx' });
});
