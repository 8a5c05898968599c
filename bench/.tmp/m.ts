import { pairScenes } from '../../src/core/cause/pair.ts';
import { editsOf } from '../../src/core/cause/edits.ts';
import { el, scene } from '../../test/support/scene.ts';
import { interning, treeOf } from '../../src/core/cause/tree.ts';
import { match } from '../../src/core/cause/match.ts';
const rows = (n: number, c: (i: number) => string) => Array.from({ length: n }, (_, i) => el('tr.row', el('td', `Berth ${i}`), el('td', c(i)), el('td', 'free')));
const a = scene([el('table', ...rows(1430, () => 'calm'))]);
const b = scene([el('table', el('caption', 'Today'), ...rows(1430, (i) => (i % 100 === 7 ? 'gale' : 'calm')))]);
for (let k = 0; k < 6; k++) { const i = interning(); let t = performance.now(); const x = treeOf(a.moment, i), y = treeOf(b.moment, i); const t1 = performance.now() - t; t = performance.now(); match(x, y); const t2 = performance.now() - t; t = performance.now(); const p = pairScenes(a, b); const t3 = performance.now() - t; t = performance.now(); editsOf(p); console.log(x.order.length, 'trees', t1 | 0, 'match', t2 | 0, 'pair', t3 | 0, 'edits', (performance.now() - t) | 0); }
