/** Starts Debian's Chromium and speaks to it over a pipe. */
import { type ChildProcess, spawn } from 'node:child_process';
import { accessSync, closeSync, constants, fstatSync, openSync, readSync } from 'node:fs';
import type { Readable, Writable } from 'node:stream';
import { fail } from '../../core/problem/problem.ts';
import { type BrowserLoad, type Engine, LostError } from '../engine.ts';
import { fontsHash } from '../fonts.ts';
import { processorTime } from '../processor.ts';
import { Pipe } from './pipe.ts';
import { freshProfile, removeProfile } from './profile.ts';
import { openWindow } from './openWindow.ts';
import type { ChromiumWindow } from './window.ts';

/** Debian's wrapper script adds flags of its own, so the real binary comes first. */
const places = ['/usr/lib/chromium/chromium', '/usr/bin/chromium', '/usr/bin/chromium-browser'];

/** The Chromium to use: the one in SGUARDO_CHROMIUM, or Debian's. */
export function findChromium(): string {
  for (const path of process.env.SGUARDO_CHROMIUM ? [process.env.SGUARDO_CHROMIUM] : places) {
    try {
      accessSync(path, constants.X_OK);
      return path;
    } catch {}
  }
  return fail('browser-missing');
}

/**
 * What tells the browser's program from any other one without starting it: path, size and time. Null for a script,
 * which may start whatever it likes.
 */
export function chromiumProgram(): string | null {
  const path = findChromium();
  const start = Buffer.alloc(4);
  const file = openSync(path, 'r');
  try {
    readSync(file, start);
    const { size, mtimeMs } = fstatSync(file);
    return start.toString('latin1') === '\x7fELF' ? `${path} ${size} ${mtimeMs}` : null;
  } finally {
    closeSync(file);
  }
}

/** How long a browser may take to start, in milliseconds: a minute on a very busy machine. */
const usualStart = 60_000;

const flags = [
  '--no-startup-window',
  '--remote-debugging-pipe',
  '--disable-gpu',
  '--disable-quic',
  '--no-first-run',
  '--no-default-browser-check',
  '--disable-background-networking',
  '--disable-component-update',
  '--disable-sync',
  '--disable-breakpad',
  '--disable-extensions',
  '--disable-background-timer-throttling',
  '--disable-renderer-backgrounding',
  '--disable-backgrounding-occluded-windows',
  `--disable-features=${[
    'Translate',
    'PaintHolding',
    // The pop-ups of the address bar, which nobody sees, take a renderer process of their own in every window.
    'WebUIOmniboxPopup',
    'WebUIOmniboxAimPopup',
    'WebUIOmniboxFullPopup',
    // Loading a document takes half the work without a spare process started for the next one, without keeping the
    // last one for going back, and when the frame may stay.
    'SpareRendererForSitePerProcess',
    'BackForwardCache',
    'RenderDocument',
  ].join(',')}`,
  // A person with a mouse: a browser without a screen would say that there is none, and hover styles would not apply.
  '--blink-settings=primaryHoverType=2,availableHoverTypes=2,primaryPointerType=4,availablePointerTypes=4',
  '--hide-scrollbars',
  '--force-color-profile=srgb',
  // Without it the same state, mounted twice, differs by some pixels now and then.
  '--disable-partial-raster',
  '--font-render-hinting=none',
  '--mute-audio',
  // Two fingers would enlarge the page as a whole, which no moment tells of.
  '--disable-pinch',
  // A turned wheel is where it leads to at once.
  '--disable-smooth-scrolling',
];

export type StartOptions = {
  /** Its windows can be seen on the screen. */
  headed?: boolean;
  /** How long it may take to start, in milliseconds. */
  startLimit?: number;
};

/** False where windows would have no screen to be on: on Linux a display has to be named. */
const hasScreen = (): boolean =>
  process.platform !== 'linux' || Boolean(process.env.DISPLAY || process.env.WAYLAND_DISPLAY);

type ProcessInfo = { id: number; type: string };

