import { defineConfig } from '@playwright/test';

/** Two files of tests at a time, each with its own server and data (test.ts). */
export default defineConfig({
  testDir: '.',
  // Room for a machine whose neighbours are loud; nothing here asserts a time.
  timeout: 240_000,
  expect: { timeout: 60_000 },
  workers: 2,
  // On a machine we do not see, a second try tells a loud neighbour from a fault; the summary names it as flaky.
  retries: process.env['CI'] ? 1 : 0,
  reporter: [['list']],
  outputDir: '../test-results',
  use: {
    viewport: { width: 1280, height: 800 },
    contextOptions: { reducedMotion: 'reduce' },
    // Recorded only at a second try: every act of a recorded test costs a tenth more.
    trace: 'on-first-retry',
    actionTimeout: 40_000,
    launchOptions: {
      executablePath: process.env['CHROMIUM'] ?? '/usr/bin/chromium-headless-shell',
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
  },
});
