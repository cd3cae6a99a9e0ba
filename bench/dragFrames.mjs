// Frames a second while one of 60 leads is dragged over the bench of a running demo: node bench/dragFrames.mjs [address]
// Adds a machine of 60 leads to that demo. Headless and without a graphics card, as on the machine it runs on.
import { readFileSync } from 'node:fs';
import { chromium } from '@playwright/test';
import { framesWhile } from './framesWhile.mjs';

const [address = 'http://127.0.0.1:4620'] = process.argv.slice(2);
const text = readFileSync(new URL('../catalogue/demo/bittern.yaml', import.meta.url), 'utf8');
const leads = (text.match(/leads:/g) ?? []).length + (text.match(/part: motor/g) ?? []).length;
const extra = Array.from({ length: 60 - leads }, (_, index) => `load-${index}`);
const crowded = text
  .replace('id: bittern', `id: crowd-${Date.now()}`)
  .replace('name: Bittern', 'name: Crowd')
  .replace(
    '\nharness:',
    `${extra.map((id) => `\n  - { id: ${id}, part: fan-24-40, role: ${id} }`).join('')}\nharness:`,
  )
  .replace(
    '\nsettings:',
    `${extra.map((id, index) => `\n  ${id}: { leads: { supply: FAN-${'ABC'[index % 3]}.1, control: FAN-${'ABC'[index % 3]}.2 } }`).join('')}\nsettings:`,
  );
const made = await fetch(`${address}/api/machines`, {
  method: 'POST',
  headers: { 'content-type': 'application/json' },
  body: JSON.stringify({ file: crowded }),
});
const answer = await made.json();
if (!made.ok) throw new Error(JSON.stringify(answer));
const id = /id: (crowd-\d+)/.exec(crowded)[1];

const browser = await chromium.launch({
  executablePath: process.env.CHROMIUM ?? '/usr/bin/chromium-headless-shell',
  args: ['--no-sandbox', '--disable-background-networking'],
});
const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
await page.goto(`${address}/machines/${id}/wiring`);
const tag = page.locator('[data-part="part-fan"]');
await tag.waitFor();
console.log(`${await page.locator('[data-part]').count()} leads`);
const box = await tag.boundingBox();
await page.mouse.move(box.x + 5, box.y + 3);
await page.mouse.down();
await page.waitForTimeout(1500);
const words = await framesWhile(page, (step) => [
  500 + 250 * Math.sin(step / 20),
  380 + 90 * Math.cos(step / 13),
]);
await page.mouse.up();
console.log(words);
await browser.close();
