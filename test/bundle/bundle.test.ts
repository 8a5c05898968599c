/** Look files that cannot be used, and projects with a Vite of their own. */
import { copyFileSync } from 'node:fs';
import { join } from 'node:path';
import { beforeAll, describe, expect, it } from 'vitest';
import type { ResultSummary } from '../../src/core/run/run.ts';
import { lookFile, project } from '../support/project.ts';
import { type Served, serve } from '../support/service.ts';

let served: Served;
let results: ResultSummary[];

beforeAll(async () => {
  const folder = project({
    'vite.config.ts': `import react from '@vitejs/plugin-react';
export default {
  plugins: [react()],
  define: { __PORT__: JSON.stringify('Genova') },
  resolve: { alias: { '@kit': new URL('./kit', import.meta.url).pathname } },
};`,
    'kit/name.ts': 'export const name: string = `from ${__PORT__}`; declare const __PORT__: string;',
    'kit/buoy.css':
      '@font-face { font-family: Kit; src: url(./bold.ttf); } .buoy { color: rgb(1, 2, 3); ' +
      'background: url(./dot.svg); font-family: Kit; }',
    'kit/buoy.module.css': '.mark { color: rgb(4, 5, 6); }',
    'kit/dot.svg': '<svg xmlns="http://www.w3.org/2000/svg" width="4" height="4"><path d="M0 0h4v4z"/></svg>',
    'public/chart.svg': '<svg xmlns="http://www.w3.org/2000/svg" width="9" height="9"><path d="M0 0h9v9z"/></svg>',
    'src/Good.look.tsx': `import { ensure, looks, the } from 'sguardo';
import { name } from '@kit/name';
import '@kit/buoy.css';
import styles from '@kit/buoy.module.css';
import dot from '@kit/dot.svg';
const Buoy = () => (
  <p className="buoy">
    {name} <b className={styles.mark}>mark</b> <img src={dot} alt="dot" /> <img src="/chart.svg" alt="chart" />
  </p>
);
export default looks(Buoy, {
  states: {
    built: {
      async script() {
        await ensure(the.paragraph()).reads(/from Genova/);
        await ensure(() => getComputedStyle(document.querySelector('p')).color).equals('rgb(1, 2, 3)');
        await ensure(() => getComputedStyle(document.querySelector('b')).color).equals('rgb(4, 5, 6)');
        await ensure(() => [...document.fonts].map(({ family, status }) => family + ' ' + status)).equals([
          'Kit loaded',
        ]);
        await ensure(() => [...document.images].every((image) => image.naturalWidth > 0)).equals(true);
      },
    },
  },
});`,
    'src/Syntax.look.tsx': `import { looks } from 'sguardo';
const Broken = () => <p>;
export default looks(Broken, { states: { a: {} } });
`,
    'src/Lost.look.tsx': `import { looks } from 'sguardo';
import { Gone } from './Gone';
export default looks(Gone, { states: { a: {} } });
`,
    // What such a package says of its files is about those that are not for development.
    'node_modules/quay-kit/package.json': JSON.stringify({
      ...{ name: 'quay-kit', type: 'module', sideEffects: ['./parts.js'] },
      exports: { './parts.js': { development: './parts.dev.js', default: './parts.js' } },
    }),
    'node_modules/quay-kit/parts.dev.js': "document.documentElement.dataset.kit = 'for development';",
    'node_modules/quay-kit/parts.js': "document.documentElement.dataset.kit = 'for everybody';",
    'src/Effect.look.tsx': `import 'quay-kit/parts.js';
${lookFile(
  'return <p>{document.documentElement.dataset.kit}</p>;',
  "kept: { async script() { await ensure(the.text('for development')).isVisible(); } }",
)}`,
    'src/Other.look.tsx': 'export default { title: "not looks" };\n',
    'src/Nothing.look.tsx': 'export const x = 1;\n',
    'src/Throws.look.tsx': `import { looks } from 'sguardo';
throw new Error('out of rope');
export default looks(() => null, { states: { a: {} } });
`,
    'src/Circle.look.tsx': lookFile(
      'return <p>{props.name}</p>;',
      "a: { after: 'b' as never }, b: { after: 'a' as never }, c: { after: 'nobody' as never }, d: {}",
    ),
  });
  // Debian's own, which Chromium brings along: large enough not to be put into the sheet.
  copyFileSync('/usr/share/fonts/truetype/dejavu/DejaVuSans-Bold.ttf', join(folder, 'kit/bold.ttf'));
  served = await serve(folder);
  ({ results } = await served.run());
});

const of = (component: string, look?: string): ResultSummary => {
  const found = results.find(
    (result) => result.component === `src/${component}` && (look === undefined || result.look === look),
  );
  if (!found) throw new Error(`no result of ${component}`);
  return found;
};

describe('a look file', () => {
  it('is built with the Vite configuration, styles, images, fonts and public files of its project', () => {
    expect([of('Good').verdict, of('Good').problem?.message, of('Good').problem?.found]).toEqual([
      'new',
      undefined,
      undefined,
    ]);
  });

  it('has what it imports for its effect alone, whatever the package says of that', () => {
    expect(of('Effect')).toMatchObject({ verdict: 'new', problem: null });
  });

  it('keeps the font and the images that its moments show', async () => {
    const { assets, marks } = await served.client.timeline(of('Good').id);
    expect(marks).toContainEqual(
      expect.objectContaining({ lane: 'network', title: 'GET /chart.svg → 200', took: expect.any(Number) }),
    );
    const types = await Promise.all(
      Object.values(assets).map(async (hash) =>
        (await fetch(`${served.service.stage}/asset/${hash}`)).headers.get('content-type'),
      ),
    );
    expect(types).toEqual(expect.arrayContaining(['font/ttf', 'image/svg+xml', 'text/css; charset=utf-8']));
  });

  it.each([
    ['Syntax', 'bundle-failed', /src\/Syntax\.look\.tsx could not be bundled/, /^src\/Syntax\.look\.tsx:[23]:/],
    ['Lost', 'bundle-failed', /src\/Lost\.look\.tsx could not be bundled: .*Gone/, null],
    ['Other', 'file-empty', /src\/Other\.look\.tsx does not export looks/, null],
    ['Nothing', 'file-empty', /src\/Nothing\.look\.tsx does not export looks/, null],
    ['Throws', 'file-threw', /could not be loaded: Error: out of rope/, /^src\/Throws\.look\.tsx:2:/],
  ])('that is wrong is told as a whole: %s', (component, code, message, place) => {
    const result = of(component);
    expect(result).toMatchObject({
      look: '(the file)',
      verdict: 'broken',
      problem: { code, message: expect.stringMatching(message) },
    });
    expect(result.problem!.remedy.length).toBeGreaterThan(10);
    if (place) {
      expect(result.problem!.place).toMatch(place);
      expect(result.problem!.frame).toContain('▲');
    }
  });

  it('that starts looks after one another in a circle, or after nobody, is told so; its other looks run', () => {
    expect(of('Circle', 'a').problem).toMatchObject({
      code: 'after-circular',
      message: expect.stringContaining('“a” starts after itself'),
    });
    expect(of('Circle', 'c').problem).toMatchObject({
      code: 'after-unknown',
      message: expect.stringContaining('“nobody”'),
    });
    expect(of('Circle', 'd').verdict).toBe('new');
  });
});
