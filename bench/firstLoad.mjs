// A first visit to a running demo, with an empty cache: from asking for the address to a page that answers a hand,
// against a page of the same server that holds nothing: node bench/firstLoad.mjs [address]
import { chromium } from '@playwright/test';

const [address = 'http://127.0.0.1:4620'] = process.argv.slice(2);
const VISITS = 7;

const browser = await chromium.launch({
  executablePath: process.env.CHROMIUM ?? '/usr/bin/chromium-headless-shell',
  args: ['--no-sandbox', '--disable-background-networking'],
});
const median = (values) => [...values].sort((a, b) => a - b)[Math.floor(values.length / 2)];

/** Opens a path in a window that knows nothing yet; the time until `usable` is so, in ms. */
async function visit(path, usable) {
  const context = await browser.newContext({ viewport: { width: 1280, height: 800 } });
  const page = await context.newPage();
  const begun = performance.now();
  await page.goto(`${address}${path}`, { waitUntil: 'commit' });
  await usable(page);
  const took = performance.now() - begun;
  await context.close();
  return took;
}

async function visits(path, usable) {
  const took = [];
  for (let index = 0; index < VISITS; index += 1) took.push(await visit(path, usable));
  return median(took);
}

const bare = await visits('/api/health', (page) => page.locator('body').waitFor());
for (const [what, path, usable] of [
  [
    'the shelf',
    '/',
    (page) => page.getByRole('link', { name: 'Bittern', exact: true }).first().click({ trial: true }),
  ],
  [
    'settings',
    '/machines/bittern/settings?part=frame',
    (page) => page.getByRole('textbox', { name: 'Plate to, X', exact: true }).click({ trial: true }),
  ],
]) {
  const took = await visits(path, usable);
  console.log(`first load of ${what} (budget 1200 ms)`.padEnd(58), `${took.toFixed(0)} ms, ${(took / bare).toFixed(0)} × a page that holds nothing`); // prettier-ignore
}
await browser.close();
