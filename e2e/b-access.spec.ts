import { expect, type Locator, type Page, test } from './test';
import { expectAccessible, expectContrast } from './accessible';

/** Every screen that is not reached by the tests below, by where it is. */
const SCREENS = {
  'shelf and survey': {
    shelf: '/',
    'the tail': '/machines/plover/survey?at=tail',
    'the job': '/machines/plover/survey?at=job',
    'which board': '/machines/plover/survey?at=board',
    'present settings': '/machines/plover/survey?at=report',
    'the way back': '/machines/plover/survey?at=way-back',
    'what goes': '/machines/plover/survey?at=losses',
    photos: '/machines/plover/survey?at=photos',
    'before you start': '/machines/plover/survey?at=ready',
    'no job': '/machines/dunlin/survey',
  },
  wiring: {
    leads: '/machines/plover/wiring?at=bench&lead=x-switch',
    'swap sheet': '/machines/plover/wiring?at=sheet',
    electricity: '/machines/dunlin/wiring?at=electricity',
    'doubtful ports': '/machines/bittern/wiring?at=ports',
  },
  settings: {
    'an axis': '/machines/plover/settings?part=x&key=steps.x',
    'a tool': '/machines/plover/settings?part=probe&tool=probe-offset',
    'bed plan': '/machines/plover/settings?view=plan',
    'generated file': '/machines/plover/settings?part=e&view=files',
    slicer: '/machines/plover/settings?view=slicer',
    'machine file': '/machines/plover/settings?view=file',
    findings: '/machines/dunlin/settings?part=probe',
    directions: '/machines/bittern/settings?view=directions',
  },
  'the other stations': {
    build: '/machines/plover/build',
    flash: '/machines/plover/flash',
    'bring-up': '/machines/plover/bring-up',
    calibrate: '/machines/plover/calibrate',
    logbook: '/machines/plover/logbook',
    'a kept image back': '/machines/bittern/flash?route=back',
    'a drive': '/machines/dunlin/flash?route=drive',
    bootloader: '/machines/plover/flash?route=bootloader',
    'image files': '/machines/bittern/flash?route=files',
    'ready-made images': '/machines/bittern/flash?route=ready-made',
    'an address that leads nowhere': '/machines/none/settings',
  },
};

/** Goes somewhere as a link of the interface does, without loading the page anew. */
async function goTo(page: Page, path: string): Promise<void> {
  await page.evaluate((to) => {
    history.pushState(null, '', to);
    dispatchEvent(new PopStateEvent('popstate'));
  }, path);
  await page.waitForURL(`**${path}`);
}

for (const [place, screens] of Object.entries(SCREENS))
  test(`axe finds nothing on ${place}, lamp on and off`, async ({ page }) => {
    await page.goto('/');
    for (const [name, path] of Object.entries(screens))
      await test.step(name, async () => {
        await goTo(page, path);
        await page.getByRole('heading').first().waitFor();
        await page.waitForLoadState('networkidle');
        await expectAccessible(page);
        await page.evaluate(() => document.documentElement.setAttribute('data-mantine-color-scheme', 'dark'));
        await expectContrast(page);
        await page.evaluate(() =>
          document.documentElement.setAttribute('data-mantine-color-scheme', 'light'),
        );
      });
  });

test('axe finds nothing on palette, keys, tape and arm’s length', async ({ page }) => {
  await page.goto('/machines/plover/bring-up');
  await page
    .getByRole('complementary', { name: 'Docket' })
    .getByRole('heading', { name: 'It homes' })
    .waitFor();
  await page.keyboard.press('t');
  await expectAccessible(page);
  await page.keyboard.press('/');
  await page.getByRole('combobox', { name: 'Find anything' }).waitFor();
  await expectAccessible(page);
  await page.keyboard.press('Escape');
  await page.keyboard.press('?');
  await page.getByRole('dialog', { name: 'Keys' }).waitFor();
  await expectAccessible(page);
  await page.keyboard.press('Escape');
  await expect(page.getByRole('dialog')).toHaveCount(0);
  await page.keyboard.press('a');
  await expect(page.getByRole('heading', { name: 'The right image runs' }).last()).toBeVisible();
  await page.keyboard.press('Space');
  await expect(page.getByText(/^Step 2 of \d+/)).toBeVisible();
  await page.keyboard.press('Backspace');
  await expect(page.getByText(/^Step 1 of \d+/)).toBeVisible();
  await expectAccessible(page);
  await page.keyboard.press('Enter');
  await expect(page.getByRole('dialog')).toHaveCount(0);
});

