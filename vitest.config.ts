import { defineConfig } from 'vitest/config';

/** How many times as long as usual this computer takes: `npm test` measures it. */
const pace = Number(process.env.TEST_PACE ?? 1);

export default defineConfig({
  test: {
    include: ['src/**/*.test.{ts,tsx}', 'test/**/*.test.ts'],
    globalSetup: 'test/support/build-workers.ts',
    testTimeout: 60_000 * pace,
    hookTimeout: 60_000 * pace,
    // A shared machine may stand still for seconds, and what is timed then fails; a fault of ours fails twice.
    retry: process.env.CI || process.env.npm_lifecycle_event === 'test' ? 1 : 0,
    // Files share the modules that a worker has loaded: to load the engine anew for each would cost more than the tests do.
    isolate: false,
    // Twice the cores: most tests wait for sockets and timers, not for the processor.
    maxWorkers: 4,
  },
});
