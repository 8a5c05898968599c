// Takes the pictures of docs/screenshots from a running demo (`npm run demo`): the console's pages with our own
// engine, and the terminal in a window under Xvfb, for which Debian's xvfb, xterm and imagemagick have to be
// installed. Who decides is shown, too: start the demo as somebody who is made up (GIT_CONFIG_VALUE_0="Ada Riva" for
// GIT_CONFIG_KEY_0=user.name, with GIT_CONFIG_COUNT=1).
import { spawn, spawnSync } from 'node:child_process';
import { cpSync, existsSync, mkdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { join, resolve } from 'node:path';
import { connect } from '../src/client/client.ts';
import { defaultEnvironment } from '../src/core/settings/environment.ts';
import { startChromium } from '../src/engine/chromium/chromium.ts';

const root = resolve(import.meta.dirname, '..');
const project = join(root, '.demo/harbour');
const folder = join(root, 'docs/screenshots');
const [width, height] = [1280, 800];
const pause = (milliseconds: number): Promise<void> => new Promise((done) => setTimeout(done, milliseconds));

/** Resolves when something holds, or after two minutes, so that what is wrong can be seen in the picture. */
async function until(holds: () => Promise<boolean> | boolean): Promise<void> {
  const end = Date.now() + 120_000;
  while (!(await holds()) && Date.now() < end) await pause(100);
}

async function takePages(): Promise<void> {
  const file = join(project, '.sguardo/service.json');
  if (!existsSync(file)) throw new Error('No demo is running. Start it first, and leave it running: npm run demo');
  const { url } = JSON.parse(readFileSync(file, 'utf8')) as { url: string };
  const looks = await connect(url).looks();
  const bench = (name: string, step: number): string => {
    const look = looks.find((one) => one.look === name && one.environment === 'day');
    if (!look) throw new Error(`The demo has no look “${name}”; run it first: npm run demo`);
    return `/bench/${look.id}?step=${step}`;
  };
  const engine = await startChromium();
  const window = await engine.open();
  type More = { wait?: number; at?: [x: number, y: number] };
  const take = async (
    name: string,
    path: string,
    scheme: 'light' | 'dark',
    keys: string[] = [],
    { wait = 1500, at }: More = {},
  ): Promise<void> => {
    await window.apply({ ...defaultEnvironment, viewport: [width, height], scheme });
    await window.load(url + path);
    await pause(wait);
    // What a page says while it waits goes when it has what it waits for.
    await until(async () => (await window.evaluate("document.querySelector('.working') === null")) === true);
    for (const key of keys) {
      await window.input([{ kind: 'key', key, modifiers: 0 }]);
      await pause(250);
    }
    if (at) {
      const place = { x: at[0], y: at[1], button: 'left', modifiers: 0 } as const;
      await window.input([
        { kind: 'move', ...place },
        { kind: 'down', clicks: 1, ...place },
        { kind: 'up', clicks: 1, ...place },
      ]);
    }
    await pause(500);
    writeFileSync(join(folder, `${name}.png`), await window.screenshot([0, 0, width, height], false));
    process.stdout.write(`· ${name}.png\n`);
  };
  /** A live look, to which somebody has done something. */
  const takeLive = async (): Promise<void> => {
    const client = connect(url);
    const look = looks.find((one) => one.look === 'books an arrival' && one.environment === 'day')!;
    const { file, environment, id: result } = look;
    const request = { file, look: look.look, environment, result, orders: { to: 11, straight: true } };
    const { id } = await client.beginSitting(request);
    while ((await client.sitting(id)).phase !== 'stopped') await pause(50);
    await client.tryLine(id, "ensure(the.button('Book arrival')).isEnabled()");
    await client.record(id, true);
    await take('live', `/live/${id}?breaks=10`, 'light', [], { wait: 3000, at: [105, 420] });
    await client.endSitting(id);
  };
  try {
    await take('board', '/', 'light');
    await take('bench', bench('asks before releasing', 5), 'light');
    await take('bench-dark', bench('books an arrival', 14), 'dark');
    await take('review', '/review', 'light', ['ArrowDown', 'ArrowDown']);
    const stage = (look: string, more: string): string =>
      `/stage?${new URLSearchParams({ file: 'src/BerthCard.look.tsx', look })}&${more}`;
    const props = encodeURIComponent('{"vessel":"Nostra Signora","draught":3.1}');
    // The first stage waits for the bundler.
    await take('stage-pointing', stage('shallow', 'env=day&zoom=1'), 'light', ['e'], { wait: 15_000, at: [120, 290] });
    // Where no scheme is set, each stage is as dark as its environment.
    const unset = '' as 'light';
    await take('stage', stage('shallow', `env=day,night&props=${props}`), unset, [], { wait: 5000 });
    await takeLive();
    await take('review-cause', '/review', 'dark', ['ArrowDown', 'i'], { wait: 2500 });
    const client = connect(url);
    const { id } = await client.startRun({ coverage: true, fresh: true });
    while (['queued', 'running'].includes((await client.run(id)).status)) await pause(200);
    await take('coverage', '/coverage?file=src/WeatherNotice.tsx', 'light');
    await take('accessibility', '/accessibility', 'light');
    // Types of props are read the first time.
    await take('handbook', '/handbook?page=src/BerthCard', 'light', [], { wait: 12_000 });
    await take('tokens', '/handbook?page=:tokens', 'dark');
    const timed = await client.startRun({
      timing: true,
      fresh: true,
      patterns: ['asks before'],
      environments: ['day'],
    });
    while (['queued', 'running'].includes((await client.run(timed.id)).status)) await pause(200);
    const [result] = await client.runResults(timed.id);
    await take('timing', `/bench/${result!.id}?step=1`, 'light');
  } finally {
    await engine.close();
  }
}

/** What a command prints that is given these lines, in a window of its own size. */
async function takeTerminal(name: string, cwd: string, line: string, size = 10, typed: string[] = []): Promise<void> {
  if (
    spawnSync('sh', ['-c', 'command -v Xvfb && command -v xterm && command -v import'], { stdio: 'ignore' }).status !==
    0
  ) {
    process.stdout.write(`· ${name}.png is left as it is: xvfb, xterm and imagemagick are not installed\n`);
    return;
  }
  const display = ':97';
  const server = spawn('Xvfb', [display, '-screen', '0', `${width}x${height}x24`], { stdio: 'ignore' });
  await pause(1500);
  const env = { ...process.env, DISPLAY: display, PATH: `${join(root, 'node_modules/.bin')}:${process.env.PATH}` };
  // As if somebody wrote them.
  const input = typed.length === 0 ? '' : `printf '%s\\n' ${typed.map((one) => JSON.stringify(one)).join(' ')} | `;
  const done = join(root, '.demo/command-done');
  rmSync(done, { force: true });
  const ended = `printf "\\n\\033[1m$ \\033[0m"; touch ${done}; sleep 60`;
  const command = `printf "\\033[1m$ ${line}\\033[0m\\n"; ${input}${line}; ${ended}`;
  const terminal = spawn(
    'xterm',
    [
      '-geometry',
      size === 10 ? '157x48+0+0' : '210x66+0+0',
      '-fa',
      'DejaVu Sans Mono',
      '-fs',
      String(size),
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
    { cwd, env, stdio: 'ignore' },
  );
  await until(() => existsSync(done));
  await pause(500);
  spawnSync('import', ['-display', display, '-window', 'root', join(folder, `${name}.png`)]);
  terminal.kill();
  server.kill();
  process.stdout.write(`· ${name}.png\n`);
}

mkdirSync(folder, { recursive: true });
await takePages();
const tried = [
  'steps',
  'props.onRelease.calls',
  "click(the.button('Release berth'))",
  'ensure(the.dialog()).isVisible()',
  'go',
];
await takeTerminal('stop', project, "sguardo run 'asks before' -e day --stop", 10, tried);
await takeTerminal('run', project, 'sguardo run BerthCard ReleaseDialog -e day');
await takeTerminal('challenge', project, 'sguardo challenge ArrivalForm FeeTable DepthField --all');
await takeTerminal('causes', project, 'sguardo causes; sguardo why BerthCard/empty');
// The demo as it would be without us.
const bare = join(root, '.demo/bare');
rmSync(bare, { recursive: true, force: true });
cpSync(join(root, 'demo/harbour'), bare, {
  recursive: true,
  filter: (path) => !/\.look\.|\/sguardo\.|\/node_modules|\/baselines/.test(path),
});
await takeTerminal('init', bare, 'sguardo init --dry-run', 8);
