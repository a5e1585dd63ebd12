import { defineConfig } from '@playwright/test';
// @ts-expect-error: the scripts are plain JavaScript, run before anything is installed
import { browserPath } from '../scripts/lib/packages.mjs';

export default defineConfig({
  testDir: '.',
  globalSetup: './global-setup.ts',
  timeout: 120_000,
  expect: { timeout: 12_000 },
  workers: 2,
  fullyParallel: false,
  // A machine that is busy elsewhere can make one test late. What passes only the second time is named at the end.
  retries: 1,
  outputDir: '../test-results',
  use: {
    viewport: { width: 1280, height: 800 },
    // What cannot be pressed by then will not be: the test says so at once.
    actionTimeout: 20_000,
    launchOptions: {
      executablePath: browserPath(),
      args: [
        '--no-sandbox',
        '--disable-gpu',
        '--disable-quic',
        '--no-first-run',
        '--disable-background-networking',
        '--disable-component-update',
        '--disable-sync',
      ],
    },
    trace: 'off',
  },
});
