import { goThrough } from './proving';
import { expect, type Page, test } from './test';

test.describe.configure({ mode: 'serial' });

const docket = (page: Page) => page.getByRole('complementary', { name: 'Docket' });
const slip = (page: Page, title: string) =>
  docket(page)
    .getByRole('listitem')
    .filter({ has: page.getByRole('heading', { name: title }) });
const station = (page: Page, name: string) =>
  page.getByRole('navigation', { name: 'Stations' }).getByRole('link', { name: new RegExp(`^${name}`) });
const part = (page: Page, name: string) =>
  page.getByRole('navigation', { name: 'Parts of the machine' }).getByRole('link', { name });

async function setFact(page: Page, label: string, value: string): Promise<void> {
  const field = page.getByRole('textbox', { name: label, exact: true });
  await field.fill(value);
  await field.press('Enter');
  await expect(page.getByLabel('Tape', { exact: true })).toContainText(value);
}

async function build(page: Page): Promise<void> {
  await page.getByRole('button', { name: 'Build', exact: true }).click();
}

test('from a changed plate and name to a proven machine and its logbook', async ({ page }) => {
  await page.goto('/');
  await page.getByRole('link', { name: 'Plover' }).first().click();
  await expect(station(page, 'Flash')).toHaveAccessibleName(/1 stopped/);
  await page.getByRole('link', { name: 'The way back' }).click();
  await page.getByRole('button', { name: 'From the drawer: plover-f8-maker.hex' }).click();
  await expect(page.getByRole('list', { name: 'Kept' })).toContainText('fits this board');
  await expect(station(page, 'Flash')).not.toHaveAccessibleName(/stopped/);
  await station(page, 'Settings').click();
  await part(page, 'Frame and plate').click();
  await setFact(page, 'Plate to, X', '228');
  await expect(page.getByRole('button', { name: /Plate to, X/ })).toContainText('228');
  await part(page, 'Name and link').click();
  await setFact(page, 'Name', 'Plover A32');

  await station(page, 'Build').click();
  await build(page);
  await expect(page.getByRole('heading', { name: 'Built from the settings as they are' })).toBeVisible({
    timeout: 180_000,
  });
  const flash = page.getByRole('meter', { name: 'Flash' });
  await expect(flash).toHaveAttribute('aria-valuetext', /^4\d,\d{3} of 86,016 bytes$/);
  await expect(page.getByRole('meter', { name: 'RAM' })).toBeVisible();
  const buildId = await page
    .locator('main')
    .getByText(/^[0-9a-f]{8}$/)
    .innerText();

  await station(page, 'Flash').click();
  await page.getByRole('button', { name: 'Write the card' }).click();
  await expect(page.getByText('The card is in the slot')).toBeVisible();
  await page.getByRole('button', { name: 'Switch the power on' }).click();
  await expect(slip(page, 'The board took the image.')).toContainText(buildId);

  await station(page, 'Bring-up').click();
  const identity = page.getByLabel('Identity');
  await expect(identity).toContainText('Plover A32');
  await expect(identity).toContainText(buildId);
  await expect(identity).toContainText('X 0.0 to 228.0');
  await page.getByLabel('Speed of the bench').selectOption('20 × faster');
  for (const title of ['The right image runs', 'Stored settings are fresh', 'Temperatures plausible cold']) {
    await slip(page, title).getByRole('button', { name: 'Test it' }).click();
    await expect(slip(page, title)).toContainText('Proven');
  }
  await goThrough(page, 'X switch reads both ways');
  const tape = page.getByLabel('Tape', { exact: true });
  await page.keyboard.press('t');
  await expect(tape).toContainText('switch x=closed');
  await expect(slip(page, 'X switch reads both ways')).toContainText('Proven');
  // Nothing homes before its motors and the probe are proven.
  await expect(slip(page, 'It homes')).toContainText('First: ');
  await expect(slip(page, 'It homes').getByRole('button', { name: 'Test it' })).toHaveCount(0);

  await station(page, 'Logbook').click();
  const main = page.getByRole('main');
  await expect(main).toContainText(`Built Plover A32, build ${buildId}`);
  await expect(main).toContainText(`Flashed Plover A32, build ${buildId}, from PLOV`);
  await expect(main).toContainText('X switch reads both ways: proven');
  await main.getByRole('button', { name: 'From which settings' }).first().click();
  await expect(
    main
      .getByRole('listitem')
      .filter({ has: page.getByText('bed.x.max', { exact: true }) })
      .first(),
  ).toContainText('228 mm');
});

