import { defineConfig } from '@playwright/test';
import { CHROMIUM_ARGS } from './server.js';

export default defineConfig({
  testDir: 'journeys',
  // What takes long and proves much is the proof's; a part of it is among the server's own tests.
  testIgnore: process.env.KILLS ? [] : ['hard.spec.ts'],
  outputDir: '../test-results',
  globalSetup: './templates.ts',
  fullyParallel: true,
  // One more than the cores of the machine that lands: the bench and the stopped servers are mostly waited for.
  workers: 3,
  retries: 0,
  timeout: 240_000,
  // Only what hangs runs into these: three browsers share two cores, and a busy machine stands still for half a minute.
  expect: { timeout: 60_000 },
  reporter: [['list'], ['json']],
  use: {
    viewport: { width: 1280, height: 800 },
    // Nothing is waited for that only moves.
    contextOptions: { reducedMotion: 'reduce' },
    launchOptions: { executablePath: process.env.CHROMIUM_PATH || '/usr/bin/chromium', args: CHROMIUM_ARGS },
    trace: 'off',
    screenshot: 'only-on-failure',
  },
});
