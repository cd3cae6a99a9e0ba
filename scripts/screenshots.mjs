// Takes the pictures for docs/screenshots from a running demo: builds and flashes Plover, then visits each view.
// node scripts/screenshots.mjs [address] [folder] [one view, without preparing]
import { readFile } from 'node:fs/promises';
import { chromium } from '@playwright/test';
import { parse, stringify } from 'yaml';

const [address = 'http://127.0.0.1:4620', folder = 'docs/screenshots', only] = process.argv.slice(2);
const VIEWS = {
  survey: '/machines/plover/survey?at=tail',
  wiring: '/machines/plover/wiring?at=bench&lead=hotend-fan',
  settings: '/machines/plover/settings?part=x&key=steps.x',
  phone: '/machines/plover/calibrate?tool=z-offset',
  build: '/machines/plover/build',
  fit: '/',
  flash: '/machines/plover/flash',
  'bring-up': '/machines/plover/bring-up',
  'first-power': '/machines/plover/bring-up?view=power',
  calibrate: '/machines/dunlin/calibrate',
  'calibrate-map': '/machines/plover/calibrate?tool=map',
  'calibrate-offset': '/machines/plover/calibrate?tool=z-offset',
  'calibrate-pid': '/machines/plover/calibrate?tool=pid-hotend',
  'first-layer': '/machines/plover/calibrate?tool=first-layer',
  logbook: '/machines/bittern/logbook',
  fleet: '/fleet',
  shelf: '/',
  describe: '/',
  board: '/',
};

const browser = await chromium.launch({
  executablePath: process.env.CHROMIUM ?? '/usr/bin/chromium-headless-shell',
  args: ['--no-sandbox', '--disable-background-networking'],
});
const context = await browser.newContext({ reducedMotion: 'reduce' });
const page = await context.newPage();
page.on('pageerror', (error) => console.error('page error:', error.message));

const button = (name) => page.getByRole('button', { name, exact: true });
const slip = (title) =>
  page.getByRole('listitem').filter({ has: page.getByRole('heading', { name: title }) });

async function prepare() {
  await page.goto(`${address}/machines/plover/survey?at=way-back`);
  await button('From the drawer: plover-f8-maker.hex').click();
  await page.getByText('fits this board').waitFor();
  await page.goto(`${address}/machines/plover/survey?at=report`);
  await button('From the drawer: plover-settings.txt').click();
  await page.getByText('Measured; they carry over').waitFor();
  await page.goto(`${address}/machines/plover/build`);
  await button('Build').click();
  await page
    .getByRole('heading', { name: 'Built from the settings as they are' })
    .waitFor({ timeout: 180_000 });
  await page.goto(`${address}/machines/plover/flash`);
  await button('Write the card').click();
  await page.getByText('The card is in the slot').waitFor();
  await button('Switch the power on').click();
  await slip('The board took the image.').waitFor();
}

async function bringUp() {
  await button('Switch the power on').click();
  await page.getByLabel('Identity').waitFor();
  await page.getByLabel('Speed of the bench').selectOption('20');
  for (const title of ['The right image runs', 'Stored settings are fresh', 'Temperatures plausible cold']) {
    await slip(title).getByRole('button', { name: /^Test/ }).click();
    await slip(title).getByText('Proven', { exact: true }).waitFor({ timeout: 30_000 });
  }
  await button('Preheat one').click();
  await page.getByText('target 200.0 °C').waitFor();
  await button('Home all').click();
  await page.getByText('XYZ', { exact: true }).waitFor({ timeout: 120_000 });
  await button('Take the map').click();
  await page.getByText('in use, 5 × 5').waitFor({ timeout: 180_000 });
  await page.getByRole('main').evaluate((main) => main.scrollTo(0, 0));
}

