// Installs the packages of a folder that is no part of the workspace, unless they are there.
import { spawnSync } from 'node:child_process';
import { existsSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';

/** `what` says in a message what is installed. Ends the process when that cannot be done. */
export function install(folder, what) {
  const lock = readFileSync(join(folder, 'package-lock.json'), 'utf8');
  const stamp = join(folder, 'node_modules/.sguardo-lock');
  if (existsSync(stamp) && readFileSync(stamp, 'utf8') === lock) return;
  process.stdout.write(`· Installing ${what}\n`);
  const args = ['ci', '--ignore-scripts', '--no-audit', '--no-fund', '--loglevel=error'];
  const { status } = spawnSync('npm', args, { cwd: folder, stdio: 'inherit' });
  if (status !== 0) {
    process.stderr.write('✗ They could not be installed. Fix what npm says above and run this command again.\n');
    process.exit(3);
  }
  writeFileSync(stamp, lock);
}
