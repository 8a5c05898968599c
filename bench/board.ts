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

/**
 * Milliseconds from navigation to the first tiles, bytes until then, and by how much the part of late frames may be
 * larger than with the plainest rows: how fast a picture is painted without a graphics card is the machine's affair.
 */
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

/** Frames that are looked at; all of the board goes by in them as by dragging the scroll bar. */
const frames = 400;

/** Pixels a frame by a wheel that is turned fast. */
const wheel = 240;

/** Scrolls by a step a frame; by a part of everything where none is given. */
const scroll = (by: number | null): string => `new Promise((resolve) => {
  const area = document.querySelector('.overflow-y-auto');
  const by = ${by ?? `area.scrollHeight / ${frames}`};
  let left = ${frames};
  const next = () => {
    area.scrollTop += by;
    if (--left > 0) requestAnimationFrame(next);
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

type Lateness = { late: number; of: number };

async function lateFrames(window: EngineWindow, work: () => Promise<unknown>): Promise<Lateness> {
  await window.evaluate(measureFrames);
  await work();
  const frames = (await window.evaluate('going = false, frames')) as number[];
  return { late: frames.filter((took) => took > lateFrame).length, of: frames.length };
}

const onePicture = '<!doctype html><img src="data:image/svg+xml,<svg/>">';

/** The least that can be done: eight rows of six plain cards, whose names are changed as they are moved. */
const plainRows = `<!doctype html><style>
    html, body { height: 100%; margin: 0; font: 12px sans-serif }
    .overflow-y-auto { height: 100%; overflow-y: auto }
    section { position: relative; height: 400000px }
    p { position: absolute; left: 0; right: 0; height: 200px; margin: 0; display: flex; gap: 14px; contain: strict }
    b { width: 190px; height: 186px; border: 1px solid #ccc; border-radius: 8px }
  </style><div class="overflow-y-auto"><section></section></div><script>
    const area = document.querySelector('div');
    document.querySelector('section').innerHTML = ('<p>' + '<b>berth</b>'.repeat(6) + '</p>').repeat(8);
    const rows = [...document.querySelectorAll('p')];
    const put = () => {
      const first = Math.max(0, Math.floor(area.scrollTop / 200) - 1);
      for (let at = first; at < first + 8; at++) {
        const row = rows[at % 8];
        if (row.at === at) continue;
        row.at = at;
        row.style.transform = \`translateY(\${at * 200}px)\`;
        for (const [i, card] of [...row.children].entries()) card.firstChild.data = \`berth \${at} with \${i} ships\`;
      }
    };
    area.addEventListener('scroll', put);
    put();
  </script>`;

type Floor = { first: number; dragged: Lateness; wheeled: Lateness };

/** How long the browser takes to show a page with one picture, and how late its frames are with the plainest rows. */
async function floor(window: EngineWindow): Promise<Floor> {
  const server = createServer(({ url }, reply) =>
    reply.setHeader('content-type', 'text/html').end(url === '/rows' ? plainRows : onePicture),
  ).listen(0, '127.0.0.1');
  await new Promise((done) => server.once('listening', done));
  const own = `http://127.0.0.1:${(server.address() as AddressInfo).port}`;
  const times: number[] = [];
  for (let i = 0; i < rounds; i++) {
    const began = performance.now();
    await window.load(`${own}/`);
    times.push(performance.now() - began);
  }
  const scrolled = async (by: number | null): Promise<Lateness> => {
    await window.load(`${own}/rows`);
    return lateFrames(window, () => window.evaluate(scroll(by)));
  };
  const found = { first: median(times), dragged: await scrolled(null), wheeled: await scrolled(wheel) };
  server.close();
  return found;
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
    const told = ({ late, of }: Lateness, what: string): void =>
      say(`${what}: ${late} of ${of} frames later than ${lateFrame} ms`);
    const least = await floor(window);
    say(`a page with one picture: ${least.first.toFixed(0)} ms`);
    told(least.dragged, 'the plainest rows, dragged through');
    told(least.wheeled, `the plainest rows by a wheel, ${wheel} px a frame`);
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
    const dragged = await lateFrames(window, () => window.evaluate(scroll(null)));
    told(dragged, 'dragged through all of it');
    await open(window, url);
    const wheeled = await lateFrames(window, () => window.evaluate(scroll(wheel)));
    told(wheeled, `by a wheel, ${wheel} px a frame`);
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
    told(fed, `${feed.perSecond} results a second`);
    const part = ({ late, of }: Lateness): number => late / of;
    const percent = (one: Lateness): string => `${(100 * part(one)).toFixed(1)} %`;
    return {
      text:
        `first tiles ${first.toFixed(0)} ms, ${(bytes / 1000).toFixed(0)} KB, frames late: ` +
        `${percent(dragged)} dragging (plainest rows ${percent(least.dragged)}), ` +
        `${percent(wheeled)} with a wheel (${percent(least.wheeled)}), ${percent(fed)} with a feed`,
      limit: `${limits.first} ms, ${limits.bytes / 1000} KB, ${100 * limits.late} % more dragging than plainest rows`,
      within: first <= limits.first && bytes <= limits.bytes && part(dragged) - part(least.dragged) <= limits.late,
    };
  } finally {
    await engine.close();
    await api.close();
    store.close();
  }
}
