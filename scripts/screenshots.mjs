// Takes the pictures for docs/screenshots from a running demo: node scripts/screenshots.mjs [address] [folder] [dark]
import { chromium } from '@playwright/test';

const [address = 'http://127.0.0.1:4620', folder = 'docs/screenshots', scheme = 'light'] =
  process.argv.slice(2);
const VIEWS = {
  shelf: '/',
  settings: '/machines/plover/settings?part=x&key=steps.x',
  files: '/machines/plover/settings?part=probe&key=probe.offset.x&view=files',
  build: '/machines/plover/build',
  flash: '/machines/plover/flash',
  'bring-up': '/machines/plover/bring-up',
  logbook: '/machines/plover/logbook',
};

const browser = await chromium.launch({
  executablePath: process.env.CHROMIUM ?? '/usr/bin/chromium',
  args: ['--no-sandbox', '--disable-background-networking'],
});
const context = await browser.newContext({ viewport: { width: 1280, height: 800 }, reducedMotion: 'reduce' });
await context.addInitScript((value) => localStorage.setItem('mantine-color-scheme-value', value), scheme);
const page = await context.newPage();
page.on('pageerror', (error) => console.error('page error:', error.message));
for (const [name, path] of Object.entries(VIEWS)) {
  await page.goto(address + path);
  await page.waitForLoadState('networkidle');
  if (name === 'bring-up') {
    const on = page.getByRole('button', { name: 'Switch the power on' });
    if (await on.isEnabled()) {
      await on.click();
      await page.getByLabel('Identity').waitFor();
    }
  }
  await page.evaluate(() => document.fonts.ready);
  await page.screenshot({ path: `${folder}/${name}.png` });
}
await browser.close();
