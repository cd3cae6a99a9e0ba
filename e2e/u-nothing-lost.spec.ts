import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { expect, type Page, test } from './test';

test.describe.configure({ mode: 'serial' });

const drawer = join(import.meta.dirname, '../catalogue/demo/drawer/plover');
const undo = (page: Page) => page.getByRole('button', { name: 'Undo (u)' });
const fact = (page: Page, label: string) => page.getByRole('textbox', { name: label, exact: true });

/** Lets files go over the window, away from every place of its own. */
async function letGo(page: Page, files: readonly { name: string; type?: string; bytes: Uint8Array }[]) {
  await page.evaluate((list) => {
    const data = new DataTransfer();
    for (const { name, type, bytes } of list) data.items.add(new File([Uint8Array.from(bytes)], name, { type }));
    document.body.dispatchEvent(new DragEvent('dragover', { dataTransfer: data, bubbles: true, cancelable: true }));
    document.body.dispatchEvent(new DragEvent('drop', { dataTransfer: data, bubbles: true, cancelable: true }));
  }, files.map(({ name, type = '', bytes }) => ({ name, type, bytes: [...bytes] }))); // prettier-ignore
}
/** A picture of one colour, as the browser makes one. */
const picture = async (page: Page): Promise<Uint8Array> =>
  Uint8Array.from(
    await page.evaluate(async () => {
      const canvas = new OffscreenCanvas(60, 40);
      canvas.getContext('2d')?.fillRect(0, 0, 60, 40);
      return [...new Uint8Array(await (await canvas.convertToBlob({ type: 'image/png' })).arrayBuffer())];
    }),
  );

test('a window takes back what it did itself, and nothing of another', async ({ context }) => {
  const [mine, other] = [await context.newPage(), await context.newPage()];
  for (const page of [mine, other]) await page.goto('/machines/dunlin/settings?part=y');
  await fact(mine, 'Acceleration').fill('840');
  await fact(mine, 'Acceleration').press('Enter');
  await expect(undo(mine)).toHaveAttribute('aria-description', /840/);
  await other.reload();
  await expect(fact(other, 'Acceleration')).toHaveValue('840');
  await expect(undo(other)).toBeDisabled();
  await fact(other, 'Top speed').fill('133');
  await fact(other, 'Top speed').press('Enter');
  await expect(undo(other)).toHaveAttribute('aria-description', /133/);
  // What came after it, from elsewhere, stays.
  await undo(mine).click();
  await expect(mine.locator('[data-spoken]')).toContainText('Undone: Acceleration');
  await mine.reload();
  await expect(fact(mine, 'Top speed')).toHaveValue('133');
  await expect(fact(mine, 'Acceleration')).not.toHaveValue('840');
});

test('files that are let go anywhere find their place; what has none is said', async ({ page }) => {
  await page.goto('/machines/plover/wiring');
  await page.getByRole('heading').first().waitFor();
  await letGo(page, [{ name: 'report.txt', bytes: readFileSync(join(drawer, 'plover-settings.txt')) }]);
  await expect(page).toHaveURL(/survey\?at=report$/);
  await expect(page.getByText(/report\.txt\. Text: read as a settings report/)).toBeVisible();
  await expect(page.getByText('Measured; they carry over')).toBeVisible();
  await letGo(page, [{ name: 'odd.bin.part', bytes: new Uint8Array([1, 0, 2]) }]);
  await expect(page.getByRole('status').filter({ hasText: 'odd.bin.part' })).toContainText(
    'Nothing was done',
  );
  await letGo(page, [{ name: 'bed plug.png', type: 'image/png', bytes: await picture(page) }]);
  await expect(page).toHaveURL(/survey\?at=photos$/);
  await expect(page.getByAltText('bed plug, 0 pins')).toBeVisible();
  await page.goto('/machines/dunlin/wiring');
  await page.getByRole('heading').first().waitFor();
  await letGo(page, [{ name: 'map.csv', bytes: new TextEncoder().encode('y,0,100\r\n0,0,0.1\r\n') }]);
  // What its place refuses is said there.
  await expect(page.getByRole('alert').filter({ hasText: 'map.csv' })).toContainText('at least 2');
});

