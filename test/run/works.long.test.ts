/** What the browser does beside the page's thread: a step is over when what it began has come. */
import { beforeAll, expect, it } from 'vitest';
import type { ResultSummary } from '../../src/core/run/run.ts';
import { configuration, project } from '../support/project.ts';
import { serve } from '../support/service.ts';

const works = {
  'a text of a file': '(await big.text()).length',
  'bytes of a file': '(await big.arrayBuffer()).byteLength',
  'a file reader':
    'await new Promise((done) => { const r = new FileReader(); r.onload = () => done(r.result.length); ' +
    'r.readAsText(big); })',
  'a digest': "(await crypto.subtle.digest('SHA-256', new Uint8Array(40e6))).byteLength",
  'a bitmap': '(await createImageBitmap(new ImageData(2000, 2000))).width',
  'a picture of a canvas':
    "await new Promise((done) => { const c = document.createElement('canvas'); c.width = c.height = 3000; " +
    "c.getContext('2d').fillRect(0, 0, 9, 9); c.toBlob((blob) => done(blob.size)); })",
  'a database':
    "await new Promise((done) => { const asked = indexedDB.open('ships'); " +
    "asked.onupgradeneeded = () => asked.result.createObjectStore('ships'); asked.onsuccess = () => { " +
    "const tx = asked.result.transaction('ships', 'readwrite'); for (let i = 0; i < 500; " +
    "i++) tx.objectStore('ships').put(i, i); " +
    'tx.oncomplete = () => { asked.result.close(); done(500); }; }; })',
};

/** Files that are read in more and more time: one of them ends just when the page is found to rest. */
const sizes = Array.from({ length: 40 }, (_, i) => Math.floor(4000 * (i + 1) ** 1.5));
const read = (size: number): string =>
  `await new Promise((done) => {
    const r = new FileReader();
    r.onload = () => done(r.result.length);
    r.readAsText(new File(['tide '.repeat(${size})], 'a'));
  })`;
const readers = Object.fromEntries(sizes.map((size) => [`a reader of ${size}`, read(size)]));

const file = `import { useState } from 'react';
import { click, looks, the } from 'sguardo';
const big = new File(['tide '.repeat(1e6)], 'log.txt');
const works = { ${Object.entries({ ...works, ...readers })
  .map(([name, code]) => `${JSON.stringify(name)}: async () => ${code}`)
  .join(',\n')} };
function Works({ what }: { what: keyof typeof works }) {
  const [came, set] = useState('');
  return (
    <main>
      <button type="button" onClick={async () => set(String(await works[what]()))}>
        Begin
      </button>
      <output>{came}</output>
    </main>
  );
}
const begun = async () => {
  await click(the.button('Begin'));
  const said = document.querySelector('output')!.textContent;
  if (!Number(said)) throw new Error('It had not come.');
};
export default looks(Works, {
  states: {
    'not caught': {
      props: { what: 'a digest' },
      script() {
        void crypto.subtle.digest('no such digest', new Uint8Array(9));
      },
    },
    'not imported': {
      props: { what: 'a digest' },
      script() {
        void import('./torn');
      },
    },
    ...Object.fromEntries(Object.keys(works).map((what) => [what, { props: { what }, script: begun }])),
  } as never,
});
`;

let look: (name: string) => ResultSummary;

beforeAll(async () => {
  const folder = project({
    'src/torn.ts': "throw new Error('torn in two');",
    'src/Works.look.tsx': file,
    'sguardo.config.ts': configuration(),
  });
  ({ look } = await (await serve(folder)).run());
});

it('has come when the step is over, whenever that was', () => {
  expect(Object.keys(readers).filter((name) => look(name).problem !== null)).toEqual([]);
});

it.each(Object.keys(works))('has come when the step is over: %s', (name) => {
  expect(look(name).problem).toBeNull();
});

it.each([
  ['not caught', /An error was not caught: .*Unrecognized name/],
  ['not imported', /An error was not caught: .*torn in two/],
])('is told of where it goes wrong and nobody hears it: %s', (name, message) => {
  expect(look(name).problem?.message).toMatch(message);
});
