import { availableParallelism } from 'node:os';
import { defineConfig } from 'vitest/config';

// Not the console's Vite configuration. Every file starts what it needs itself; browsers are slow to start on a busy
// machine, so the limits are generous, and no test asserts a time.
export default defineConfig({
  test: {
    include: ['test/**/*.test.ts'],
    testTimeout: 300_000,
    hookTimeout: 300_000,
    // Each has browsers beside it: three workers on two processors took as long as two.
    maxWorkers: Math.max(2, availableParallelism()),
    pool: 'forks',
    // Vite, Fastify and the like take a second to load: files of one worker share them.
    isolate: false,
    // Whether there are colours is decided when the first module asks.
    env: { NO_COLOR: '1' },
    setupFiles: ['test/support/setup.ts'],
  },
});
