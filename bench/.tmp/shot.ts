import { startChromium } from '../../src/engine/chromium/chromium.ts';
import { defaultEnvironment } from '../../src/core/settings/environment.ts';
import { writeFileSync } from 'node:fs';
const [path, file, scheme = 'light', keys = '', w = '1280', h = '800'] = process.argv.slice(2);
const engine = await startChromium({});
const window = await engine.open();
await window.apply({ ...defaultEnvironment, viewport: [Number(w), Number(h)], scheme: scheme as 'light' });
await window.load(`http://127.0.0.1:4680${path}`);
await new Promise((r) => setTimeout(r, 2500));
for (const key of keys.split(',').filter(Boolean)) {
  if (key.startsWith('js:')) await window.evaluate(key.slice(3));
  else await window.input([{ kind: 'key', key, modifiers: 0 }]);
  await new Promise((r) => setTimeout(r, 1500));
}
writeFileSync(file!, await window.screenshot([0, 0, Number(w), Number(h)], false));
await engine.close();
process.exit(0);
