/** What runs in the builder's process: does what it is told, one order beside the other, until its parent is gone. */
import { messageOf, problem, ProblemError } from '../core/problem/problem.ts';
import type { Answer, Order } from './builder.ts';
import { buildLooks } from './bundle.ts';
import { loadConfig } from './config.ts';

const carryOut = (order: Order): Promise<unknown> =>
  order.kind === 'config' ? loadConfig(order.path) : buildLooks(order.root, order.settings, order.files);

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
