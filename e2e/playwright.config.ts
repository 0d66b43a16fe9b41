import { defineConfig } from '@playwright/test';
import { CHROMIUM } from './chromium';

/**
 * Drives the built application in Debian's Chromium, each file on a server of its own: three at a time, for most of a
 * test is waiting.
 */
export default defineConfig({
  testDir: '.',
  testMatch: '*.e2e.ts',
  outputDir: '../.data/e2e',
  workers: 3,
  fullyParallel: false,
  timeout: 90_000,
  expect: { timeout: 15_000 },
  reporter: [['list'], ['./count-reporter.ts']],
  use: {
    viewport: { width: 1280, height: 800 },
    actionTimeout: 15_000,
    trace: 'off',
    launchOptions: CHROMIUM,
  },
});
