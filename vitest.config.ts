import { defineConfig } from 'vitest/config';

export default defineConfig({
  test: {
    include: ['packages/*/test/**/*.test.ts', 'packages/web/src/**/*.test.ts'],
    testTimeout: 180_000,
    hookTimeout: 180_000,
  },
});
