// Lint: Biome on every file, the length of lines (Biome cuts no texts), then the folder boundaries of the design.
import { spawnSync } from 'node:child_process';
import { existsSync, readFileSync } from 'node:fs';
import { dirname, resolve } from 'node:path';
import { fileURLToPath } from 'node:url';

process.chdir(resolve(dirname(fileURLToPath(import.meta.url)), '..'));
const node = (args) => spawnSync(process.execPath, args, { encoding: 'utf8', stdio: ['ignore', 'pipe', 'inherit'] });

const biome = node(['node_modules/@biomejs/biome/bin/biome', 'check', '--error-on-warnings', '.']);
process.stdout.write(biome.stdout);
const mostCharacters = 120;
const known = ['ls-files', '--cached', '--others', '--exclude-standard', '*.ts', '*.tsx', '*.mjs', '*.vue', '*.svelte'];
const sources = spawnSync('git', known, { encoding: 'utf8' }).stdout.split('\n').filter(Boolean);
const long = sources.filter(existsSync).flatMap((path) =>
  readFileSync(path, 'utf8')
    .split('\n')
    .flatMap((line, i) => (line.length > mostCharacters ? [`${path}:${i + 1}`] : [])),
);
for (const place of long) process.stderr.write(`✗ ${place} is longer than ${mostCharacters} characters.\n`);

const boundaries = node([
  'node_modules/dependency-cruiser/bin/dependency-cruise.mjs',
  '--config',
  '.dependency-cruiser.cjs',
  'src',
  'demo',
]);
process.stdout.write(boundaries.stdout);
// Without a TypeScript that it understands it cruises nothing, and finds no fault with that.
const cruised = Number(/\((\d+) modules|(\d+) modules/.exec(boundaries.stdout)?.slice(1).find(Boolean) ?? 0);
if (cruised < 50)
  process.stderr.write(
    `✗ Only ${cruised} modules were looked at for their imports: something is wrong with the lint step itself.\n`,
  );
process.exit(biome.status === 0 && long.length === 0 && boundaries.status === 0 && cruised >= 50 ? 0 : 1);