/** Plover's twin, still on the old board with everything Plover wishes for; what it costs is measured, and a way is built. */
async function fit() {
  const job = parse(await readFile('catalogue/demo/jobs/plover.yaml', 'utf8'));
  const { before } = job;
  const { 'z-switch': _gone, ...harness } = before.harness;
  const ruff = {
    ...before,
    id: 'ruff',
    name: 'Ruff',
    frame: { ...before.frame, switch_at: { x: 'min', y: 'min' } },
    probe_mount: { side: 'left', side_mm: 38, face: 'front', face_mm: 9, z_mm: -2.05, stowed_mm: 3.5 },
    parts: [...before.parts.filter(({ id }) => id !== 'z-switch'), { id: 'probe', part: 'heron', role: 'z' }],
    harness: { ...harness, probe: { leads: { signal: 'PANEL.3', ground: 'PANEL.1', supply: 'PANEL.2', control: 'PANEL.10' } } }, // prettier-ignore
  };
  await fetch(`${address}/api/machines`, {
    method: 'POST',
    headers: { 'content-type': 'application/json', origin: address },
    body: JSON.stringify({ file: stringify(ruff) }),
  });
  await page.goto(`${address}/machines/ruff/build`);
  await button('Build').click();
  await page.getByText('bytes too small for this image').waitFor({ timeout: 180_000 });
  await page.goto(`${address}/machines/ruff/build?view=fit`);
  await page.getByRole('button', { name: /^Measure/ }).click();
  await button('Build it to see').click({ timeout: 300_000 });
  await button('Take it over').waitFor({ timeout: 180_000 });
}

/** Some of what is measured before there is power, one heater wrong. */
async function firstPower() {
  await page.getByRole('textbox', { name: 'Heater of the hot end, in Ω' }).fill('3.6');
  await page.keyboard.press('Enter');
  for (const what of ['Plus to minus of the board', 'Heater of the bed', 'Sensor of the hot end'])
    await page.getByRole('button', { name: `Measure on the bench: ${what}`, exact: true }).click();
  await page.getByText('does not fit', { exact: true }).waitFor();
  await page.getByRole('heading', { name: /^Measure, the power off/ }).scrollIntoViewIfNeeded();
  await page.getByRole('row', { name: /^Sensor of the bed/ }).scrollIntoViewIfNeeded();
}

/** Measures with the tool that is shown, answering as hand and eye at the bench say, until it is over or has come so far. */
async function measure(until) {
  const on = button('Switch the power on');
  await on.click();
  await button('Switch the power off').waitFor();
  await page.getByText('Switch the power on first.').waitFor({ state: 'hidden' });
  await page.getByLabel('Speed of the bench').selectOption('Infinity');
  await page.getByRole('checkbox', { name: /I have read it/ }).check();
  await button('Begin').click();
  const box = page.getByRole('region', { name: 'Under way' });
  const outcome = page.getByRole('region', { name: 'What it came to' });
  for (;;) {
    if (await outcome.isVisible()) break;
    const seen = box.locator('p b').first();
    const answer = (await seen.isVisible()) ? await seen.textContent() : undefined;
    if (answer && until && (await box.innerText()).includes(until)) break;
    const key = answer && box.getByRole('button', { name: new RegExp(`^${answer}$`, 'i') });
    if (key) await key.click().catch(() => undefined);
    await page.waitForTimeout(60);
  }
  const show = until ? box : page.getByRole('region', { name: 'Power' });
  await show.evaluate((element) => element.scrollIntoView({ block: 'start' }));
}

/** Two machines chosen, and one setting tried on both. */
async function fleet() {
  await page.getByLabel('When Bittern is updated').selectOption('part');
  for (const name of ['Plover', 'Dunlin']) await page.getByLabel(`Choose ${name}`).check();
  const one = page.getByRole('region', { name: 'One setting on several' });
  await one.getByRole('combobox', { name: 'Setting' }).fill('heat.bed.max');
  await page.getByRole('option', { name: /heat\.bed\.max/ }).click();
  await one.getByLabel('Value').fill('95');
  await one.getByRole('button', { name: 'Look what it makes of each' }).click();
  await one.getByText(/→ 95/).first().waitFor();
  await page.evaluate(() => window.scrollTo(0, 0));
}

