// Builds the command line, the service and what pages load (dist/), and the console (dist/console).
import { spawnSync } from 'node:child_process';
import { cpSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { dirname, join, resolve } from 'node:path';
import { fileURLToPath } from 'node:url';
import { brotliCompressSync } from 'node:zlib';

process.chdir(resolve(dirname(fileURLToPath(import.meta.url)), '..'));
const node = (args) => {
  const { status } = spawnSync(process.execPath, args, { stdio: 'inherit' });
  if (status !== 0) process.exit(1);
};
rmSync('dist', { recursive: true, force: true });
node(['node_modules/typescript7/bin/tsc', '-p', 'tsconfig.build.json']);
// A project's own Svelte compiles it.
cpSync('src/page/adapters/Framed.svelte', 'dist/page/adapters/Framed.svelte');
node(['-e', "import('./dist/bundle/ownPages.js').then(({ writePages }) => writePages()).then(() => process.exit())"]);
const vite = ['node_modules/vite/bin/vite.js', 'build', '--config', 'src/console/vite.config.ts', '--logLevel', 'warn'];
node(vite);
node([...vite, '--mode', 'draw']);
// Packed once as well as can be, so that the service need not do it for everybody who opens the console.
const assets = 'dist/console/assets';
const worthPacking = 4096;
for (const name of readdirSync(assets)) {
  const bytes = readFileSync(join(assets, name));
  if (bytes.length > worthPacking) writeFileSync(join(assets, `${name}.br`), brotliCompressSync(bytes));
}
