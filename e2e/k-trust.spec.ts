import { expect, type Page, test } from './test';
import { ask, button, plate, slip, station } from './ownMachines';

test.describe.configure({ mode: 'serial' });

const banner = (page: Page) => page.getByRole('status').filter({ hasText: 'The server does not answer' });
const tape = (page: Page) => page.getByRole('region', { name: 'Tape' });
const stored = async (page: Page, id: string) =>
  (await (await page.request.get(`/api/machines/${id}`)).json()) as {
    version: number;
    machine: { settings: Record<string, { value: unknown }>; note?: string };
  };
/** Opens the top speed of an axis and waits until all of the page is there. */
const openTopSpeed = async (page: Page, id: string, axis: string) => {
  await page.goto(`/machines/${id}/settings?part=${axis}&key=speed.${axis}`);
  await expect(page.getByRole('textbox', { name: 'Value of your own' })).toBeVisible();
  await page.waitForLoadState('networkidle');
};
const setTopSpeed = async (page: Page, value: string) => {
  await page.getByRole('textbox', { name: 'Value of your own' }).fill(value);
  await page.getByRole('textbox', { name: 'Because' }).first().fill('tried by hand');
  await button(page, 'Use this value').click();
};

test.describe('the server gone is a state', () => {
  test('what is on the screen stays, edits wait and are sent, and nothing has to be loaded anew', async ({
    page,
    server,
  }) => {
    await openTopSpeed(page, 'dunlin', 'x');
    await server.kill();
    await setTopSpeed(page, '111');
    await expect(banner(page)).toContainText('One change waits here');
    await setTopSpeed(page, '112');
    await expect(banner(page)).toContainText('2 changes wait here');
    // Going to another station and back keeps everything.
    await station(page, 'Wiring').click();
    await station(page, 'Settings').click();
    await expect(banner(page)).toContainText('2 changes wait here');
    await server.start();
    await expect(banner(page)).toHaveCount(0);
    await expect
      .poll(async () => (await stored(page, 'dunlin')).machine.settings['speed.x']?.value)
      .toBe(112);
  });

  test('a tick that waits is not called done, and is sent once', async ({ page }) => {
    await page.goto('/machines/plover/calibrate');
    const tick = page.getByRole('checkbox').first();
    await expect(tick).toBeVisible();
    await page.waitForLoadState('networkidle');
    await page.route('**/api/**', (route) => route.abort());
    await tick.click();
    await expect(tape(page)).toContainText('Waits for the server: Done:');
    await expect(banner(page)).toContainText('One change waits here');
    const answers: number[] = [];
    page.on('response', (reply) => {
      if (reply.request().method() === 'PUT') answers.push(reply.status());
    });
    await page.unroute('**/api/**');
    await expect(banner(page)).toHaveCount(0);
    await expect.poll(() => answers.length).toBe(1);
    await page.waitForLoadState('networkidle');
    await page.reload();
    await expect(page.getByRole('checkbox').first()).toBeChecked();
    expect(answers).toEqual([200]);
  });

  test('edits that wait outlive a reload of the page', async ({ page }) => {
    await openTopSpeed(page, 'dunlin', 'y');
    await page.route('**/api/**', (route) => route.abort());
    await setTopSpeed(page, '113');
    await expect(banner(page)).toContainText('One change waits here');
    await page.reload();
    await expect(page.getByRole('heading', { name: 'The server does not answer' })).toBeVisible();
    expect((await stored(page, 'dunlin')).machine.settings['speed.y']).toBeUndefined();
    await page.unroute('**/api/**');
    await expect(page.getByRole('heading', { name: 'Dunlin', exact: true })).toBeVisible();
    await expect
      .poll(async () => (await stored(page, 'dunlin')).machine.settings['speed.y']?.value)
      .toBe(113);
  });

  test('an edit that waited and meets another window’s is shown, not pushed over it', async ({ page }) => {
    await openTopSpeed(page, 'bittern', 'x');
    await page.route('**/api/**', (route) => route.abort());
    await setTopSpeed(page, '114');
    await expect(banner(page)).toBeVisible();
    const { machine, version } = await stored(page, 'bittern');
    await page.request.put(`/api/machines/bittern`, {
      data: { version, machine: { ...machine, note: 'written elsewhere' }, label: 'Note' },
    });
    await page.unroute('**/api/**');
    const dialog = page.getByRole('dialog', { name: 'Changed elsewhere since you opened it' });
    await expect(dialog).toContainText('Note');
    await dialog.getByRole('button', { name: 'Keep both' }).click();
    await expect
      .poll(async () => (await stored(page, 'bittern')).machine)
      .toMatchObject({
        note: 'written elsewhere',
        settings: { 'speed.x': { value: 114 } },
      });
  });

  test('the bench goes on, its stop stays in reach, and what the board stores is kept when it is back', async ({
    page,
    server,
  }) => {
    await page.goto('/machines/bittern/build');
    await button(page, 'Build').click();
    await expect(page.getByRole('heading', { name: 'Built from the settings as they are' })).toBeVisible({
      timeout: 180_000,
    });
    // A part of the station that was still to come when the server went.
    await page.route('**/assets/Curves-*', (route) => route.abort());
    await page.goto('/machines/bittern/flash');
    await button(page, 'Write the card').click();
    await expect(page.getByText('The card is in the slot, with')).toBeVisible();
    await button(page, 'Switch the power on').click();
    await expect(slip(page, 'The board took the image.')).toBeVisible();
    await station(page, 'Bring-up').click();
    await expect(page.getByLabel('Identity')).toContainText('Bittern');
    const before = (await (await page.request.get(`/api/machines/bittern/board`)).json()) as {
      store: string;
    };
    await server.kill();
    await ask(page, 'M92 X91');
    await ask(page, 'M500');
    await expect(page.getByRole('main')).toContainText('This picture could not be loaded.');
    await ask(page, 'G28');
    await expect(plate(page)).toContainText('homing');
    await expect(banner(page)).toContainText('The virtual bench goes on in this window, and Stop works.');
    await button(page, 'Stop').click();
    await expect(page.getByRole('alert').filter({ hasText: 'Stopped: asked by the host' })).toBeVisible();
    await server.start();
    await expect(banner(page)).toHaveCount(0);
    await expect(page.getByLabel('Identity')).toContainText('Bittern');
    await expect
      .poll(
        async () =>
          (
            (await (await page.request.get(`/api/machines/bittern/board`)).json()) as {
              store: string;
            }
          ).store,
      )
      .not.toBe(before.store);
  });

  test('without the server the power stays off, in words', async ({ page }) => {
    await page.goto('/machines/bittern/bring-up');
    await expect(button(page, 'Switch the power on')).toBeVisible();
    await page.route('**/api/**', (route) => route.abort());
    await button(page, 'Switch the power on').click();
    await expect(tape(page)).toContainText('The power stays off: The server does not answer');
    await expect(button(page, 'Switch the power on')).toBeEnabled();
  });
});

