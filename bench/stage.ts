/**
 * The stage against its floors, in the same run: from a prop that is changed to its being painted, against a bare
 * re-render of the same component in the same page; and from a save to its being shown, against Vite's own hot update
 * of the same file in a plain page.
 */
import { mkdirSync, mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import type { AddressInfo } from 'node:net';
import { join, resolve } from 'node:path';
import { setTimeout as delay } from 'node:timers/promises';
import { createServer } from 'vite';
import { connect } from '../src/client/client.ts';
import { defaultEnvironment } from '../src/core/settings/environment.ts';
import { stageAddress } from '../src/core/wire/live.ts';
import { startChromium } from '../src/engine/chromium/chromium.ts';
import type { EngineWindow } from '../src/engine/engine.ts';
import { startService } from '../src/service/service.ts';
import { type Figure, median } from './workshop.ts';

/** One frame at 60 a second, in milliseconds; and how many times Vite's own update a save may take. */
const limits = { frames: 1, saves: 1.5 };
const frame = 1000 / 60;
const changes = 40;
const saves = 9;

const component = (word: string): string => `import { useState } from 'react';
export function Berth({ depth }: { depth: number }) {
  const [bare, setBare] = useState(0);
  (window as unknown as { bare: unknown }).bare = setBare;
  const rows = Array.from({ length: 200 }, (_, i) => <li key={i}>${word} {depth + bare + i}</li>);
  return <ul id="shown" data-shown={depth + bare}>{rows}</ul>;
}
`;

const files = {
  'sguardo.config.ts': 'export default {};',
  'vite.config.ts': `import react from '@vitejs/plugin-react';\nexport default { plugins: [react()] };`,
  'index.html': '<body><div id="root"></div><script type="module" src="/main.tsx"></script></body>',
  'main.tsx': `import { createRoot } from 'react-dom/client';
import { Berth } from './Berth';
createRoot(document.getElementById('root')!).render(<Berth depth={0} />);`,
  'Berth.look.tsx': `import { looks } from 'sguardo';
import { Berth } from './Berth';
export default looks(Berth, { props: { depth: 0 }, states: { moored: {} } });`,
  'Berth.tsx': component('berth'),
};

/** Milliseconds from doing something to the frame after it has come out, for each of several times. */
async function painted(window: EngineWindow, does: string): Promise<number[]> {
  const told = await window.evaluate(`(async () => {
    const took = [];
    for (let i = 1; i <= ${changes}; i++) {
      await new Promise((next) => requestAnimationFrame(next));
      const began = performance.now();
      const isShown = () => document.getElementById('shown')?.dataset.shown === String(i);
      const shown = new Promise((resolve) => {
        const observer = new MutationObserver(() => isShown() && (observer.disconnect(), resolve()));
        observer.observe(document, { subtree: true, childList: true, attributes: true });
      });
      (${does})(i);
      await shown;
      await new Promise((next) => requestAnimationFrame(next));
      took.push(performance.now() - began);
    }
    return JSON.stringify(took);
  })()`);
  return JSON.parse(String(told)) as number[];
}

const textIn = (window: EngineWindow): Promise<unknown> =>
  window.evaluate(`document.querySelector('#shown li')?.textContent ?? ''`);

/** Milliseconds from a save to its being shown. */
async function saved(folder: string, window: EngineWindow, word: string): Promise<number> {
  const began = performance.now();
  writeFileSync(join(folder, 'Berth.tsx'), component(word));
  while (!String(await textIn(window)).startsWith(`${word} `)) await delay(2);
  return performance.now() - began;
}

export async function measureStage(): Promise<Figure> {
  mkdirSync(resolve('test/.projects'), { recursive: true });
  const folder = mkdtempSync(resolve('test/.projects/stage-'));
  for (const [name, text] of Object.entries(files)) writeFileSync(join(folder, name), text);
  const service = await startService({ config: join(folder, 'sguardo.config.ts') });
  const plain = await createServer({
    root: folder,
    logLevel: 'silent',
    cacheDir: join(folder, '.plain'),
    server: { host: '127.0.0.1', port: 0 },
  });
  const engine = await startChromium();
  try {
    await plain.listen();
    const { live } = await connect(service.url).project();
    const open = async (address: string): Promise<EngineWindow> => {
      const window = await engine.open();
      await window.apply(defaultEnvironment);
      await window.load(address);
      while ((await textIn(window)) === '') await delay(20);
      return window;
    };
    const stage = await open(live + stageAddress('Berth.look.tsx', 'moored', {}));
    const page = await open(`http://127.0.0.1:${(plain.httpServer!.address() as AddressInfo).port}/`);
    // Types are read, and packages made ready.
    await delay(4000);
    const bare = median(await painted(stage, '(i) => bare(i)'));
    await stage.evaluate('bare(0)');
    const put = `(i) => postMessage({ to: 'sguardo-stage', kind: 'props', props: { depth: i } })`;
    const props = median(await painted(stage, put));
    const own: number[] = [];
    const vites: number[] = [];
    for (let i = 0; i < saves; i++) {
      own.push(await saved(folder, stage, `own${i}`));
      await delay(150);
      vites.push(await saved(folder, page, `vites${i}`));
      await delay(150);
    }
    const frames = (props - bare) / frame;
    const times = median(own) / median(vites);
    process.stdout.write(
      `a prop ${props.toFixed(1)} ms, a bare re-render ${bare.toFixed(1)} ms; a save ${median(own).toFixed(0)} ms, ` +
        `Vite's own ${median(vites).toFixed(0)} ms\n`,
    );
    return {
      text: `${frames.toFixed(2)} frames over a bare re-render, ${times.toFixed(2)} times Vite's own update`,
      limit: `at most ${limits.frames} frame, ${limits.saves} times`,
      within: frames <= limits.frames && times <= limits.saves,
    };
  } finally {
    await engine.close();
    await plain.close();
    await service.close();
    rmSync(folder, { recursive: true, force: true, maxRetries: 5 });
  }
}
