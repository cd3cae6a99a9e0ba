// Takes the pictures for docs/screenshots from a running demo: builds and flashes Plover, then visits each view.
// node scripts/screenshots.mjs [address] [folder]
import { chromium } from '@playwright/test';

const [address = 'http://127.0.0.1:4620', folder = 'docs/screenshots'] = process.argv.slice(2);
const VIEWS = {
  survey: '/machines/plover/survey?at=tail',
  'which-board': '/machines/plover/survey?at=board',
  'present-settings': '/machines/plover/survey?at=report',
  wiring: '/machines/plover/wiring?at=bench&lead=hotend-fan',
  'swap-sheet': '/machines/plover/wiring?at=sheet',
  additions: '/machines/bittern/wiring?at=additions',
  calibrate: '/machines/plover/calibrate',
  settings: '/machines/plover/settings?part=x&key=steps.x',
  'bed-plan': '/machines/plover/settings?view=plan',
  directions: '/machines/plover/settings?view=directions',
  files: '/machines/plover/settings?view=files&file=option_homing.h',
  build: '/machines/plover/build',
  flash: '/machines/plover/flash',
  'bring-up': '/machines/plover/bring-up',
  logbook: '/machines/plover/logbook',
  shelf: '/',
};

const browser = await chromium.launch({
  executablePath: process.env.CHROMIUM ?? '/usr/bin/chromium-headless-shell',
  args: ['--no-sandbox', '--disable-background-networking'],
});
const context = await browser.newContext({ viewport: { width: 1280, height: 800 }, reducedMotion: 'reduce' });
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
    .waitFor({ timeout: 90_000 });
  await page.goto(`${address}/machines/plover/flash`);
  await button('Write the card').click();
  await page.getByText('The card is in the slot').waitFor();
  await button('Switch the power on').click();
  await slip('The board took the image.').waitFor();
}

async function bringUp() {
  await button('Switch the power on').click();
  await page.getByLabel('Identity').waitFor();
  await page.getByLabel('Speed of the bench').selectOption('25');
  for (const title of [
    'The right image runs',
    'Stored settings are fresh',
    'Temperatures plausible cold',
    'It homes',
  ]) {
    await slip(title).getByRole('button', { name: /^Test/ }).click();
    await slip(title).getByText('Proven', { exact: true }).waitFor({ timeout: 30_000 });
  }
  await page.getByRole('textbox', { name: 'Ask the board' }).fill('M105');
  await page.keyboard.press('Enter');
  await page.getByText('body=hotend').first().waitFor();
}

async function shoot(name, path) {
  await page.goto(address + path);
  await page.waitForLoadState('networkidle');
  if (name === 'bring-up') await bringUp();
  if (name === 'bed-plan') {
    await button('Try homing').click();
    await page.getByText('Z met its probe').waitFor();
  }
  if (name === 'directions') {
    await page.getByLabel('X by +10 mm').selectOption('-x');
    await page.getByLabel('Y by +10 mm').selectOption('+y');
  }
  if (name === 'files')
    await page.getByLabel('Held against').selectOption({ label: 'the machine before this job' });
  if (name === 'which-board')
    await page.getByRole('textbox', { name: 'Printed on the board' }).fill('FENW1CK');
  // The tail of the job is computed away from the interface.
  if (path !== '/') await page.getByRole('link', { name: /^Wiring.*done|^Wiring.*nothing/ }).waitFor();
  await page.evaluate(() => document.fonts.ready);
  await page.screenshot({ path: `${folder}/${name}.png` });
}

await prepare();
for (const [name, path] of Object.entries(VIEWS)) await shoot(name, path);
await page.evaluate(() => localStorage.setItem('mantine-color-scheme-value', 'dark'));
await shoot('lamp-off', '/machines/dunlin/settings?part=z');
await browser.close();
