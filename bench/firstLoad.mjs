/* global document */
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

/**
 * Runs in the page: whether the link or field of this name is there and a hand would meet it. Asked at every frame: waiting
 * for an element as tests do asks at growing distances, half a second apart in the end.
 */
function answersHand([kind, name]) {
  const called = (element) =>
    element.getAttribute('aria-label') ?? element.labels?.[0]?.textContent ?? element.textContent;
  const found = [...document.querySelectorAll(kind)].find((element) => called(element)?.trim() === name);
  if (!found) return false;
  found.scrollIntoView({ block: 'nearest' });
  const { x, y, width, height } = found.getBoundingClientRect();
  return width > 0 && found.contains(document.elementFromPoint(x + width / 2, y + height / 2));
}
const answering = (kind, name) => (page) =>
  page.waitForFunction(answersHand, [kind, name], { polling: 'raf' });

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
  ['the shelf', '/', answering('a', 'Bittern')],
  ['settings', '/machines/bittern/settings?part=frame', answering('input', 'Plate to, X')],
]) {
  const took = await visits(path, usable);
  console.log(`first load of ${what} (budget 1200 ms)`.padEnd(58), `${took.toFixed(0)} ms, ${(took / bare).toFixed(0)} × a page that holds nothing`); // prettier-ignore
}
await browser.close();
