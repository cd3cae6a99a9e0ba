import { expect, type Page, test } from './test';
import { button, flash, lay, layRuff, plate } from './ownMachines';
import { goThrough, slip } from './proving';

const speed = (page: Page) =>
  page.getByLabel('Speed of the bench').selectOption('as fast as can be, while it works');
const open = (page: Page) =>
  page
    .getByRole('complementary', { name: 'Docket' })
    .getByRole('listitem')
    .filter({ has: page.getByRole('button', { name: 'Test it' }) })
    .getByRole('heading');

async function powered(page: Page, id: string): Promise<void> {
  await flash(page, id);
  await page.goto(`/machines/${id}/bring-up`);
  await button(page, 'Switch the power on').click();
  await expect(page.getByLabel('Identity')).toContainText('idle');
  await speed(page);
}

test('a machine is proven step by step, its guards trip, and the sheet says so', async ({ page }) => {
  test.setTimeout(400_000);
  await page.goto('/');
  await lay(page, 'snipe', 'Snipe', 'dunlin');
  await powered(page, 'snipe');
  // What rests on another step waits for it.
  await expect(slip(page, 'It homes')).toContainText('First: X switch reads both ways');
  for (;;) {
    const title = (await open(page).allInnerTexts())[0];
    if (title === undefined) break;
    await goThrough(page, title);
    await expect(slip(page, title)).toContainText('Proven');
    const wake = button(page, 'Wake it');
    if (title.includes('guard')) {
      await expect(plate(page)).toContainText('unproven');
      await wake.click();
      await expect(wake).toHaveCount(0);
    }
  }
  await expect(slip(page, 'It is closed up')).toContainText('Proven');
  await expect(plate(page)).not.toContainText('unproven');
  await button(page, 'Proof sheet').click();
  await expect(
    page.getByRole('heading', { name: /^Proven: all \d+ steps, its guards made to trip/ }),
  ).toBeVisible();
  await expect(page.getByRole('row', { name: /The bed’s guard trips when it is cooled/ })).toContainText(
    'stopped: bed does not follow its heater',
  );
  const saved = page.waitForEvent('download');
  await button(page, 'Save as CSV').click();
  expect((await saved).suggestedFilename()).toBe('snipe-proof-sheet.csv');
  // The shelf says the same.
  await page.goto('/');
  await expect(page.getByRole('article').filter({ hasText: 'Snipe' })).not.toContainText('unproven');
});

test('exchanged heater leads and exchanged probe wires are found by the proofs', async ({ page }) => {
  test.setTimeout(200_000);
  await layRuff(page);
  await powered(page, 'ruff');
  await page.getByText('Faults of the bench').click();
  await page.getByLabel('the leads of hot-end and bed heater are exchanged').check();
  await page.getByLabel("the probe's signal and ground are exchanged").check();
  for (const title of [
    'The right image runs',
    'Temperatures plausible cold',
    'The hot end sensor is the hot end’s',
    'The probe comes out and goes in',
  ])
    // prettier-ignore
    await goThrough(page, title);
  await goThrough(page, 'The hot end heats, and nothing else does');
  const heat = slip(page, 'The hot end heats, and nothing else does');
  await expect(heat).toContainText('The leads of two heaters are exchanged.');
  // Its guard may have stopped everything before; then it is woken first.
  const wake = button(page, 'Wake it');
  if (await wake.isVisible()) await wake.click();
  await goThrough(page, 'The probe triggers in mid-air');
  const probe = slip(page, 'The probe triggers in mid-air');
  await expect(probe).toContainText('both by turns');
  await expect(probe).toContainText('Signal and ground are exchanged.');
  await expect(plate(page)).toContainText('unproven');
  // Mended, the same step is proven.
  await page.getByLabel("the probe's signal and ground are exchanged").uncheck();
  await goThrough(page, 'The probe triggers in mid-air');
  await expect(probe).toContainText('Proven');
});

test('a guard is tripped at arm’s length, by keyboard alone', async ({ page }) => {
  test.setTimeout(200_000);
  await page.goto('/');
  await lay(page, 'teal', 'Teal', 'dunlin');
  await powered(page, 'teal');
  for (const title of [
    'The right image runs',
    'Temperatures plausible cold',
    'The hot end sensor is the hot end’s',
    'The hot end heats, and nothing else does',
  ])
    // prettier-ignore
    await goThrough(page, title);
  await page.locator('body').press('a');
  const dialog = page.getByRole('dialog');
  const heading = dialog.getByRole('heading', { level: 2 }).last();
  for (let step = 0; step < 40; step += 1) {
    if ((await heading.innerText()).includes('hot end’s guard trips when it is cooled')) break;
    await page.keyboard.press('Space');
  }
  await page.keyboard.press('p');
  await expect(dialog.getByRole('button', { name: /^Cool the hot end from outside/ })).toBeVisible({
    timeout: 60_000,
  });
  await page.keyboard.press('h');
  await expect(dialog.getByText('Stop cooling it.')).toBeVisible({ timeout: 60_000 });
  await page.keyboard.press('1');
  await expect(dialog.getByText(/Proven: stopped: hotend does not follow its heater/)).toBeVisible();
});