/** Presses tab until the thing has the focus: what tab does not reach, a keyboard cannot use. */
async function tabTo(page: Page, target: Locator): Promise<void> {
  await target.waitFor();
  for (let presses = 0; presses < 150; presses += 1) {
    if (await target.evaluate((element) => element === document.activeElement)) return;
    await page.keyboard.press('Tab');
  }
  throw new Error(`tab never reached ${String(target)}`);
}

test('the whole loop by keyboard alone', async ({ page }) => {
  const docket = page.getByRole('complementary', { name: 'Docket' });
  const slip = (title: string) =>
    docket.getByRole('listitem').filter({ has: page.getByRole('heading', { name: title }) });
  await page.goto('/');
  await tabTo(page, page.getByRole('link', { name: 'Bittern' }).first());
  await page.keyboard.press('Enter');
  await page.getByRole('navigation', { name: 'Stations' }).waitFor();
  const guard = docket.getByText('heat.guard-off');
  await expect(guard).toHaveCount(0);

  await page.keyboard.press('/');
  await page.getByRole('combobox', { name: 'Find anything' }).waitFor();
  await page.keyboard.type('machine name');
  await page.keyboard.press('Enter');
  await tabTo(page, page.getByRole('textbox', { name: 'Value of your own' }));
  await page.keyboard.press('Control+A');
  await page.keyboard.type('Bittern Nov');
  await page.keyboard.press('Tab');
  await page.keyboard.type('the display shows which image runs');
  await tabTo(page, page.getByRole('button', { name: 'Use this value' }));
  await page.keyboard.press('Enter');
  await expect(page.getByRole('button', { name: /^Machine name/ })).toContainText('Bittern Nov');

  await tabTo(page, page.getByRole('link', { name: 'Frame and plate' }));
  await page.keyboard.press('Enter');
  await tabTo(page, page.getByRole('textbox', { name: 'Plate to, X', exact: true }));
  await page.keyboard.press('Control+A');
  await page.keyboard.type('275,5 mm');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('button', { name: /^Plate to, X/ })).toContainText('275.5');

  await tabTo(page, page.getByRole('link', { name: /^Build/ }));
  await page.keyboard.press('Enter');
  await tabTo(page, page.getByRole('button', { name: 'Build', exact: true }));
  await page.keyboard.press('Enter');
  await expect(page.getByRole('heading', { name: 'Built from the settings as they are' })).toBeVisible({
    timeout: 180_000,
  });

  await tabTo(page, page.getByRole('link', { name: /^Flash/ }));
  await page.keyboard.press('Enter');
  await tabTo(page, page.getByRole('button', { name: 'Write the card' }));
  await page.keyboard.press('Enter');
  await expect(page.getByText('The card is in the slot')).toBeVisible();
  await tabTo(page, page.getByRole('button', { name: 'Switch the power on' }));
  await page.keyboard.press('Enter');
  await expect(slip('The board took the image.')).toBeVisible();

  await tabTo(page, page.getByRole('link', { name: /^Bring-up/ }));
  await page.keyboard.press('Enter');
  await expect(page.getByLabel('Identity')).toContainText('Bittern Nov');
  await expect(page.getByLabel('Identity')).toContainText('X 0.0 to 275.5');
  await tabTo(page, page.getByLabel('Speed of the bench'));
  await page.keyboard.press('End');
  await expect(page.getByLabel('Speed of the bench')).toHaveValue('Infinity');
  await tabTo(page, slip('The right image runs').getByRole('button', { name: 'Test it' }));
  await page.keyboard.press('Enter');
  await expect(slip('The right image runs')).toContainText('Proven', { timeout: 120_000 });

  await tabTo(page, page.getByRole('link', { name: /^Logbook/ }));
  await page.keyboard.press('Enter');
  await expect(page.getByRole('main')).toContainText('Flashed Bittern Nov');
});
