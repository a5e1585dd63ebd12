import { defineConfig } from 'vitest/config';

/** Files share their modules: what they import is read once, and none of them changes it. */
const shared = { environment: 'node', testTimeout: 60_000, isolate: false } as const;
/** What authors read is learned by whoever shows it; tests do. */
const setupFiles = ['./core/messages/desk-english.ts'];

export default defineConfig({
  test: {
    projects: [
      {
        test: {
          name: 'core',
          include: ['formula/**/*.test.ts', 'core/**/*.test.ts', 'demo/**/*.test.ts'],
          setupFiles,
          ...shared,
        },
      },
      {
        test: {
          name: 'server',
          include: ['server/**/*.test.ts'],
          setupFiles,
          ...shared,
          hookTimeout: 60_000,
          globalSetup: ['./server/testing/global-setup.ts'],
        },
      },
      {
        test: {
          name: 'scripts',
          include: ['scripts/**/*.test.ts'],
          setupFiles,
          environment: 'node',
          testTimeout: 60_000,
        },
      },
      {
        test: {
          name: 'web',
          include: ['view/**/*.test.ts', 'web/**/*.test.{ts,tsx}'],
          setupFiles,
          ...shared,
        },
      },
    ],
  },
});