async function loadOf(pipe: Pipe): Promise<BrowserLoad> {
  const none: { processInfo: ProcessInfo[] } = { processInfo: [] };
  const { processInfo } = await pipe.send<typeof none>('SystemInfo.getProcessInfo').catch(() => none);
  const found = processInfo.map(({ id, type }) => {
    const time = processorTime(id);
    return time ? ([id, { ...time, isPage: type === 'renderer' }] as const) : null;
  });
  return new Map(found.filter((one) => one !== null));
}

/** Starts the program, which talks through pipes of its own; `hosts` are ports of this machine by their names. */
function launch(binary: string, profile: string, hosts: Record<string, number>, headed: boolean): ChildProcess {
  const rules = Object.entries(hosts).map(([host, port]) => `MAP ${host}:80 127.0.0.1:${port}`);
  const sandbox = process.getuid?.() === 0 ? ['--no-sandbox'] : [];
  const own = [
    ...(headed ? [] : ['--headless=new']),
    ...flags,
    ...sandbox,
    ...(rules.length > 0 ? [`--host-resolver-rules=${rules.join(',')}`] : []),
    `--user-data-dir=${profile}`,
  ];
  return spawn(binary, own, {
    stdio: ['ignore', 'ignore', 'pipe', 'pipe', 'pipe'],
    // A page that crashes is told by us; reports of it would pile up in the person's own Chromium folder.
    env: { ...process.env, BREAKPAD_DUMP_LOCATION: profile },
  });
}

/**
 * Starts a browser. `hosts` maps host names to ports on loopback, so that pages have the same address in every run.
 * @throws ProblemError `browser-missing`, `browser-start`, `screen-missing`
 */
export async function startChromium(
  hosts: Record<string, number> = {},
  { headed = false, startLimit = usualStart }: StartOptions = {},
): Promise<Engine> {
  if (headed && !hasScreen()) fail('screen-missing');
  const binary = findChromium();
  const profile = await freshProfile();
  const child = launch(binary, profile, hosts, headed);
  let said = '';
  child.stderr!.on('data', (chunk: Buffer) => {
    said = (said + chunk.toString('utf8')).slice(-4000);
  });
  const pipe = new Pipe(child.stdio[3] as Writable, child.stdio[4] as Readable);
  const windows = new Map<string, ChromiumWindow>();
  let closing = false;
  let removed = Promise.resolve();
  const gone = new Promise<string>((resolve) => {
    const end = (why: string): void => {
      pipe.end(new LostError('browser', why));
      // Windows that wait for a page to load wait for an event, not for an answer.
      for (const window of windows.values()) window.lose(new LostError('browser', why));
      removed = removeProfile(profile);
      resolve(why);
    };
    child.once('error', (error) => end(error.message));
    child.once('exit', (code, signal) =>
      end(closing ? 'closed' : signal ? `ended by ${signal}` : `ended with code ${code}`),
    );
  });
  pipe.listen('', (method, params) => {
    if (method !== 'Target.detachedFromTarget') return;
    const window = windows.get(params.sessionId);
    if (!window) return;
    windows.delete(params.sessionId);
    window.lose(new LostError('window', 'the window was closed'));
  });
  let product: string;
  try {
    ({ product } = await pipe.send<{ product: string }>('Browser.getVersion', {}, undefined, startLimit));
  } catch (error) {
    child.kill('SIGKILL');
    const why = await gone;
    const late = error instanceof LostError && error.what === 'silent';
    return fail('browser-start', {
      error: late ? `it did not answer within ${startLimit / 1000} s` : said.trim().split('\n').at(-1) || why,
    });
  }
  return {
    // The headless shell is another program, whose pictures differ: it is not taken for the browser itself.
    name: product.replace(/^Chrome\//, 'Chromium ').replace(/^HeadlessChrome\//, 'Chromium headless shell '),
    fonts: fontsHash(),
    capabilities: { answers: true, media: true, halt: true, beyondViewport: true },
    pid: child.pid!,
    gone,
    load: () => loadOf(pipe),
    async open() {
      const window = await openWindow(pipe, profile, headed);
      windows.set(window.session, window);
      return window;
    },
    async close() {
      closing = true;
      pipe.post('Browser.close', {});
      const timer = setTimeout(() => child.kill('SIGKILL'), 3000);
      await gone;
      clearTimeout(timer);
      await removed;
    },
  };
}
