import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { expect, type Page, test } from './test';

test.describe.configure({ mode: 'serial' });

const catalogue = join(import.meta.dirname, '../catalogue/demo');
const fact = (page: Page, label: string) => page.getByRole('textbox', { name: label, exact: true });
const enter = async (page: Page, label: string, value: string) => {
  await fact(page, label).fill(value);
  await fact(page, label).press('Enter');
};

test('a second window is told that the machine was changed, and shows the newer one', async ({ context }) => {
  const [first, second] = [await context.newPage(), await context.newPage()];
  for (const page of [first, second]) await page.goto('/machines/dunlin/settings?part=y');
  await fact(second, 'Top speed').waitFor();
  await enter(first, 'Room in the frame', '188');
  await expect(first.getByRole('complementary', { name: 'Docket' })).not.toContainText('How far can Y go');
  await enter(second, 'Top speed', '140');
  const dialog = second.getByRole('dialog', { name: 'Changed elsewhere since you opened it' });
  await expect(dialog).toContainText('Room in the frame');
  await dialog.getByRole('button', { name: 'Let mine go' }).click();
  await expect(fact(second, 'Room in the frame')).toHaveValue('188');
  await enter(second, 'Top speed', '141');
  await expect(second.getByRole('button', { name: /Y top speed/ })).toContainText('141');
});

test('a number that makes no sense is refused beside its field, and nothing is saved', async ({ page }) => {
  await page.goto('/machines/dunlin/settings?part=x');
  await fact(page, 'Pulley').fill('lots');
  await fact(page, 'Pulley').press('Enter');
  await expect(page.getByText('“lots” is no number of teeth')).toBeVisible();
  await fact(page, 'Pulley').fill('2');
  await fact(page, 'Pulley').press('Enter');
  await expect(page.getByText('must be greater than or equal to 5')).toBeVisible();
  await page.reload();
  await expect(fact(page, 'Pulley')).toHaveValue('16');
});

test('a malformed machine file is refused with its line; a good one is added', async ({ page }) => {
  await page.goto('/');
  const good = readFileSync(join(catalogue, 'dunlin.yaml'), 'utf8')
    .replace('id: dunlin', 'id: knot')
    .replace('name: Dunlin', 'name: Knot');
  const upload = (text: string) =>
    page
      .locator('input[type=file]')
      .setInputFiles({ name: 'knot.yaml', mimeType: 'text/yaml', buffer: Buffer.from(text) });
  await upload(good.replace('volts_v: 24', 'volts_v: plenty'));
  await expect(page.getByRole('alert')).toContainText(
    /knot\.yaml: line 8, column \d+: "supply\.volts_v" must be a number/,
  );
  await upload(good.replace('kit: { id: lantern', 'kit: { id: candle'));
  await expect(page.getByRole('alert')).toContainText('no kit "candle"');
  await upload(good);
  await expect(page.getByRole('heading', { name: 'Knot' })).toBeVisible();
});

test('a build goes on while the page is loaded again', async ({ page }) => {
  await page.goto('/machines/knot/build');
  await page.getByRole('button', { name: 'Build', exact: true }).click();
  await expect(page.getByRole('heading', { name: 'Building' })).toBeVisible();
  await page.reload();
  await expect(page.getByRole('heading', { name: 'Built from the settings as they are' })).toBeVisible({
    timeout: 180_000,
  });
});

test('a card of the wrong kind is refused with the reason; the link has one holder', async ({ context }) => {
  const page = await context.newPage();
  await page.goto('/machines/knot/survey?at=way-back');
  const waive = page.getByRole('button', { name: 'Go on without a way back' });
  await expect(waive).toBeDisabled();
  await page
    .getByRole('textbox', { name: 'Why it goes on without one' })
    .fill('the board is new and came empty');
  await waive.click();
  await expect(page.getByText('the board is new and came empty')).toBeVisible();
  await page.goto('/machines/knot/flash');
  await page.getByLabel('Card', { exact: true }).selectOption('64 GB, exFAT');
  await page.getByRole('button', { name: 'Write the card' }).click();
  await page.getByRole('button', { name: 'Switch the power on' }).click();
  const docket = page.getByRole('complementary', { name: 'Docket' });
  await expect(docket).toContainText('The bootloader reads FAT32 only; this card is exFAT.');
  await page.getByRole('button', { name: 'Switch the power off' }).click();
  await page.getByLabel('Card', { exact: true }).selectOption('8 GB, FAT32');
  await page.getByRole('button', { name: 'Write the card' }).click();
  await expect(page.getByText('The card is in the slot, with SEDGE.BIN on it.')).toBeVisible();

  // Power from Bring-up passes the bootloader too.
  await page
    .getByRole('navigation', { name: 'Stations' })
    .getByRole('link', { name: /^Bring-up/ })
    .click();
  await page
    .getByRole('button', { name: 'Switch the power off' })
    .or(page.getByRole('button', { name: 'Switch the power on' }))
    .waitFor();
  await page.getByRole('button', { name: 'Switch the power on' }).click();
  await expect(page.getByLabel('Identity')).toContainText('Knot');

  const other = await context.newPage();
  await other.goto('/machines/knot/bring-up');
  await other.getByRole('button', { name: 'Switch the power on' }).click();
  await expect(
    other.getByText('The link is held by another window of Jolly Cog or by a tool.'),
  ).toBeVisible();
  await page.close();
  // The browser lets go of the link a moment after the window is gone.
  await expect(async () => {
    await other.getByRole('button', { name: 'Switch the power on' }).click();
    await expect(other.getByLabel('Identity')).toContainText('Knot');
  }).toPass();
});