test('a photo, a pin placed by keys, and a note go back, one after the other', async ({ page }) => {
  await page.goto('/machines/dunlin/survey?at=photos');
  await page.getByRole('heading', { name: 'Photograph every connector' }).waitFor();
  await letGo(page, [{ name: 'hot end.png', type: 'image/png', bytes: await picture(page) }]);
  await page.getByAltText('hot end, 0 pins').waitFor();
  const place = page.getByRole('group', { name: /^Place of the next pin/ });
  await place.focus();
  await place.press('Shift+ArrowLeft');
  await place.press('ArrowUp');
  await expect(place).toHaveAccessibleName(/40 % from the left, 48 % from the top/);
  await page.getByRole('textbox', { name: 'Label' }).fill('thermistor');
  await page.getByRole('button', { name: 'Pin it there' }).click();
  await page.getByAltText('hot end, 1 pin').waitFor();
  await page.keyboard.press('Escape');
  await page.goto('/machines/dunlin/logbook');
  await page.getByRole('textbox', { name: 'A note of your own' }).fill('oiled the rods');
  await page.getByRole('button', { name: 'Write it down' }).click();
  const line = page.getByRole('main').getByText('oiled the rods', { exact: true });
  await expect(line).toBeVisible();
  await expect(undo(page)).toHaveAttribute('aria-description', 'Note: oiled the rods');
  await undo(page).click();
  await expect(line).toHaveCount(0);
  await expect(page.getByText('It is in the logbook.')).toHaveCount(0);
  await expect(undo(page)).toHaveAttribute('aria-description', 'Pins of hot end');
  await undo(page).click();
  await expect(undo(page)).toHaveAttribute('aria-description', 'Photo added: hot end');
  await undo(page).click();
  await expect(undo(page)).toBeDisabled();
  await page.goto('/machines/dunlin/survey?at=photos');
  await expect(page.getByText('No photo yet.')).toBeVisible();
  const again = page.getByRole('button', { name: 'Do again (shift u)' });
  await again.click();
  await page.getByAltText('hot end, 0 pins').waitFor();
  await again.click();
  await page.getByAltText('hot end, 1 pin').waitFor();
});

test('a photo is added beside a note, stands in the time line, and goes back', async ({ page }) => {
  await page.goto('/machines/bittern/logbook');
  await page.getByText(/^\d+ entries$/).waitFor();
  const bytes = await picture(page);
  const files = page.getByLabel('Photos for the time line');
  await files.setInputFiles({ name: 'worn belt.png', mimeType: 'image/png', buffer: Buffer.from(bytes) });
  const shown = page.getByRole('main').getByRole('img', { name: 'worn belt' });
  await expect(shown).toBeVisible();
  await expect(undo(page)).toHaveAttribute('aria-description', 'Photo added: worn belt');
  await undo(page).click();
  await expect(shown).toHaveCount(0);
  await files.setInputFiles({ name: 'note.png', mimeType: 'image/png', buffer: Buffer.from('no picture') });
  await expect(page.getByRole('alert').filter({ hasText: /picture|photo/i })).toBeVisible();
});

test('arrow keys go through a list without saving; enter keeps, escape does not; what is sought stays', async ({ page }) => {
  await page.goto('/machines/dunlin/settings?part=x');
  const list = page.getByRole('combobox', { name: 'Shaft turns, towards plus' });
  const was = await list.inputValue();
  await list.focus();
  await list.press(was === 'clockwise' ? 'ArrowDown' : 'ArrowUp');
  await expect(list).not.toHaveValue(was);
  await expect(page.getByText('Enter keeps it, Escape does not.')).toBeVisible();
  await list.press('Escape');
  await expect(list).toHaveValue(was);
  await expect(undo(page)).toBeDisabled();
  await list.press(was === 'clockwise' ? 'ArrowDown' : 'ArrowUp');
  await list.press('Enter');
  await expect(undo(page)).toHaveAttribute('aria-description', /Shaft turns/);
  await page.getByRole('searchbox', { name: 'Find among these settings' }).fill('jolt');
  await expect(page.getByRole('button', { name: /^X jolt/ })).toBeVisible();
  await expect(page.getByRole('button', { name: /^X steps/ })).toHaveCount(0);
  await page.reload();
  await expect(page.getByRole('button', { name: /^X jolt/ })).toBeVisible();
  await expect(page.getByRole('button', { name: /^X steps/ })).toHaveCount(0);
}); // prettier-ignore

test('a handle that is put where it makes no sense changes nothing, and says why', async ({ page }) => {
  await page.goto('/machines/bittern/settings?view=plan');
  const corner = page.getByRole('button', { name: /^Plate, back right corner/ });
  await corner.focus();
  for (let leap = 0; leap < 40; leap += 1) await corner.press('Shift+ArrowLeft');
  await corner.press('Enter');
  await expect(page.getByText(/at least 20 mm must be left to the other corner\. Nothing was changed/)).toBeVisible();
  await expect(undo(page)).toBeDisabled();
}); // prettier-ignore

test('the hand that a test asks for is one key away, and on paper there is no navigation', async ({
  page,
}) => {
  await page.goto('/machines/bittern/bring-up');
  await page.getByRole('heading', { name: 'Your hands on the bench' }).waitFor();
  await page.keyboard.press('h');
  await expect(page.getByRole('region', { name: 'Your hands on the bench' }).getByRole('button').first()).toBeFocused(); // prettier-ignore
  await page.emulateMedia({ media: 'print' });
  await expect(page.getByRole('navigation', { name: 'Stations' })).toBeHidden();
  await expect(page.getByRole('button', { name: 'Stop' })).toBeHidden();
  await expect(page.getByRole('heading', { name: 'Bittern' })).toBeVisible();
});