/** A board begun as a copy of another, one of its headers chosen. */
async function board() {
  const begun = await fetch(`${address}/api/boards-begun`, {
    method: 'POST',
    headers: { 'content-type': 'application/json', origin: address },
    body: JSON.stringify({ from: 'copy', id: 'harrow-h6', revision: 'A' }),
  });
  const { id } = await begun.json();
  await page.goto(`${address}/boards/${id}?at=headers`);
  await page.getByRole('application').focus();
  for (let press = 0; press < 3; press += 1) await page.keyboard.press('PageDown');
  await page.getByText(/^Still open/).waitFor();
}

/** A machine begun from a settings report, with what was looked at so far. */
async function describe() {
  const ask = async (method, path, body) => {
    const headers = { 'content-type': 'application/json', origin: address };
    return (
      await fetch(`${address}/api${path}`, { method, headers, ...(body && { body: JSON.stringify(body) }) })
    ).json();
  };
  const text = await readFile('catalogue/demo/drawer/plover/plover-settings.txt', 'utf8');
  const { stored } = await ask('POST', '/descriptions', { from: 'report', text });
  const { id, version, description } = stored;
  const answers = {
    ...description.answers,
    name: 'Sanderling', place: 'Saltmarsh Tool Library', kinematics: 'moving-bed', 'plate.width': 300, 'plate.depth': 220,
    'beyond.left': 4, 'beyond.right': 12, 'beyond.front': 0, 'beyond.back': 8, height: 320, 'end.x': 'min', 'end.y': 'max',
    'x.kind': 'belt', 'x.pitch': 2, 'x.teeth': 16, 'z.kind': 'screw', 'z.lead': 8, 'hotend.heater': 'cartridge-24-40',
    'hotend.sensor': null, probe: 'heron', 'mount.side': 'left', 'mount.side_mm': 38, 'mount.face': 'front', 'mount.face_mm': 9,
    'supply.volts': 24, board: 'fenwick-f8 2',
  }; // prettier-ignore
  await ask('PUT', `/descriptions/${id}`, { version, description: { ...description, answers } });
  await page.goto(`${address}/describe/${id}?at=xy`);
  await page.getByText('the report says 80 steps/mm').waitFor();
}

/** A phone as it is held in a workshop. */
const PHONE = { width: 390, height: 800 };
const DESK = { width: 1280, height: 800 };

async function shoot(name, path) {
  await page.setViewportSize(name === 'phone' ? PHONE : DESK);
  await page.goto(address + path);
  await page.waitForLoadState('networkidle');
  if (name === 'bring-up') await bringUp();
  if (name === 'first-power') await firstPower();
  if (name === 'calibrate-map' || name === 'calibrate-pid') await measure();
  if (name === 'calibrate-offset') await measure('next step 0.05 mm');
  if (name === 'first-layer') await measure();
  if (name === 'fleet') await fleet();
  if (name === 'describe') await describe();
  if (name === 'board') await board();
  if (name === 'fit') await fit();
  // The tail of the job is computed away from the interface.
  if (path.startsWith('/machines'))
    await page.getByRole('link', { name: /^Wiring.*done|^Wiring.*nothing/ }).waitFor();
  await page.getByText('still checking').waitFor({ state: 'hidden' });
  await page.evaluate(() => document.fonts.ready);
  await page.screenshot({ path: `${folder}/${name}.png` });
  // A bench that is left switched on is told of on the next page.
  if (await button('Switch the power off').isVisible()) await button('Switch the power off').click();
}

if (only === undefined) await prepare();
for (const [name, path] of Object.entries(VIEWS))
  if (only === undefined || only === name) await shoot(name, path);
await browser.close();
