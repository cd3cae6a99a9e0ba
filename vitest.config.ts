import { defineConfig } from 'vitest/config';

/** Only calculates: its test files share one set of modules. */
const CALCULATING = ['core', 'contract', 'session', 'web', 'bench'];
/** Starts processes, servers and databases: each test file by itself. */
const RUNNING = ['firmware', 'server'];
const testsOf = (packages: string[]) =>
  packages.flatMap((name) => [`packages/${name}/test/**/*.test.ts`, `packages/${name}/src/**/*.test.ts`]);

export default defineConfig({
  test: {
    testTimeout: 180_000,
    hookTimeout: 180_000,
    // One a core; by itself it would leave one of two free.
    maxWorkers: '100%',
    // Without dist/ a test that starts a compiler would wait for ever.
    globalSetup: './scripts/builtForTests.ts',
    projects: [
      { extends: true, test: { name: 'calculating', include: testsOf(CALCULATING), isolate: false } },
      { extends: true, test: { name: 'running', include: testsOf(RUNNING), isolate: false } },
    ],
  },
});
