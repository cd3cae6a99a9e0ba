/* global document, requestAnimationFrame */
// A logbook of thousands of lines in a real browser, on a demo that the record's benchmark has filled: from the key that
// opens it to its first lines, and how it scrolls: node bench/recordFrames.mjs ADDRESS
import { chromium } from '@playwright/test';

const [address = 'http://127.0.0.1:4620'] = process.argv.slice(2);
const OPENED = 9;
const FRAMES = 240;
const median = (values) => [...values].sort((a, b) => a - b)[Math.floor(values.length / 2)];

const browser = await chromium.launch({
  executablePath: process.env.CHROMIUM ?? '/usr/bin/chromium-headless-shell',
  args: ['--no-sandbox', '--disable-background-networking'],
});
const page = await browser.newPage({ viewport: { width: 1280, height: 800 }, reducedMotion: 'reduce' });
await page.goto(`${address}/machines/dunlin/survey`);
await page
  .getByRole('link', { name: /^8 Logbook|Logbook/ })
  .first()
  .waitFor();
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

const frames = await page.evaluate(async (count) => {
  const scrolled = [...document.querySelectorAll('main, main *')].find(
    (element) => element.scrollHeight > element.clientHeight + 200 && element.clientHeight > 200,
  );
  const times = [];
  let last = performance.now();
  for (let frame = 0; frame < count; frame += 1) {
    scrolled?.scrollBy(0, 40);
    await new Promise((resolve) => requestAnimationFrame(resolve));
    const now = performance.now();
    times.push(now - last);
    last = now;
  }
  return times;
}, FRAMES);
console.log(`scrolling it                                               ${median(frames).toFixed(1)} ms a frame, ${Math.max(...frames).toFixed(0)} ms at most; ${frames.filter((one) => one > 34).length} of ${FRAMES} longer than two frames`); // prettier-ignore
await browser.close();
