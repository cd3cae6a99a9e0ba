/* global document, addEventListener, MutationObserver */
// From a key press in a fact to the findings that follow from it, in a real browser, against a running demo:
// node bench/keyFrames.mjs [address]
import { chromium } from '@playwright/test';

const [address = 'http://127.0.0.1:4620'] = process.argv.slice(2);
const PRESSES = 60;

const browser = await chromium.launch({
  executablePath: process.env.CHROMIUM ?? '/usr/bin/chromium-headless-shell',
  args: ['--no-sandbox', '--disable-background-networking'],
});
const page = await browser.newPage({ viewport: { width: 1280, height: 800 }, reducedMotion: 'reduce' });
await page.goto(`${address}/machines/bittern/settings?part=frame`);
const field = page.getByRole('textbox', { name: 'Plate to, X', exact: true });
await field.waitFor();
const kept = await field.inputValue();

/** Waits for the docket to say or stop saying it, and gives the ms since the key went down. */
const watch = () =>
  page.evaluate(
    () =>
      new Promise((resolve) => {
        let from;
        const docket = document.querySelector('aside[aria-label="Docket"]');
        addEventListener('keydown', (event) => (from ??= event.timeStamp), { capture: true, once: true });
        new MutationObserver((_, observer) => {
          if (from === undefined) return;
          observer.disconnect();
          resolve(performance.now() - from);
        }).observe(docket, { childList: true, subtree: true, characterData: true });
      }),
  );

const took = [];
await field.focus();
await field.press('End');
for (let press = 0; press < PRESSES; press += 1) {
  const seen = watch();
  await page.waitForTimeout(60);
  // 280 → 2800: the plate is outside the travel; and back again.
  await page.keyboard.press(press % 2 === 0 ? '0' : 'Backspace');
  took.push(await seen);
}
await field.press('Escape');
const sorted = took.slice(10).sort((a, b) => a - b);
console.log(
  `key press to findings: ${sorted[Math.floor(sorted.length / 2)].toFixed(1)} ms median, ${sorted[Math.floor(sorted.length * 0.95)].toFixed(1)} ms p95 (budget 50 ms); the field holds ${kept} again`,
);
await browser.close();
