import { expect, type Locator, type Page, test } from './test';
import { expectAccessible, expectContrast } from './accessible';
import { goTo } from './goTo';

test.describe.configure({ mode: 'serial' });

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
  'what is measured and kept': {
    tools: '/machines/dunlin/calibrate',
    'a tool': '/machines/bittern/calibrate?tool=map',
    values: '/machines/bittern/logbook?view=values',
    'the time line': '/machines/bittern/logbook',
    'the card': '/machines/bittern/logbook?view=card',
    fleet: '/fleet',
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

for (const [place, screens] of Object.entries(SCREENS))
  test(`axe finds nothing on ${place}, lamp on and off`, async ({ page }) => {
    await page.goto('/');
    await page.waitForLoadState('networkidle');
    for (const [name, path] of Object.entries(screens))
      await test.step(name, async () => {
        await goTo(page, path);
        await expectAccessible(page);
        await page.evaluate(() => document.documentElement.setAttribute('data-mantine-color-scheme', 'dark'));
        await expectContrast(page);
        await page.evaluate(() =>
          document.documentElement.setAttribute('data-mantine-color-scheme', 'light'),
        );
      });
  });

/** The docket, and a slip in it by its title. */
function docketOf(page: Page) {
  const docket = page.getByRole('complementary', { name: 'Docket' });
  const slip = (title: string) =>
    docket.getByRole('listitem').filter({ has: page.getByRole('heading', { name: title }) });
  return { docket, slip };
}

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

/** The focus is on something, and not on the page behind everything. */
const isHeld = (page: Page) =>
  expect
    .poll(() =>
      page.evaluate(async () => {
        // A button that was switched off loses it with the next frame, and the one after that brings it on.
        for (let frames = 0; frames < 3; frames += 1)
          await new Promise((drawn) => void requestAnimationFrame(drawn));
        return document.activeElement !== document.body;
      }),
    )
    .toBe(true);

/** A keyboard that counts its presses; what is typed into a field counts as one. */
function counted(page: Page) {
  const keys = { presses: 0, press, type, tabTo };
  async function press(key: string): Promise<void> {
    keys.presses += 1;
    await page.keyboard.press(key);
  }
  async function type(text: string): Promise<void> {
    keys.presses += 1;
    await page.keyboard.type(text);
  }
  /** Presses tab until the thing has the focus: what tab does not reach, a keyboard cannot use. */
  async function tabTo(target: Locator): Promise<void> {
    await target.waitFor();
    // What had the focus may just have gone with its station: it goes on in the next frame, which nobody's finger outruns.
    if (keys.presses > 0) await isHeld(page);
    for (let tabs = 0; tabs < 60; tabs += 1) {
      if (await target.evaluate((element) => element === document.activeElement)) return;
      await press('Tab');
    }
    throw new Error(`tab never reached ${String(target)}`);
  }
  return keys;
}

test('the whole loop by keyboard alone, in fewer than 60 presses', async ({ page }) => {
  const { docket, slip } = docketOf(page);
  const keys = counted(page);
  const find = async (words: string) => {
    await keys.press('/');
    await page.getByRole('combobox', { name: 'Find anything' }).waitFor();
    await keys.type(words);
    await keys.press('Enter');
  };
  await page.goto('/');
  await keys.tabTo(page.getByRole('link', { name: 'Bittern' }).first());
  await keys.press('Enter');
  await page.getByRole('navigation', { name: 'Stations' }).waitFor();
  await expect(docket.getByText('heat.guard-off')).toHaveCount(0);

  await find('machine name');
  const own = page.getByRole('textbox', { name: 'Value of your own' });
  await expect(own).toBeFocused();
  await keys.press('Control+A');
  await keys.type('Bittern Nov');
  await keys.press('Tab');
  await keys.type('the display shows which image runs');
  await keys.tabTo(page.getByRole('button', { name: 'Use this value' }));
  await keys.press('Enter');
  await expect(page.getByRole('button', { name: /^Machine name/ })).toContainText('Bittern Nov');

  await find('plate to, x');
  await expect(page.getByRole('textbox', { name: 'Plate to, X', exact: true })).toBeFocused();
  await keys.press('Control+A');
  await keys.type('275,5 mm');
  await keys.press('Enter');
  await expect(page.getByRole('button', { name: /^Plate to, X/ })).toContainText('275.5');
  await keys.press('Escape');
  await keys.press('Escape');
  await expect(page.getByRole('textbox', { name: 'Plate to, X', exact: true })).toHaveValue('275.5');

  await find('build');
  await keys.tabTo(page.getByRole('button', { name: 'Build', exact: true }));
  await keys.press('Enter');
  await expect(page.getByRole('heading', { name: 'Built from the settings as they are' })).toBeVisible({
    timeout: 180_000,
  });

  await keys.press('5');
  await keys.tabTo(page.getByRole('button', { name: 'Write the card' }));
  await keys.press('Enter');
  await expect(page.getByText('The card is in the slot')).toBeVisible();
  await isHeld(page);
  await keys.tabTo(page.getByRole('button', { name: 'Switch the power on' }));
  await keys.press('Enter');
  await expect(slip('The board took the image.')).toBeVisible();
  await isHeld(page);

  await keys.press('6');
  await expect(page.getByLabel('Identity')).toContainText('Bittern Nov');
  await expect(page.getByLabel('Identity')).toContainText('X 0.0 to 275.5');
  const test = slip('The right image runs').getByRole('button', { name: 'Test it' });
  await test.waitFor();
  // From elsewhere, enter runs nothing: it brings the focus to what it would run.
  await page.getByRole('heading', { name: 'Your hands on the bench' }).focus();
  await keys.press('Enter');
  await expect(test).toBeFocused();
  await expect(slip('The right image runs')).not.toContainText('Proven');
  await keys.press('Enter');
  await expect(slip('The right image runs')).toContainText('Proven', { timeout: 120_000 });
  await isHeld(page);

  await keys.press('8');
  await expect(page.getByRole('main')).toContainText('Flashed Bittern Nov');
  expect(keys.presses).toBeLessThan(60);
});
