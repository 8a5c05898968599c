/** What runs in the builder's process: does what it is told, one order beside the other, until its parent is gone. */
import { messageOf, problem, ProblemError } from '../core/problem/problem.ts';
import type { Answer, Order } from './builder.ts';
import { buildLooks } from './bundle.ts';
import { componentsIn, componentsOf } from './components.ts';
import { loadConfig } from './config.ts';
import { readingInstead } from './instead.ts';
import { findLookFiles } from './lookFiles.ts';

function carryOut(order: Order): Promise<unknown> {
  switch (order.kind) {
    case 'config':
      return loadConfig(order.path);
    case 'bundle':
      return readingInstead(order.instead, () => buildLooks(order.root, order.settings, order.files, order.instead));
    case 'components':
      return componentsOf(order.root, order.file);
    case 'keep':
      // TypeScript comes with it, which building does without.
      return import('../keep/keep.ts').then(({ keep }) => keep(order.name, order.source, order.keeping));
    case 'stages':
      return import('./stages.ts').then(({ buildStages }) => buildStages(order.root, order.settings));
    case 'usage':
      return import('../keep/usage.ts').then(({ usagesIn }) => usagesIn(order.name, order.source));
    case 'overview':
      return findLookFiles(order.root, order.settings).then((files) => componentsIn(order.root, files));
  }
}

process.on('message', async ({ id, ...order }: Order & { id: number }) => {
  const memory = (): number => process.memoryUsage.rss();
  const answer = await carryOut(order as Order).then(
    (value): Answer => ({ id, value, memory: memory() }),
    (error: unknown): Answer => {
      const wrong = error instanceof ProblemError ? error.problem : problem('internal', { error: messageOf(error) });
      return { id, problem: wrong, memory: memory() };
    },
  );
  process.send?.(answer);
});
process.once('disconnect', () => process.exit());
// Ctrl+C in a terminal reaches this process as well; its parent may still need it.
for (const signal of ['SIGINT', 'SIGTERM', 'SIGHUP'] as const) process.on(signal, () => {});
