/**
 * The board of ten thousand looks: until its first tiles can be seen and how much is sent for that, how late frames
 * are while one scrolls through it, and while results come in. `npm run bench -- board 3000` for fewer looks.
 */
import { createServer } from 'node:http';
import type { AddressInfo } from 'node:net';
import { resolve } from 'node:path';
import { setTimeout as delay } from 'node:timers/promises';
import type { ProjectInfo } from '../src/core/api/api.ts';
import { canonicalise } from '../src/core/moment/canonical.ts';
import { emptyMoment } from '../src/core/moment/moment.ts';
import type { FinishedCapture, FinishedLook } from '../src/core/run/finished.ts';
import type { CaptureState } from '../src/core/run/verdict.ts';
import { usualRequest } from '../src/core/run/run.ts';
import { defaultEnvironment } from '../src/core/settings/environment.ts';
import { startChromium } from '../src/engine/chromium/chromium.ts';
import type { EngineWindow } from '../src/engine/engine.ts';
import { buildApi } from '../src/service/api.ts';
import { liveFeed } from '../src/service/live.ts';
import { openStore, type Store } from '../src/store/index.ts';
import { hashOf } from '../src/work/assets.ts';
import { encodePng } from '../src/work/png.ts';
import { type Figure, median } from './workshop.ts';

/** Milliseconds from navigation to the first tiles, bytes until then, and the part of frames later than that. */
const limits = { first: 1000, bytes: 400_000, late: 0.05 };
const lateFrame = 33;
const rounds = 5;
const looksEach = 33;
const feed = { results: 500, perSecond: 100 };
const pictures = 60;

/** A picture like one of a small component. */
function picture(n: number): Promise<Buffer> {
  const [width, height] = [560, 300];
  const data = Buffer.alloc(width * height * 4, 0xff);
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++)
      if ((x >> 3) % 7 < 2 && (y >> 4) % 3 === 0)
        data.writeUInt32BE(0x2060_00ff + n * 0x0103_0000, (y * width + x) * 4);
  return encodePng({ width, height, channels: 4, data });
}

/** The result of a look that shows a picture. */
function finishedLook(n: number, png: Buffer): FinishedLook {
  const component = `src/part${Math.floor(n / (looksEach * 20))}/Pier${Math.floor(n / looksEach)}`;
  const look = `berth ${n % looksEach} with ${n % 7} ships`;
  const base = emptyMoment(1280, 800);
  const state: CaptureState = n % 50 === 0 ? { kind: 'new' } : { kind: 'same' };
  const shown = { hash: hashOf(png), width: 560, height: 300, step: 0, moment: 0, canonical: '', isVouched: false };
  const compared = { state, allowances: [], baseline: null, difference: null, decision: null };
  const capture: FinishedCapture = {
    summary: { name: 'end', ...shown, ...compared },
    png,
    differencePng: null,
    redrawn: null,
    moment: canonicalise(base, { hash: hashOf, assets: {} }),
    markup: [],
    fingerprint: '',
  };
  return {
    info: { file: `${component}.look.tsx`, component, look, order: n % looksEach, hasScript: false, after: null },
    environment: 'day',
    repetition: 1,
    verdict: state.kind === 'new' ? 'new' : 'passed',
    problem: null,
    coverage: null,
    notes: [],
    orderDependent: false,
    isUnsteady: false,
    isContradiction: false,
    took: 20,
    failedStep: null,
    findings: [],
    captures: [capture],
    timeline: { steps: [], marks: [], taken: [0], assets: {}, base, patches: [], source: null },
    asked: [],
    read: [],
    files: new Map(),
  };
}

/** Records of so many looks. */
function fill(store: Store, looks: readonly FinishedLook[]): void {
  const run = store.runs.begin(usualRequest);
  const files = new Map<string, FinishedLook[]>();
  for (const look of looks) files.set(look.info.file, [...(files.get(look.info.file) ?? []), look]);
  store.together(() => {
    for (const [file, own] of files)
      store.catalogue.declare(file, 'day', { source: file, looks: own.map(({ info }) => info) });
    for (const look of looks) store.results.add(run, look, new Set());
  });
  store.runs.end(run, 'finished', []);
}

/** When the pictures of all tiles in sight are there, in milliseconds after the navigation began; null before. */
const shown = `(() => {
  const tiles = [...document.images].filter((image) => image.getBoundingClientRect().top < innerHeight);
  const isThere = ({ complete, naturalWidth }) => complete && naturalWidth > 0;
  return tiles.length > 5 && tiles.every(isThere) ? performance.now() : null;
})()`;

/** Bytes that were sent for it. */
const sent = `performance.getEntriesByType('navigation').concat(performance.getEntriesByType('resource'))
  .filter(({ name }) => !name.includes('/api/events')).reduce((sum, { transferSize }) => sum + transferSize, 0)`;

/** Times between frames while something goes on that calls \`stop\`. */
const measureFrames = `window.frames = []; window.going = true; (() => {
  let last = performance.now();
  const next = (now) => { frames.push(now - last); last = now; if (going) requestAnimationFrame(next); };
  requestAnimationFrame(next);
})()`;

