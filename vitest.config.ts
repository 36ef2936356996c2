import { defineConfig } from 'vitest/config';

export default defineConfig({
  test: {
    // By default a core is left free, which on a machine of two halves the speed.
    maxWorkers: '100%',
    projects: [
      {
        test: {
          name: 'unit',
          include: [
            'core/**/*.test.ts',
            'cli/test/**/*.test.ts',
            'web/src/**/*.unit.test.ts',
            'web/src/**/*.unit.test.tsx',
            'data/**/*.test.ts',
          ],
          testTimeout: 30_000,
        },
      },
      {
        test: {
          name: 'integration',
          include: ['web/test/**/*.test.ts'],
          testTimeout: 60_000,
          hookTimeout: 60_000,
          fileParallelism: false,
        },
      },
    ],
  },
});
