import { defineConfig } from 'vitest/config';

export default defineConfig({
  test: {
    projects: [
      {
        test: {
          name: 'core',
          include: ['core/**/*.test.ts', 'demo/**/*.test.ts'],
          environment: 'node',
          testTimeout: 60_000,
        },
      },
      {
        test: {
          name: 'server',
          include: ['server/**/*.test.ts'],
          environment: 'node',
          testTimeout: 60_000,
          hookTimeout: 60_000,
          globalSetup: ['./server/testing/global-setup.ts'],
        },
      },
      {
        test: {
          name: 'scripts',
          include: ['scripts/**/*.test.ts'],
          environment: 'node',
          testTimeout: 60_000,
        },
      },
      { test: { name: 'web', include: ['web/**/*.test.ts'], environment: 'node', testTimeout: 60_000 } },
    ],
  },
});
