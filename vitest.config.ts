import { availableParallelism } from 'node:os';
import { resolve } from 'node:path';
import { configDefaults, defineConfig } from 'vitest/config';

/**
 * Tests that take long for how seldom they find something stand in files of their own, `*.long.test.ts`: they are run
 * by `npm run test:all`, and when somebody names one.
 */
const wantsLong = process.env.SGUARDO_TESTS === 'all' || process.argv.some((word) => word.includes('.long'));

/** What is pure needs nothing built: whoever names such tests alone need not wait for it. */
const named = process.argv.filter((word) => word.startsWith('test/'));
const isPure = named.length > 0 && named.every((word) => /^test\/(core|language)\b/.test(word));

/** Services are tested as they are built, with what tests reach into of them. */
const builtOnly = /^(?:\.\.\/)+src\/(service\/service|bundle\/builder|engine\/chromium\/window)\.ts$/;

// Not the console's Vite configuration. Every file starts what it needs itself; browsers are slow to start on a busy
// machine, so the limits are generous, and no test asserts a time.
export default defineConfig({
  resolve: {
    // From source it would compile itself, and put its side of pages together, in each of its processes. What is older
    // than its source is built anew before the first test.
    alias: [{ find: builtOnly, replacement: resolve(import.meta.dirname, 'dist/$1.js') }],
  },
  test: {
    include: ['test/**/*.test.ts'],
    exclude: [...configDefaults.exclude, ...(wantsLong ? [] : ['**/*.long.test.ts'])],
    testTimeout: 300_000,
    hookTimeout: 300_000,
    // Each has browsers beside it: three workers on two processors took as long as two.
    maxWorkers: Math.max(2, availableParallelism()),
    pool: 'forks',
    // Vite, Fastify and the like take a second to load: files of one worker share them.
    isolate: false,
    // What is built needs nothing to be done to it.
    server: { deps: { external: [/\/dist\//] } },
    // Whether there are colours is decided when the first module asks.
    env: { NO_COLOR: '1' },
    globalSetup: isPure ? [] : ['test/support/built.ts'],
    setupFiles: ['test/support/setup.ts'],
  },
});
