/* global document, requestAnimationFrame */
// A logbook of thousands of lines in a real browser, on a demo that the record's benchmark has filled: from the key that
// opens it to its first lines, and how it scrolls: node bench/recordFrames.mjs ADDRESS
import { chromium } from '@playwright/test';
import { scrolling } from './scrolling.mjs';

const [address = 'http://127.0.0.1:4620'] = process.argv.slice(2);
const OPENED = 9;
const median = (values) => [...values].sort((a, b) => a - b)[Math.floor(values.length / 2)];

const browser = await chromium.launch({
  executablePath: process.env.CHROMIUM ?? '/usr/bin/chromium-headless-shell',
  args: ['--no-sandbox', '--disable-background-networking'],
});
const page = await browser.newPage({ viewport: { width: 1280, height: 800 }, reducedMotion: 'reduce' });
await page.goto(`${address}/machines/dunlin/survey`);
await page.locator('main h2').first().waitFor();
const first = page.getByText(/^Line \d+ of many/).first();

/** From a key press to the frame that shows what it leads to, in ms. */
async function opened(key) {
  const shown = page.evaluate(
    () =>
      new Promise((resolve) => {
        let from;
        document.addEventListener('keydown', () => (from = performance.now()), { capture: true, once: true });
        const look = () => {
          const there = document.querySelector('main')?.innerText.includes(' of many');
          if (from !== undefined && there) resolve(performance.now() - from);
          else if (from !== undefined && performance.now() - from > 10_000) resolve(Infinity);
          else requestAnimationFrame(look);
        };
        look();
      }),
  );
  // The page listens before the key comes.
  await page.waitForTimeout(80);
  await page.keyboard.press(key);
  return shown;
}

const took = [];
for (let round = 0; round < OPENED; round += 1) {
  await page.keyboard.press('1');
  await page.waitForURL(/survey/);
  await first.waitFor({ state: 'hidden' });
  took.push(await opened('8'));
}
console.log(`a logbook of 5,000 lines opened by its key (budget 300 ms)  ${median(took).toFixed(0)} ms, each ${took.map((one) => one.toFixed(0)).join(', ')}`); // prettier-ignore

console.log(`${'scrolling it'.padEnd(58)} ${await scrolling(page)}`);
await browser.close();
