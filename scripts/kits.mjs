// Installs what the projects beside the harbour office are made of: component libraries, or the kits of other
// frameworks. `libraries` and `kits` name one of both.
import { dirname, join, resolve } from 'node:path';
import { fileURLToPath } from 'node:url';
import { install } from './install.mjs';

const root = resolve(dirname(fileURLToPath(import.meta.url)), '..');
const wanted = process.argv[2] ?? 'libraries';
if (wanted === 'libraries') install(join(root, 'test/kits'), 'the component libraries of test/kits');
else {
  for (const kit of ['vue', 'svelte', 'angular', 'elements'])
    install(join(root, 'demo', kit), `what demo/${kit} is made of`);
  for (const kit of ['preact', 'solid']) install(join(root, 'test/kits', kit), `what test/kits/${kit} is made of`);
}
