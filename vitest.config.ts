import { defineConfig } from 'vitest/config';

export default defineConfig({
  test: {
    // Usually one core is left to whoever watches; nobody watches here.
    maxWorkers: 2,
    projects: [
      { test: { name: 'core', root: 'core', setupFiles: 'src/testing/seed.ts', include: ['src/**/*.test.ts'], testTimeout: 180_000 } },
      { test: { name: 'web', root: 'web', setupFiles: '../core/src/testing/seed.ts', include: ['src/**/*.test.ts'] } },
      { test: { name: 'cli', root: 'cli', include: ['src/**/*.test.ts'], testTimeout: 180_000 } },
      { test: { name: 'demo', root: 'demo', include: ['src/**/*.test.ts'], testTimeout: 180_000 } },
      { test: { name: 'bench', root: 'bench', include: ['src/**/*.test.ts'], testTimeout: 180_000 } },
      // One file at a time: they share one PostgreSQL cluster and are timed by it.
      {
        test: {
          name: 'server',
          root: 'server',
          include: ['src/**/*.test.ts'],
          testTimeout: 180_000,
          hookTimeout: 120_000,
          fileParallelism: false,
          globalSetup: 'src/testing/cluster.ts',
        },
      },
    ],
  },
});