test('a photo that is removed can be put back, or forgotten at once', async ({ page }) => {
  await page.goto('/machines/bittern/survey?at=photos');
  const picture = Buffer.from(
    'iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mNk+M9QDwADhgGAWjR9awAAAABJRU5ErkJggg==',
    'base64',
  );
  await page
    .locator('input[type=file][aria-label="Photos"]')
    .setInputFiles({ name: 'left side.png', mimeType: 'image/png', buffer: picture });
  const shown = page.getByRole('img', { name: /^left side/ });
  await expect(shown).toBeVisible();
  await button(page, 'Remove the photo').click();
  await expect(shown).toHaveCount(0);
  await expect(page.getByText('“left side” is removed. It can be put back until')).toBeVisible();
  await button(page, 'Put it back').click();
  await expect(shown).toBeVisible();
  await button(page, 'Remove the photo').click();
  await button(page, 'Forget it now').click();
  await expect(page.getByText('No photo yet.')).toBeVisible();
  const photos = await page.request.post(`/api/machines/bittern/photos/1/back`);
  expect(photos.status()).toBe(404);
});

test('no view breaks the content policy', async ({ page }) => {
  const refused: string[] = [];
  page.on('console', (message) => {
    if (/content security policy/i.test(message.text())) refused.push(message.text());
  });
  for (const path of [
    '/',
    ...['survey', 'wiring', 'settings?view=plan', 'build', 'flash', 'bring-up', 'calibrate', 'logbook'].map(
      (at) => `/machines/plover/${at}`,
    ),
  ]) {
    await page.goto(path);
    await expect(page.getByRole('heading', { level: 1 })).toHaveText(/Plover|Jolly Cog/);
    await page.waitForLoadState('networkidle');
  }
  await page.keyboard.press('/');
  await expect(page.getByRole('dialog')).toBeVisible();
  expect(refused).toEqual([]);
  const policy = (await page.request.get('/')).headers()['content-security-policy'];
  expect(policy).toMatch(/style-src 'self' 'nonce-[\w+/=]+'/);
  expect(policy).not.toContain('unsafe-inline');
});
