// Installs the component libraries that test/kits is made of, unless they are there.
import { spawnSync } from 'node:child_process';
import { existsSync, readFileSync, writeFileSync } from 'node:fs';
import { dirname, resolve } from 'node:path';
import { fileURLToPath } from 'node:url';

process.chdir(resolve(dirname(fileURLToPath(import.meta.url)), '../test/kits'));
const lock = readFileSync('package-lock.json', 'utf8');
const stamp = 'node_modules/.sguardo-lock';
if (!existsSync(stamp) || readFileSync(stamp, 'utf8') !== lock) {
  process.stdout.write('· Installing the component libraries of test/kits\n');
  const args = ['ci', '--ignore-scripts', '--no-audit', '--no-fund', '--loglevel=error'];
  const { status } = spawnSync('npm', args, { stdio: 'inherit' });
  if (status !== 0) {
    process.stderr.write('✗ They could not be installed. Fix what npm says above and run this command again.\n');
    process.exit(3);
  }
  writeFileSync(stamp, lock);
}
