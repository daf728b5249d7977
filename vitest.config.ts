import { defineConfig } from 'vitest/config';

export default defineConfig({
  test: {
    include: ['src/**/*.test.{ts,tsx}', 'test/**/*.test.ts'],
    globalSetup: 'test/support/build-workers.ts',
    testTimeout: 15_000,
    hookTimeout: 15_000,
    // A shared machine may stand still for seconds, and what is timed then fails; a fault of ours fails twice.
    retry: process.env.CI || process.env.npm_lifecycle_event === 'test' ? 1 : 0,
    // Twice the cores: most tests wait for sockets and timers, not for the processor.
    maxWorkers: 4,
  },
});
