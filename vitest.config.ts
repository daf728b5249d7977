import { defineConfig } from 'vitest/config';

export default defineConfig({
  test: {
    include: ['src/**/*.test.ts', 'test/**/*.test.ts'],
    globalSetup: 'test/support/build-workers.ts',
    testTimeout: 15_000,
    hookTimeout: 15_000,
    // Two cores; the engine tests time real sockets.
    maxWorkers: 2,
  },
});
