import { test as base } from '@playwright/test';
import { type OwnServer, ownServer } from './ownServer';

export { expect, type Locator, type Page } from '@playwright/test';

/** A server with fresh demo data for each file of tests; a worker has one at a time. */
interface Servers {
  of(file: string): Promise<OwnServer>;
}

/**
 * Tests of one file share a server and what they leave in it, and are tried again together (`mode: 'serial'` in each);
 * files share nothing, so that any may run beside another.
 */
export const test = base.extend<{ server: OwnServer }, { servers: Servers }>({
  servers: [
    // Playwright reads the names of what a fixture uses out of its first parameter.
    // eslint-disable-next-line no-empty-pattern
    async ({}, use) => {
      let current: { file: string; server: OwnServer } | undefined;
      await use({
        async of(file) {
          if (current?.file === file) return current.server;
          await current?.server.throwAway();
          current = { file, server: ownServer() };
          await current.server.start();
          return current.server;
        },
      });
      await current?.server.throwAway();
    },
    { scope: 'worker', timeout: 120_000 },
  ],
  server: async ({ servers }, use, { file }) => use(await servers.of(file)),
  baseURL: async ({ server }, use) => use(server.address()),
});
