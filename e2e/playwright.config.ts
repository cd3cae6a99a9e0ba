import { mkdtempSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { defineConfig } from '@playwright/test';

const data = process.env['JOLLY_E2E_DATA'] ?? mkdtempSync(join(tmpdir(), 'jolly-e2e-'));
const port = process.env['JOLLY_E2E_PORT'] ?? '4699';

/** One worker: the tests share one server and its one compiler. */
export default defineConfig({
  testDir: '.',
  // Room for a machine whose neighbours are loud; nothing here asserts a time.
  timeout: 240_000,
  expect: { timeout: 20_000 },
  workers: 1,
  reporter: [['list']],
  outputDir: '../test-results',
  webServer: {
    command: `node ../dist/jolly.mjs demo --port ${port}`,
    cwd: import.meta.dirname,
    url: `http://127.0.0.1:${port}/api/health`,
    env: {
      JOLLY_DATA: data,
      JOLLY_ROOT: new URL('..', import.meta.url).pathname,
    },
    timeout: 120_000,
  },
  use: {
    baseURL: `http://127.0.0.1:${port}`,
    viewport: { width: 1280, height: 800 },
    contextOptions: { reducedMotion: 'reduce' },
    trace: 'retain-on-failure',
    actionTimeout: 20_000,
    launchOptions: {
      executablePath: process.env['CHROMIUM'] ?? '/usr/bin/chromium',
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
