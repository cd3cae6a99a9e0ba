/* global document, requestAnimationFrame, window */
// A shelf of 200 machines scrolled, and keys pressed on it and in a description, in a real browser, against a running
// demo of its own (it leaves the machines there): node bench/shelfFrames.mjs [address]
import { readFile } from 'node:fs/promises';
import { chromium } from '@playwright/test';
import { scrolling } from './scrolling.mjs';

const [address = 'http://127.0.0.1:4620'] = process.argv.slice(2);
const MACHINES = 200;

const plover = await readFile(new URL('../catalogue/demo/plover.yaml', import.meta.url), 'utf8');
for (let index = 0; index < MACHINES; index += 1)
  await fetch(`${address}/api/machines`, {
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify({
      file: plover.replace('id: plover', `id: p-${index}`).replace(/name: \w+/, `name: P ${index}`),
    }),
  });

const browser = await chromium.launch({
  executablePath: process.env.CHROMIUM ?? '/usr/bin/chromium-headless-shell',
  args: ['--no-sandbox'],
});
const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
const median = (values) => [...values].sort((a, b) => a - b)[Math.floor(values.length / 2)];
const worst = (values) => Math.max(...values);

await page.goto(address);
await page.getByRole('link', { name: 'P 199', exact: true }).first().waitFor();
console.log(`scrolling ${MACHINES} machines: ${await scrolling(page)}`);

/** From a key to the frame that shows its answer. */
async function keys(field, text) {
  await field.focus();
  const took = [];
  for (const key of text) {
    const begun = await page.evaluate(() => {
      window.pressed = new Promise((resolve) =>
        document.addEventListener('keydown', () => {
          const from = performance.now();
          requestAnimationFrame(() => requestAnimationFrame(() => resolve(performance.now() - from)));
        }, { once: true }),
      ); // prettier-ignore
      return true;
    });
    if (begun) await page.keyboard.press(key);
    took.push(await page.evaluate(() => window.pressed));
  }
  return `${median(took).toFixed(0)} ms, ${worst(took).toFixed(0)} ms at most (two frames included; budget 50 ms)`;
}
console.log(`a key in the search of the shelf: ${await keys(page.getByLabel('Find a machine'), 'p 12345')}`);
const begun = await (
  await fetch(`${address}/api/descriptions`, {
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body: '{"from":"nothing"}',
  })
).json();
await page.goto(`${address}/describe/${begun.stored.id}?at=plate`);
await page.getByLabel('Plate, left to right', { exact: true }).first().waitFor();
console.log(`a key in a description: ${await keys(page.getByLabel('Plate, left to right', { exact: true }), '1234567')}`); // prettier-ignore
await browser.close();
