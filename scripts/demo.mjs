// The whole example on the harbour office: an approved run, an afternoon's careless edits, a second run.
// `--once` ends after that; otherwise the service stays and its address is printed.
import { spawn, spawnSync } from 'node:child_process';
import { cpSync, existsSync, mkdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { dirname, join, resolve } from 'node:path';
import { fileURLToPath } from 'node:url';

const root = resolve(dirname(fileURLToPath(import.meta.url)), '..');
const project = join(root, '.demo/harbour');
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

function lay(from) {
  cpSync(join(root, 'demo', from), project, {
    recursive: true,
    filter: (path) => !/node_modules|\/dist(\/|$)|\.sguardo|baselines/.test(path.slice(root.length)),
  });
}

if (running()) {
  say(`The demo is already running: ${running()}`);
  process.exit(0);
}
const made = readFileSync(join(root, 'dist/.sources'), 'utf8');
const stamp = join(root, '.demo/made');
const fresh = once || !existsSync(stamp) || readFileSync(stamp, 'utf8') !== made;
if (fresh) {
  rmSync(join(root, '.demo'), { recursive: true, force: true });
  mkdirSync(project, { recursive: true });
  lay('harbour');
}
const service = spawn(process.execPath, [cli, 'serve'], { cwd: project, stdio: ['ignore', 'ignore', 'inherit'] });
const end = () => service.kill('SIGTERM');
process.on('SIGINT', end);
process.on('SIGTERM', end);
for (let i = 0; i < 200 && !running() && service.exitCode === null; i++)
  await new Promise((done) => setTimeout(done, 50));
const url = running();
if (!url) process.exit(3);

if (fresh) {
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
