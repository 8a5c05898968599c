/** How sheets are put into files depends on which look files are built together; why something changed does not. */
import { beforeAll, expect, it } from 'vitest';
import { configuration, plainFile, project, write } from '../support/project.ts';
import { usualOrders } from '../../src/core/sitting/sitting.ts';
import { type Served, serve } from '../support/service.ts';
import { standing } from '../support/sitting.ts';

const buoy = (text: string): string => plainFile(`return <p>${text}</p>;`, 'plain: {}');

let folder: string;
let served: Served;

/** What the causes of the changed captures say, and the edit that was found for each. */
async function found(): Promise<[title: string, edit: string | undefined][]> {
  const { results } = await served.run();
  const changed = results.find(({ verdict, component }) => verdict === 'changed' && component === 'src/Buoy')!;
  const { causes } = await served.client.causes();
  const { edits } = await served.client.edits(changed.id, 'end');
  return causes.map(({ key, title }) => {
    const edit = edits.find((one) => one.key === key)?.proved[0];
    return [title, edit && `${edit.file}:${edit.line}`];
  });
}

beforeAll(async () => {
  folder = project({
    'sguardo.config.ts': configuration({ patience: 200 }),
    'package.json': '{ "dependencies": { "bootstrap": "5" } }',
    'src/kit.css': 'p { color: navy }',
    'src/app.css': 'body { padding: 12px }',
    'sguardo.frame.js': `import './src/kit.css';
import './src/app.css';
export default function frame(content) { return content; }`,
    'src/Buoy.look.tsx': buoy('Buoy'),
    // The frame shares its sheets with this one, and one of them with what that loads later.
    'src/late.ts': "import './app.css';",
    'src/Quay.look.tsx': plainFile(
      'queueMicrotask(() => import("./late.ts")); return <p>Quay</p>;',
      'plain: {}',
      "import './kit.css';\n",
    ),
  });
  served = await serve(folder);
  await served.run();
  await served.client.decide({ kind: 'approve', all: true });
  await served.run();
});

it('a look file that is built alone has no other sheets', async () => {
  write(folder, { 'src/Buoy.look.tsx': buoy('Beacon') });
  expect(await found()).toEqual([['text of the paragraph: “Buoy” → “Beacon”', 'src/Buoy.look.tsx:2']]);
  write(folder, { 'src/Buoy.look.tsx': buoy('Buoy') });
});

it('an edit of a sheet is found behind a look that is run alone without it', async () => {
  write(folder, { 'src/app.css': 'body { padding: 20px }' });
  expect(await found()).toEqual([['padding of body: 12px → 20px', 'src/app.css:1']]);
});

it('a look that goes live, whose file is built alone for it, is as it was recorded', async () => {
  write(folder, { 'src/app.css': 'body { padding: 12px }' });
  await served.run();
  const own = (await served.client.looks()).find(({ component }) => component === 'src/Buoy')!;
  const { id: result, file, look, environment } = own;
  // Its file is built again, and is as it was.
  write(folder, { 'src/Buoy.look.tsx': `${buoy('Buoy')}\n` });
  const orders = { ...usualOrders, to: 1, straight: true };
  const { id } = await served.client.beginSitting({ file, look, environment, result, orders });
  const { stop, parted } = await standing(served.client, id);
  expect([stop?.why, parted]).toEqual(['reached', null]);
  await served.client.endSitting(id);
});
