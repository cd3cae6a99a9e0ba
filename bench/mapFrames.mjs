// Frames a second while a map of 15 by 15 points is turned, in a real browser, against a running demo:
// node bench/mapFrames.mjs [address]. It leaves that map in Bittern's file.
import { chromium } from '@playwright/test';
import { framesWhile } from './framesWhile.mjs';

const [address = 'http://127.0.0.1:4620'] = process.argv.slice(2);
const POINTS = 15;
const lines = Array.from({ length: POINTS }, (_, nth) => 20 + nth * 15);
const z = lines.map((y) => lines.map((x) => Number((0.1 * Math.sin(x / 60) * Math.cos(y / 45)).toFixed(3))));

const machine = `${address}/api/machines/bittern`;
const { machine: file, version } = await (await fetch(machine)).json();
const put = await fetch(machine, {
  method: 'PUT',
  headers: { 'content-type': 'application/json' },
  body: JSON.stringify({
    machine: { ...file, bed_map: { xs: lines, ys: lines, z } },
    version,
    label: 'a map to turn',
  }),
});
if (!put.ok) throw new Error(await put.text());

const browser = await chromium.launch({
  executablePath: process.env.CHROMIUM ?? '/usr/bin/chromium-headless-shell',
  args: ['--no-sandbox', '--disable-background-networking'],
});
const page = await browser.newPage({ viewport: { width: 1280, height: 1600 } });
await page.goto(`${address}/machines/bittern/calibrate?tool=map`);
await page.getByText('Surface', { exact: true }).first().click();
const surface = page.getByRole('application', { name: /^Surface of 15 × 15 points/ }).first();
await surface.scrollIntoViewIfNeeded();
const box = await surface.boundingBox();
const [x, y] = [box.x + box.width / 2, box.y + box.height / 2];
await page.mouse.move(x, y);
await page.mouse.down();
console.log(
  `a map of ${POINTS} × ${POINTS} points, turned`.padEnd(58),
  await framesWhile(page, (step) => [x + 200 * Math.sin(step / 25), y]),
);
await page.mouse.up();
await browser.close();