test('a file name used before is refused by the board and explained', async ({ page }) => {
  await page.goto('/machines/plover/flash');
  const attempts = page.getByRole('region', { name: 'Attempts' }).getByRole('listitem');
  const used = (await attempts.last().locator('b').innerText()).trim();
  await page.getByRole('textbox', { name: 'File name on the card' }).fill(used);
  await page.getByRole('button', { name: 'Write the card' }).click();
  await page.getByRole('button', { name: 'Switch the power on' }).click();
  const refused = slip(page, 'The board did not take the file.');
  await expect(refused).toContainText('card.name-used');
  await expect(refused).toContainText(`took a file called ${used} before and ignores that name now`);
});

test('what the firmware would refuse stops the build; set aside, its error leads back to the setting', async ({
  page,
}) => {
  await page.goto('/machines/bittern/settings?part=x&key=speed.x');
  await page.getByRole('textbox', { name: 'Value of your own' }).fill('9000');
  await page.getByRole('textbox', { name: 'Because' }).fill('to see what happens');
  await page.getByRole('button', { name: 'Use this value' }).click();
  await expect(docket(page)).toContainText('motion.pulse-limit');
  await station(page, 'Build').click();
  await expect(page.getByRole('button', { name: 'Build', exact: true })).toBeDisabled();
  const stop = slip(page, 'X at 9000 mm/s needs more step pulses than Lantern can give.');
  await stop.getByRole('button', { name: 'Set it aside' }).click();
  await stop.getByRole('textbox', { name: 'Because' }).fill('to see what happens');
  await stop.getByRole('button', { name: 'Set it aside' }).click();
  await build(page);
  const failed = slip(page, 'The build failed.');
  await expect(failed).toContainText('needs more than 500000 steps a second', { timeout: 180_000 });
  await failed.getByRole('button', { name: 'Go to this setting' }).click();
  await expect(page).toHaveURL(/key=speed\.x/);
  await page.getByRole('button', { name: 'Let the facts decide', exact: true }).click();
  await expect(docket(page)).not.toContainText('motion.pulse-limit');
  await station(page, 'Build').click();
  await expect(failed).toContainText('The machine file has changed since: build again to see.');
});

test('a remedy is shown on the bench before it is made, and undone', async ({ page }) => {
  await page.goto('/machines/dunlin/settings?part=hotend&key=guard.hotend');
  await page.getByRole('switch', { name: 'on' }).press('Space');
  await page.getByRole('textbox', { name: 'Because' }).fill('false alarms');
  await page.getByRole('button', { name: 'Use this value' }).click();
  await slip(page, 'The thermal guard of the hot end is off.')
    .getByRole('button', { name: 'Switch the guard on' })
    .click();
  await expect(page.getByRole('group', { name: 'Change to be made' })).toBeVisible();
  await expect(page.getByRole('button', { name: /Hot end thermal guard/ })).toContainText('off on');
  await page.getByRole('button', { name: 'Make the change' }).click();
  await expect(docket(page)).not.toContainText('heat.guard-off');
  await page.keyboard.press('u');
  await expect(docket(page)).toContainText('heat.guard-off');
  await station(page, 'Build').click();
  await expect(page.getByRole('button', { name: 'Build', exact: true })).toBeDisabled();
  await page.keyboard.press('Shift+U');
  await expect(page.getByRole('button', { name: 'Build', exact: true })).toBeEnabled();
});

test('a build can be cancelled and says so', async ({ page }) => {
  // A speed that no build had before, which a dozen sources read: there is something to cancel.
  const { version, machine } = (await (await page.request.get('/api/machines/dunlin')).json()) as {
    version: number;
    machine: { settings: object };
  };
  const speed = { value: 100 + Math.round(Math.random() * 1e5) / 1e5, source: 'override', because: 'tried' };
  const settings = { ...machine.settings, 'speed.x': speed };
  await page.request.put('/api/machines/dunlin', { data: { version, machine: { ...machine, settings } } });
  await page.goto('/machines/dunlin/build');
  await build(page);
  await page.getByRole('button', { name: 'Cancel the build' }).click();
  await expect(slip(page, 'You cancelled the last build.')).toBeVisible();
  await expect(page.getByRole('heading', { name: 'No image yet' })).toBeVisible();
});

test('a moving machine is stopped by one key', async ({ page }) => {
  await page.goto('/machines/plover/bring-up');
  await page.getByRole('button', { name: 'Switch the power on' }).click();
  await expect(page.getByLabel('Identity')).toContainText('Plover');
  await page.getByRole('textbox', { name: 'Ask the board' }).fill('G28');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('region', { name: 'Machine and link' })).toContainText('homing');
  await page.locator('body').click({ position: { x: 640, y: 780 } });
  await page.keyboard.press('.');
  await expect(page.getByRole('alert').filter({ hasText: 'Stopped: asked by the host' })).toBeVisible();
});
