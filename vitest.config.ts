import { defineConfig } from 'vitest/config';

export default defineConfig({
  test: {
    include: ['src/**/*.test.ts', 'test/**/*.test.ts'],
    globalSetup: 'test/support/build-workers.ts',
    testTimeout: 15_000,
    hookTimeout: 15_000,
    // A shared machine may stand still for seconds, and what is timed then fails; a fault of ours fails twice.
    retry: process.env.CI || process.env.npm_lifecycle_event === 'test' ? 1 : 0,
    // Two cores; the engine tests time real sockets.
    maxWorkers: 2,
  },
});
