/**
 * The demo's script-less looks, run with everything recorded, compared and stored, against the naive floor: one
 * window of the same browser, for each state mount, wait until ready, one clipped screenshot; nothing else.
 */
import { usualRequest } from '../src/core/run/run.ts';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join, resolve } from 'node:path';
import { build, type Rolldown } from 'vite';
import { openStore } from '../src/store/index.ts';
import { approvedBy, type Figure, keyOf, median, openWorkshop, origin, timed, type Workshop } from './workshop.ts';

/** With pictures as approved that stand for equal moments, and with every capture photographed. */
const limit = 0.35;
const pictureLimit = 0.6;
const rounds = 7;

const demo = resolve('demo/harbour');

/** A page that mounts states of the demo and does nothing else. */
async function naivePage(shop: Workshop): Promise<void> {
  const files = shop.bundle.entries.map(({ file }) => file);
  const source = `
import { createElement } from 'react';
import { createRoot } from 'react-dom/client';
import { flushSync } from 'react-dom';
import Frame from ${JSON.stringify(join(demo, 'sguardo.frame.tsx'))};
${files.map((file, i) => `import looks${i} from ${JSON.stringify(join(demo, file))};`).join('\n')}
const all = { ${files.map((file, i) => `${JSON.stringify(file)}: looks${i}`).join(', ')} };
let root;
window.mount = async (file, name) => {
  root?.unmount();
  const { component, props, states } = all[file];
  root = createRoot(document.getElementById('look'));
  const element = createElement(component, { ...props, ...states[name].props });
  flushSync(() => root.render(createElement(Frame, null, element)));
  await document.fonts.ready;
  await Promise.all([...document.images].map((image) => image.decode().catch(() => {})));
  for (const animation of document.getAnimations()) { try { animation.finish(); } catch { animation.cancel(); } }
  await new Promise(requestAnimationFrame);
  const { width, height } = document.getElementById('look').firstElementChild.getBoundingClientRect();
  return [Math.ceil(width), Math.ceil(height)];
};`;
  const result = (await build({
    root: demo,
    mode: 'development',
    logLevel: 'silent',
    base: '/naive/',
    plugins: [
      {
        name: 'naive',
        resolveId: (id) => (id === 'virtual:naive' ? '\0naive' : null),
        load: (id) => (id === '\0naive' ? source : null),
      },
    ],
    resolve: {
      alias: [{ find: /^sguardo$/, replacement: resolve('src/language/index.ts') }],
      dedupe: ['react', 'react-dom'],
    },
    build: { write: false, minify: false, modulePreload: false, rollupOptions: { input: 'virtual:naive' } },
  })) as Rolldown.RolldownOutput;
  const tags: string[] = [];
  for (const item of result.output) {
    const path = `/naive/${item.fileName}`;
    shop.serve(
      path,
      path.endsWith('.css') ? 'text/css' : 'text/javascript',
      item.type === 'chunk' ? item.code : Buffer.from(item.source),
    );
    if (item.type === 'chunk' && item.isEntry) tags.push(`<script type="module" src="${path}"></script>`);
    else if (path.endsWith('.css')) tags.push(`<link rel="stylesheet" href="${path}">`);
  }
  shop.serve(
    '/naive',
    'text/html',
    '<!doctype ' +
      `html><html><head><style>*{caret-color:transparent!important}</style>${tags.join('')}</head><body><div ` +
      'id="look"></div></body></html>',
  );
}

export async function measureRun(): Promise<Figure> {
  const shop = await openWorkshop();
  const folder = mkdtempSync(join(tmpdir(), 'sguardo-bench-'));
  const store = openStore(join(folder, 'bench.db'));
  try {
    const first = (await shop.run([])).filter(({ info }) => !info.hasScript);
    const patterns = first.map(keyOf);
    const baselines = approvedBy(first);
    const full = async (photographed: boolean): Promise<number> => {
      // Whoever looks at a result gives the windows the time to be ready for the next run.
      await new Promise((done) => setTimeout(done, 1000));
      return timed(async () => {
        const run = store.runs.begin({ ...usualRequest, patterns }, null);
        const looks = await shop.run(patterns, {
          photographed,
          baselines,
          finished: (look) => void store.results.add(run, look, new Set()),
        });
        const wrong = looks.filter(({ verdict }) => verdict !== 'passed');
        if (looks.length !== patterns.length || wrong.length > 0)
          throw new Error(
            `${looks.length} of ${patterns.length} looks ran, ${wrong.length} did not pass: ` +
              `${wrong.map((look) => `${keyOf(look)} ${look.verdict}`).join(', ')}`,
          );
      });
    };
    await naivePage(shop);
    const window = await (await shop.crew.engine()).open();
    await window.apply(shop.settings.environments[0]!);
    await window.load(`${origin}/naive`);
    const naive = (): Promise<number> =>
      timed(async () => {
        for (const { info } of first) {
          const [width, height] = (await window.evaluate(
            `mount(${JSON.stringify(info.file)}, ${JSON.stringify(info.look)})`,
          )) as [number, number];
          await window.screenshot([0, 0, width, height], height > 640);
        }
      });
    await full(true);
    await naive();
    const ours: number[] = [];
    const pictured: number[] = [];
    const floor: number[] = [];
    for (let i = 0; i < rounds; i++) {
      floor.push(await naive());
      ours.push(await full(false));
      pictured.push(await full(true));
    }
    const ratio = median(ours) / median(floor);
    const withPictures = median(pictured) / median(floor);
    process.stdout.write(
      `${first.length} looks: ours ${median(ours).toFixed(0)} ms, photographed ${median(pictured).toFixed(0)} ms, ` +
        `naive ${median(floor).toFixed(0)} ms (medians of ${rounds})\n`,
    );
    return {
      text: `${ratio.toFixed(2)}, photographed ${withPictures.toFixed(2)}`,
      limit: `at most ${limit.toFixed(2)}, photographed ${pictureLimit.toFixed(2)}`,
      within: ratio <= limit && withPictures <= pictureLimit,
    };
  } finally {
    await shop.close();
    store.close();
    rmSync(folder, { recursive: true, force: true });
  }
}
