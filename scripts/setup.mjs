// Installs what is missing, says what it does, and does nothing twice: npm packages, Chromium, the build.
import { spawnSync } from 'node:child_process';
import { createHash } from 'node:crypto';
import { existsSync, mkdirSync, readdirSync, readFileSync, statSync, writeFileSync } from 'node:fs';
import { dirname, join, resolve } from 'node:path';
import { fileURLToPath } from 'node:url';

const root = resolve(dirname(fileURLToPath(import.meta.url)), '..');
process.chdir(root);

const say = (text) => process.stdout.write(`· ${text}\n`);

function run(what, command, args, env = {}) {
  say(what);
  const { status, error } = spawnSync(command, args, {
    stdio: ['ignore', 'inherit', 'inherit'],
    env: { ...process.env, ...env },
  });
  if (status === 0) return;
  process.stderr.write(
    `✗ ${command} ${args.join(' ')} failed${error ? ` (${error.message})` : ''}. Fix what it says above and ` +
      'run this command again.\n',
  );
  process.exit(3);
}

function packages() {
  const lock = createHash('sha256').update(readFileSync('package-lock.json')).digest('hex');
  const stamp = 'node_modules/.sguardo-lock';
  if (existsSync(stamp) && readFileSync(stamp, 'utf8') === lock) return;
  run('Installing npm packages; compiling better-sqlite3 takes a few minutes', 'npm', [
    'ci',
    '--no-audit',
    '--no-fund',
    '--loglevel=error',
  ]);
  writeFileSync(stamp, lock);
}

function chromium() {
  const places = [
    process.env.SGUARDO_CHROMIUM,
    '/usr/lib/chromium/chromium',
    '/usr/bin/chromium',
    '/usr/bin/chromium-browser',
  ];
  if (places.some((path) => path && existsSync(path))) return;
  if (!existsSync('/usr/bin/apt-get')) {
    process.stderr.write(
      '✗ Chromium was not found, and this is not Debian. Install it, or name the binary in SGUARDO_CHROMIUM.\n',
    );
    process.exit(3);
  }
  const apt = (args) => (process.getuid() === 0 ? ['apt-get', args] : ['sudo', ['apt-get', ...args]]);
  const quiet = { DEBIAN_FRONTEND: 'noninteractive' };
  run("Fetching Debian's list of packages", ...apt(['update', '-qq']), quiet);
  run(
    'Installing Chromium',
    ...apt(['install', '-y', '-qq', '--no-install-recommends', 'chromium', 'fonts-dejavu-core']),
    quiet,
  );
}

/** Changes when any source that is built changes. */
function sourcesHash() {
  const hash = createHash('sha256');
  const visit = (folder) => {
    for (const entry of readdirSync(folder, { withFileTypes: true }).sort((a, b) => (a.name < b.name ? -1 : 1))) {
      const path = join(folder, entry.name);
      if (entry.isDirectory()) visit(path);
      else hash.update(path).update(readFileSync(path));
    }
  };
  visit('src');
  for (const file of ['package.json', 'tsconfig.json', 'tsconfig.build.json', 'scripts/build.mjs', 'vite.config.ts'])
    if (existsSync(file) && statSync(file).isFile()) hash.update(readFileSync(file));
  return hash.digest('hex');
}

function build() {
  const stamp = 'dist/.sources';
  const hash = sourcesHash();
  if (existsSync(stamp) && readFileSync(stamp, 'utf8') === hash) return;
  run('Building Sguardo', process.execPath, ['scripts/build.mjs']);
  mkdirSync('dist', { recursive: true });
  writeFileSync(stamp, hash);
}

packages();
chromium();
build();
