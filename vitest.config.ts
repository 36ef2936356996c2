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
            'cli/test/**/*.test.ts',
            'web/src/**/*.unit.test.ts',
            'web/src/**/*.unit.test.tsx',
          ],
          testTimeout: 120_000,
        },
      },
      {
        test: {
          // The core keeps nothing between calls but what depends on its arguments alone, so its
          // files of tests share their modules: a third of the time less.
          name: 'unit-core',
          include: ['core/**/*.test.ts', 'data/**/*.test.ts'],
          isolate: false,
          testTimeout: 120_000,
        },
      },
      {
        test: {
          name: 'integration',
          include: ['web/test/**/*.test.ts'],
          testTimeout: 120_000,
          hookTimeout: 120_000,
          setupFiles: ['web/test/own-database.ts'],
        },
      },
    ],
  },
});