/** Scrolls to the end in large steps, one a frame, as a wheel that is turned fast. */
const scroll = `new Promise((resolve) => {
  const area = document.querySelector('.overflow-y-auto');
  const by = Math.max(240, area.scrollHeight / 400);
  const next = () => {
    area.scrollTop += by;
    if (area.scrollTop + area.clientHeight < area.scrollHeight - 1) requestAnimationFrame(next);
    else resolve(true);
  };
  requestAnimationFrame(next);
})`;

async function open(window: EngineWindow, url: string): Promise<{ first: number; bytes: number }> {
  await window.load(url);
  for (;;) {
    const first = (await window.evaluate(shown)) as number | null;
    if (first !== null) return { first, bytes: (await window.evaluate(sent)) as number };
    await delay(5);
  }
}

async function lateFrames(window: EngineWindow, work: () => Promise<unknown>): Promise<{ late: number; of: number }> {
  await window.evaluate(measureFrames);
  await work();
  const frames = (await window.evaluate('going = false, frames')) as number[];
  return { late: frames.filter((took) => took > lateFrame).length, of: frames.length };
}

/** How long the browser takes to show a page with one picture. */
async function floor(window: EngineWindow): Promise<number> {
  const server = createServer((_request, reply) =>
    reply.setHeader('content-type', 'text/html').end('<!doctype html><img src="data:image/svg+xml,<svg/>">'),
  ).listen(0, '127.0.0.1');
  await new Promise((done) => server.once('listening', done));
  const times: number[] = [];
  for (let i = 0; i < rounds; i++) {
    const began = performance.now();
    await window.load(`http://127.0.0.1:${(server.address() as AddressInfo).port}/`);
    times.push(performance.now() - began);
  }
  server.close();
  return median(times);
}

export async function measureBoard(count = 10_000): Promise<Figure> {
  const store = openStore(':memory:');
  const pngs = await Promise.all(Array.from({ length: pictures }, (_, n) => picture(n)));
  const looks = Array.from({ length: count }, (_, n) => finishedLook(n, pngs[n % pictures]!));
  fill(store, looks);
  const live = liveFeed();
  const project = async (): Promise<ProjectInfo> =>
    ({ name: 'piers', environments: [], run: null, queued: [], undecided: store.board.undecided() }) as never;
  const api = await buildApi({
    context: {
      store,
      live,
      project,
      root: '.',
      watcher: { want: () => () => {} },
      settings: async () => ({}),
    } as never,
    port: () => (api.server.address() as AddressInfo).port,
    framed: () => [],
    consoleFolder: resolve('dist/console'),
    logger: false,
    version: 'bench',
  });
  const url = await api.listen({ host: '127.0.0.1', port: 0 });
  const engine = await startChromium();
  const say = (text: string): void => void process.stdout.write(`${text}\n`);
  try {
    const window = await engine.open();
    await window.apply(defaultEnvironment);
    say(`a page with one picture: ${(await floor(window)).toFixed(0)} ms`);
    const opened: { first: number; bytes: number }[] = [];
    for (let i = 0; i < rounds; i++) {
      // Nobody has been here before.
      const fresh = await engine.open();
      await fresh.apply(defaultEnvironment);
      opened.push(await open(fresh, url));
      await fresh.close();
    }
    const first = median(opened.map((one) => one.first));
    const bytes = median(opened.map((one) => one.bytes));
    say(`${count} looks: first tiles after ${first.toFixed(0)} ms, ${(bytes / 1000).toFixed(0)} KB sent`);
    await open(window, url);
    const scrolled = await lateFrames(window, () => window.evaluate(scroll));
    say(`scrolling through: ${scrolled.late} of ${scrolled.of} frames later than ${lateFrame} ms`);
    await open(window, url);
    const run = store.runs.begin(usualRequest);
    live.tell({ kind: 'run-started', run: store.runs.get(run)! });
    const fed = await lateFrames(window, async () => {
      for (let i = 0; i < feed.results; i++) {
        const result = store.results.add(run, looks[(i * 7) % count]!, new Set());
        live.tell({ kind: 'look-finished', run, result });
        await delay(1000 / feed.perSecond);
      }
    });
    say(`${feed.perSecond} results a second: ${fed.late} of ${fed.of} frames later than ${lateFrame} ms`);
    const late = scrolled.late / scrolled.of;
    const percent = (part: number): string => `${(100 * part).toFixed(1)} %`;
    return {
      text:
        `first tiles ${first.toFixed(0)} ms, ${(bytes / 1000).toFixed(0)} KB, ` +
        `${percent(late)} of frames late scrolling, ${percent(fed.late / fed.of)} with a feed`,
      limit: `${limits.first} ms, ${limits.bytes / 1000} KB, ${100 * limits.late} %`,
      within: first <= limits.first && bytes <= limits.bytes && late <= limits.late,
    };
  } finally {
    await engine.close();
    await api.close();
    store.close();
  }
}
