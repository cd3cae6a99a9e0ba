import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { expectAccessible } from './accessible';
import { button, call, docket, station } from './ownMachines';
import { expect, type Page, test } from './test';

const leaf = (page: Page, name: string) =>
  page
    .getByRole('navigation', { name: 'Pages' })
    .getByRole('button', { name: new RegExp(`^${name}`) })
    .click();
const fill = async (page: Page, label: string, text: string) => {
  const field = page.getByLabel(label, { exact: true });
  await field.fill(text);
  await field.press('Enter');
};
const pick = (page: Page, label: string, words: string) =>
  page.getByLabel(label, { exact: true }).selectOption({ label: words });
const begin = async (page: Page) => {
  await page.goto('/');
  await button(page, 'Describe a machine').click();
  await expect(page.getByLabel('What you call it', { exact: true })).toBeVisible();
};

test.describe.configure({ mode: 'serial' });
test.describe('your own machine, from nothing', () => {
  test('looked at and answered by mouse: on the shelf, with what is not known as questions, to its first image', async ({
    page,
  }) => {
    await begin(page);
    await fill(page, 'What you call it', 'Knot');
    await fill(page, 'Where it stands', 'Cellar');
    await leaf(page, 'What moves');
    await page.getByRole('radio', { name: /the plate slides/ }).check();
    await leaf(page, 'Plate and travel');
    await fill(page, 'Plate, left to right', '30 cm');
    await fill(page, 'Plate, front to back', '200,5');
    await fill(page, 'Nozzle goes past the left edge', '4');
    await fill(page, 'Nozzle goes past the right edge', '0,5 in');
    await fill(page, 'Nozzle goes past the front edge', 'much');
    await expect(page.getByText('“much” is no number of mm')).toBeVisible();
    await fill(page, 'Nozzle goes past the front edge', '3');
    await fill(page, 'Nozzle goes past the back edge', '7');
    await fill(page, 'From the nozzle on the plate to its highest place', '310');
    await expect(page.getByRole('img', { name: /from above/ })).toContainText('300 × 200.5 mm');
    await leaf(page, 'Ends and switches');
    await pick(page, 'X: its switch is met', 'at the left');
    await page.getByLabel('X: kind of switch', { exact: true }).selectOption({ index: 1 });
    await pick(page, 'Y: its switch is met', 'with the nozzle at the back of the plate');
    await page.getByLabel('Y: kind of switch', { exact: true }).selectOption({ index: 1 });
    await pick(page, 'Z: its switch is met', 'with the nozzle on the plate');
    await page.getByLabel('Z: kind of switch', { exact: true }).selectOption({ index: 1 });
    await leaf(page, 'X and Y');
    await pick(page, 'X is moved by', 'a belt');
    await fill(page, 'X belt, from tooth to tooth', '3 mm');
    await fill(page, 'X pulley, teeth', '18');
    await pick(page, 'Y is moved by', 'a screw');
    await fill(page, 'Y screw, rise in one turn', '12');
    await leaf(page, 'Z ');
    await pick(page, 'Z is moved by', 'a screw');
    await fill(page, 'Z screw, rise in one turn', '4');
    await leaf(page, 'Extruder');
    await fill(page, 'Drive roller of the extruder, diameter', '11,2');
    await leaf(page, 'Motors and drivers');
    for (const axis of ['X', 'Y', 'Z', 'extruder'])
      await page.getByLabel(`Motor of ${axis}`, { exact: true }).selectOption({ index: 1 });
    await pick(page, 'Drivers', 'Hush Plain');
    await pick(page, 'Microsteps', '16');
    // Begun, and left: after a reload everything is there.
    await page.reload();
    await expect(page.getByLabel('Microsteps', { exact: true })).toHaveValue('16');

    await leaf(page, 'Hot end');
    await button(page, 'It is another: describe it').first().click();
    const form = page.getByRole('group', { name: /Describe it: a heater/ });
    await form.getByLabel('Its name').fill('Brazier cartridge');
    await form.getByLabel('Made for, V').fill('24V');
    await form.getByLabel('Stands at most, °C').fill('285');
    await form.getByLabel(/No label/).fill('14,4 ohm');
    await form.getByRole('button', { name: 'Its watts: 40 W' }).click();
    await form.getByRole('button', { name: 'Add this part' }).click();
    await expect(page.getByLabel('Hot end: its heater', { exact: true })).toHaveValue('brazier-cartridge');
    await pick(page, 'Hot end: its sensor', 'T100-A thermistor');
    await leaf(page, 'Heated bed');
    await pick(page, 'Bed: its heater', 'there is none');
    await leaf(page, 'Bed probe');
    await pick(page, 'Probe that finds the plate', 'there is none');
    await leaf(page, 'Supply and board');
    await fill(page, 'Supply, volts', '24V');
    await fill(page, 'Supply, amperes at most', '12');
    await pick(page, 'Controller board', 'Alder A32, revision 1.1');
    await page.getByRole('radio', { name: 'yes' }).check();
    await expectAccessible(page);
    await button(page, 'Put it on the shelf').click();

    await expect(page.getByText('Knot is on the shelf. What did you come for?')).toBeVisible();
    await button(page, 'Only the record').click();
    await station(page, 'Wiring').click();
    await button(page, 'Propose the cheapest places').click();
    await expect(docket(page)).toContainText('Nobody has compared the leads');
    await docket(page).getByRole('button', { name: 'I have followed every lead' }).click();
    await docket(page).getByRole('button', { name: 'Make the change' }).click();
    await expect(docket(page)).not.toContainText('Nobody has compared the leads');
    await station(page, 'Settings').click();
    await expect(docket(page)).toContainText(
      'Not known yet of X, Y, Z and the extruder: which way the shaft turns',
    );
    await expect(docket(page)).toContainText('Not known yet: Fan that cools the print.');
    await station(page, 'Build').click();
    await button(page, 'Build').click();
    await expect(page.getByText(/Built/).first()).toBeVisible();
  });

  test('from a settings report: trains are ranked, taken or counted, and what was measured comes along', async ({
    page,
  }) => {
    const text = readFileSync(
      join(import.meta.dirname, '../catalogue/demo/drawer/plover/plover-settings.txt'),
      'utf8',
    );
    await page.goto('/');
    await button(page, 'From a settings report').click();
    await page.getByLabel('Settings report of the old board').fill(text);
    await button(page, 'Begin from this report').click();
    await leaf(page, 'X and Y');
    const y = page.getByRole('region', { name: 'Y by the report' });
    await expect(y).toContainText('the report says 80 steps/mm');
    await expect(y).toContainText('Count the teeth');
    await y.getByRole('button', { name: /It is: belt of 2 mm, 20 teeth, 200 steps, 16 microsteps/ }).click();
    await expect(page.getByLabel('Y pulley, teeth', { exact: true })).toHaveValue('20');
    await expect(page.getByLabel('Y: top speed that is known to go well', { exact: true })).toHaveValue(
      '160',
    );
    await expect(page.getByText(/From the settings report, line 8/).first()).toBeVisible();
  });

  test('by keyboard alone: begun, answered, and left as begun on the shelf', async ({ page }) => {
    await page.goto('/');
    await button(page, 'Describe a machine').focus();
    await page.keyboard.press('Enter');
    const name = page.getByLabel('What you call it', { exact: true });
    await name.focus();
    await page.keyboard.type('Reef');
    await page.keyboard.press('Enter');
    await page.keyboard.press('Tab');
    await page.keyboard.type('Attic');
    await page.keyboard.press('Enter');
    await button(page, 'Next: What moves').focus();
    await page.keyboard.press('Enter');
    await expect(page.getByRole('heading', { name: 'What moves' })).toBeFocused();
    await page.keyboard.press('Tab');
    await page.keyboard.press('Space');
    await expect(page.getByRole('radio', { name: /the plate slides/ })).toBeChecked();
    await page.getByRole('link', { name: 'To the shelf' }).focus();
    await page.keyboard.press('Enter');
    await expect(page.getByRole('region', { name: 'Being described' })).toContainText('Reef');
    await expectAccessible(page);
  });

  test('a machine is copied, archived, deleted and put back', async ({ page }) => {
    await page.goto('/');
    await button(page, 'What to do with Dunlin').click();
    await page.getByRole('menuitem', { name: 'Copy it' }).click();
    await page.getByLabel('Name of the copy').fill('Stint');
    await button(page, 'Copy Dunlin').click();
    await expect(page.getByRole('link', { name: 'Stint' }).first()).toBeVisible();
    await button(page, 'What to do with Stint').click();
    await page.getByRole('menuitem', { name: /Delete it/ }).click();
    await button(page, 'Delete Stint').click();
    await expect(page.getByRole('link', { name: 'Stint' })).toHaveCount(0);
    await page.getByText(/Not on the shelf: 1/).click();
    await button(page, 'Put Stint back').click();
    await expect(page.getByRole('link', { name: 'Stint' }).first()).toBeVisible();
    expect(await call(page, 'GET', '/archive')).toEqual({ status: 200, body: [] });
  });

  test('a machine with its history goes out as one file, and what it would do is told before it comes in', async ({
    page,
  }) => {
    await page.goto('/');
    const zip = await (await page.request.get('/api/machines/dunlin/archive')).body();
    const file = { name: 'dunlin.zip', mimeType: 'application/zip', buffer: zip };
    await page.getByLabel('Machine file').setInputFiles(file);
    const dialog = page.getByRole('dialog', { name: 'dunlin.zip' });
    await expect(dialog).toContainText('Dunlin stands here already, the same');
    await expect(button(page, 'Nothing to take in')).toBeDisabled();
    await dialog.getByRole('button', { name: 'Leave it' }).click();
    await call(page, 'POST', '/machines/dunlin/entries', { summary: 'Belt tightened' });
    await page.getByLabel('Machine file').setInputFiles(file);
    await page.getByLabel('What becomes of Dunlin').selectOption('another');
    await button(page, 'Take 1 in').click();
    await expect(dialog).toHaveCount(0);
    expect((await call(page, 'GET', '/machines/dunlin-2')).status).toBe(200);
    await page.getByLabel('Machine file').setInputFiles({ ...file, buffer: zip.subarray(0, 900) });
    await expect(page.getByRole('dialog')).toContainText('this archive is not taken');
  });
});
