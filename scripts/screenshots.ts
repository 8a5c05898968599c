// Takes the pictures of docs/screenshots from a running demo (`npm run demo`): the console's pages with our own
// engine, and the terminal in a window under Xvfb, for which Debian's xvfb, xterm and imagemagick have to be
// installed.
import { spawn, spawnSync } from 'node:child_process';
import { mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import { join, resolve } from 'node:path';
import { connect } from '../src/client/client.ts';
import { defaultEnvironment } from '../src/core/settings/environment.ts';
import { startChromium } from '../src/engine/chromium/chromium.ts';

const root = resolve(import.meta.dirname, '..');
const project = join(root, '.demo/harbour');
const folder = join(root, 'docs/screenshots');
const [width, height] = [1280, 800];
const pause = (milliseconds: number): Promise<void> => new Promise((done) => setTimeout(done, milliseconds));

async function takePages(): Promise<void> {
  const { url } = JSON.parse(readFileSync(join(project, '.sguardo/service.json'), 'utf8')) as { url: string };
  const looks = await connect(url).looks();
  const bench = (name: string, step: number): string => {
    const look = looks.find((one) => one.look === name && one.environment === 'day');
    if (!look) throw new Error(`The demo has no look “${name}”; run it first: npm run demo`);
    return `/bench/${look.id}?step=${step}`;
  };
  const engine = await startChromium();
  const window = await engine.open();
  const take = async (name: string, path: string, scheme: 'light' | 'dark', keys: string[] = []): Promise<void> => {
    await window.apply({ ...defaultEnvironment, viewport: [width, height], scheme });
    await window.load(url + path);
    await pause(1500);
    for (const key of keys) {
      await window.input([{ kind: 'key', key, modifiers: 0 }]);
      await pause(250);
    }
    await pause(500);
    writeFileSync(join(folder, `${name}.png`), await window.screenshot([0, 0, width, height], false));
    process.stdout.write(`· ${name}.png\n`);
  };
  try {
    await take('board', '/', 'light');
    await take('bench', bench('asks before releasing', 5), 'light');
    await take('bench-dark', bench('books an arrival', 14), 'dark');
    await take('review', '/review', 'light', ['ArrowDown', 'ArrowDown']);
    await take('review-difference', '/review', 'light', ['d']);
  } finally {
    await engine.close();
  }
}

/** The terminal: what a failing run prints, in a window of its own size. */
async function takeTerminal(): Promise<void> {
  if (
    spawnSync('sh', ['-c', 'command -v Xvfb && command -v xterm && command -v import'], { stdio: 'ignore' }).status !==
    0
  ) {
    process.stdout.write('· run.png is left as it is: xvfb, xterm and imagemagick are not installed\n');
    return;
  }
  const display = ':97';
  const server = spawn('Xvfb', [display, '-screen', '0', `${width}x${height}x24`], { stdio: 'ignore' });
  await pause(1500);
  const env = { ...process.env, DISPLAY: display, PATH: `${join(root, 'node_modules/.bin')}:${process.env.PATH}` };
  const command =
    'printf "\\033[1m$ sguardo run BerthCard ReleaseDialog -e day\\033[0m\\n"; sguardo run BerthCard ' +
    'ReleaseDialog -e day; printf "\\n\\033[1m$ \\033[0m"; sleep 60';
  const terminal = spawn(
    'xterm',
    [
      '-geometry',
      '157x48+0+0',
      '-fa',
      'DejaVu Sans Mono',
      '-fs',
      '10',
      '-bg',
      '#15171d',
      '-fg',
      '#e4e4df',
      '-xrm',
      'xterm*color1: #f08b83',
      '-xrm',
      'xterm*color2: #7cc79c',
      '-xrm',
      'xterm*color3: #e3b25c',
      '-xrm',
      'xterm*color6: #7dbfe8',
      '-b',
      '12',
      '-e',
      'bash',
      '-c',
      command,
    ],
    { cwd: project, env, stdio: 'ignore' },
  );
  await pause(20_000);
  spawnSync('import', ['-display', display, '-window', 'root', join(folder, 'run.png')]);
  terminal.kill();
  server.kill();
  process.stdout.write('· run.png\n');
}

mkdirSync(folder, { recursive: true });
await takePages();
await takeTerminal();
