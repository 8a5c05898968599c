// The whole example on the harbour office: an approved run, an afternoon's careless edits, a second run.
// `--once` ends after that; otherwise the service stays and its address is printed. With the name of another kit, as in
// `npm run demo -- vue`, that is shown, once, as it is.
import { spawn, spawnSync } from 'node:child_process';
import { cpSync, existsSync, mkdirSync, readFileSync, rmSync, symlinkSync, writeFileSync } from 'node:fs';
import { dirname, join, resolve } from 'node:path';
import { fileURLToPath } from 'node:url';
import { install } from './install.mjs';

const root = resolve(dirname(fileURLToPath(import.meta.url)), '..');
const kits = ['harbour', 'vue', 'svelte', 'angular', 'elements'];
const kit = process.argv.slice(2).find((one) => !one.startsWith('-')) ?? 'harbour';
if (!kits.includes(kit)) {
  process.stderr.write(`✗ There is no kit “${kit}”. Use one of: ${kits.join(', ')}.\n`);
  process.exit(2);
}
const isOther = kit !== 'harbour';
const project = join(root, '.demo', kit);
const cli = join(root, 'bin/sguardo.js');
const once = process.argv.includes('--once');
const say = (text) => process.stdout.write(`\n· ${text}\n`);

function sguardo(...args) {
  process.stdout.write(`  $ sguardo ${args.join(' ')}\n`);
  return spawnSync(process.execPath, [cli, ...args], { cwd: project, stdio: ['ignore', 'inherit', 'inherit'] }).status;
}

const running = () => {
  try {
    const { pid, url } = JSON.parse(readFileSync(join(project, '.sguardo/service.json'), 'utf8'));
    process.kill(pid, 0);
    return url;
  } catch {
    return null;
  }
};

function lay(from, to = project) {
  cpSync(join(root, 'demo', from), to, {
    recursive: true,
    filter: (path) => !/node_modules|\/dist(\/|$)|\.sguardo|baselines/.test(path.slice(root.length)),
  });
}

if (running()) {
  say(`The demo is already running: ${running()}`);
  process.exit(0);
}
const made = readFileSync(join(root, 'dist/.sources'), 'utf8');
const stamp = join(root, `.demo/${kit}-made`);
const fresh = once || !existsSync(stamp) || readFileSync(stamp, 'utf8') !== made;
if (fresh) {
  rmSync(project, { recursive: true, force: true });
  mkdirSync(project, { recursive: true });
  if (isOther) {
    const own = join(root, 'demo', kit);
    install(own, `what the kit “${kit}” is made of`);
    // Kits of other frameworks look as the harbour office does.
    const styles = join(root, '.demo/harbour/src');
    mkdirSync(styles, { recursive: true });
    for (const sheet of ['harbour.css', 'tokens.css']) lay(`harbour/src/${sheet}`, join(styles, sheet));
    symlinkSync(join(own, 'node_modules'), join(project, 'node_modules'));
  }
  lay(kit);
}
const service = spawn(process.execPath, [cli, 'serve'], { cwd: project, stdio: ['ignore', 'ignore', 'inherit'] });
const end = () => service.kill('SIGTERM');
process.on('SIGINT', end);
process.on('SIGTERM', end);
for (let i = 0; i < 200 && !running() && service.exitCode === null; i++)
  await new Promise((done) => setTimeout(done, 50));
const url = running();
if (!url) process.exit(3);

if (fresh && isOther) {
  say(`The kit “${kit}”: every look is new`);
  if (sguardo('run') > 1) process.exit(3);
  writeFileSync(stamp, made);
} else if (fresh) {
  say('The harbour office as it is: every look is new');
  if (sguardo('run') > 1) process.exit(3);
  say('Somebody has looked at them and approves them');
  sguardo('approve', '--all', '--why', 'first look at everything');
  say('An afternoon of careless edits later');
  lay('next');
  sguardo('run');
  writeFileSync(stamp, made);
}
if (once) end();
else say(`The console: ${url}\n  The project: ${project}\n  Press Ctrl+C to stop.`);
