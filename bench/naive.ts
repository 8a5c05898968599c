/**
 * The naive floor: one window of the same browser, for each state mount, wait until ready, one clipped screenshot;
 * nothing else.
 */
import { existsSync } from 'node:fs';
import { join, resolve } from 'node:path';
import { build, type Rolldown } from 'vite';
import { origin, type Workshop } from './workshop.ts';

/** A page that mounts states of a project and does nothing else. */
async function servePage(shop: Workshop): Promise<void> {
  const { root } = shop.bundle;
  const { frame } = shop.settings;
  const files = shop.bundle.entries.map(({ file }) => file);
  const source = `
import { createElement, Fragment } from 'react';
import { createRoot } from 'react-dom/client';
import { flushSync } from 'react-dom';
${frame ? `import Frame from ${JSON.stringify(join(root, frame))};` : 'const Frame = Fragment;'}
${files.map((file, i) => `import looks${i} from ${JSON.stringify(join(root, file))};`).join('\n')}
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
    root,
    configFile: existsSync(join(root, 'vite.config.ts')) ? undefined : false,
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

/** Opens a window that mounts and photographs a state of a project's look files each time it is called. */
export async function openNaive(shop: Workshop): Promise<(file: string, look: string) => Promise<void>> {
  await servePage(shop);
  const window = await (await shop.crew.engine()).open();
  await window.apply(shop.settings.environments[0]!);
  await window.load(`${origin}/naive`);
  return async (file, look) => {
    const call = `mount(${JSON.stringify(file)}, ${JSON.stringify(look)})`;
    const [width, height] = (await window.evaluate(call)) as [number, number];
    await window.screenshot([0, 0, width, height], height > 640);
  };
}
