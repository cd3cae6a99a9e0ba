import { expect, type Page, test } from './test';
import { button, flash, lay, layRuff, plate } from './ownMachines';
import { goThrough, slip } from './proving';

test.describe.configure({ mode: 'serial' });

const speed = (page: Page) =>
  page.getByLabel('Speed of the bench').selectOption('as fast as can be, while it works');
/** What comes before a guard is tripped. */
const TO_HEAT = ['The right image runs', 'Temperatures plausible cold', 'The hot end sensor is the hot end’s', 'The hot end heats, and nothing else does']; // prettier-ignore
// A picture of every change of a machine that runs takes longer than the change.
test.use({ trace: 'off' });

/** Lays a fault in the drawer of the bench, or takes it back. */
async function lays(page: Page, fault: string, on: boolean): Promise<void> {
  const box = page.getByLabel(fault);
  await box.click();
  await expect(box).toBeChecked({ checked: on });
}

async function powered(page: Page, id: string): Promise<void> {
  await flash(page, id);
  await page.goto(`/machines/${id}/bring-up`);
  await button(page, 'Switch the power on').click();
  await expect(page.getByLabel('Identity')).toContainText('idle');
  await speed(page);
}

test('step by step, a guard trips, and the sheet says what is open', async ({ page }) => {
  await page.goto('/');
  await lay(page, 'snipe', 'Snipe', 'dunlin');
  await powered(page, 'snipe');
  // What rests on another step waits for it.
  await expect(slip(page, 'It homes')).toContainText('First: X switch reads both ways');
  const cooled = 'The hot end’s guard trips when it is cooled';
  const pulled = 'The hot end’s guard trips when its sensor is gone';
  for (const title of [...TO_HEAT, 'X switch reads both ways', cooled]) {
    await goThrough(page, title);
    await expect(slip(page, title)).toContainText('Proven');
  }
  // Nothing is tested on a machine that sleeps.
  await expect(slip(page, pulled).getByRole('button', { name: 'Test it' })).toHaveCount(0);
  await button(page, 'Wake it').click();
  await goThrough(page, pulled);
  await expect(slip(page, pulled)).toContainText('Proven');
  await expect(plate(page)).toContainText('unproven');
  await page.getByRole('link', { name: 'Proof sheet', exact: true }).click();
  await expect(
    page.getByRole('heading', {
      name: /^Unproven: \d+ of 26 steps are open. Never leave it alone: 2 of its guards/,
    }),
  ).toBeVisible();
  await expect(page.getByRole('row', { name: new RegExp(cooled) })).toContainText(
    'stopped: hotend does not follow its heater',
  );
  const saved = page.waitForEvent('download');
  await button(page, 'Save as CSV').click();
  expect((await saved).suggestedFilename()).toBe('snipe-proof-sheet.csv');
});

test('a heater is replaced by its like: what rests on it is void, and says why; the rest stands', async ({
  page,
}) => {
  await page.goto('/machines/snipe/survey?at=job');
  await page.getByLabel('The change').selectOption({ label: 'A part, replaced like for like: a new one of the same type, where the old one is worn or broken' }); // prettier-ignore
  await button(page, 'Add this change').click();
  await page.getByLabel('Part', { exact: true }).selectOption('hotend-heater');
  await button(page, 'Open the job').click();
  await expect(button(page, 'Open the job')).toHaveCount(0);
  await page.goto('/machines/snipe/wiring');
  await button(page, 'Take it over').click();
  await expect(button(page, 'Take it over')).toHaveCount(0);
  await page.goto('/machines/snipe/bring-up?view=sheet');
  const row = (title: string) => page.getByRole('row', { name: new RegExp(title) });
  await expect(row('The hot end heats')).toContainText('void');
  await expect(row('The hot end heats')).toContainText(/proven .* and void since: it was tested with the hot-end heater as .*; it is .*, copy 2 now/); // prettier-ignore
  for (const title of [
    'The hot end’s guard trips when it is cooled',
    'The hot end’s guard trips when its sensor is gone',
  ])
    await expect(row(title)).toContainText('void');
  for (const title of ['The right image runs', 'Temperatures plausible cold', 'X switch reads both ways'])
    await expect(row(title)).toContainText('proven');
  await expect(page.getByText(/^3 of 26 steps void: something was changed after the test\./)).toBeVisible();
});

test('exchanged heater leads and exchanged probe wires are found by the proofs', async ({ page }) => {
  await layRuff(page);
  await powered(page, 'ruff');
  await page.getByText('Faults of the bench').click();
  await lays(page, 'the leads of hot-end and bed heater are exchanged', true);
  await lays(page, "the probe's signal and ground are exchanged", true);
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
  await lays(page, "the probe's signal and ground are exchanged", false);
  await goThrough(page, 'The probe triggers in mid-air');
  await expect(probe).toContainText('Proven');
  // A cable that slips out is told at every station, and what is asked ends.
  const cable = 'the USB cable has slipped out; the supply feeds the board';
  await lays(page, cable, true);
  const gone = page.getByRole('alert').filter({ hasText: 'The board is not heard any more.' });
  await expect(gone).toContainText('What heats may go on heating');
  // It was proven before, and is folded.
  await probe.getByRole('heading').click();
  await goThrough(page, 'The probe triggers in mid-air');
  await expect(probe).toContainText('no answer');
  await gone.getByRole('button', { name: 'Switch the power off' }).click();
  await expect(plate(page)).toContainText('No link');
  await lays(page, cable, false);
  await button(page, 'Switch the power on').click();
  // A board that talks at another speed is no board that is asked for ever.
  await lays(page, 'the host talks at another speed than the image', true);
  await button(page, 'Switch the power off').click();
  await button(page, 'Switch the power on').click();
  await expect(page.getByRole('alert')).toContainText('It does not answer');
  const image = slip(page, 'The right image runs');
  await image.getByRole('heading').click();
  await image.getByRole('button', { name: 'Test again' }).click();
  await expect(image).toContainText('something came that cannot be read');
  await expect(image).toContainText('Host and image talk at different speeds.');
});

test('a guard is tripped at arm’s length, by keyboard alone', async ({ page }) => {
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

test('first power: a heater for half the volts and a crossed winding are told before there is power', async ({
  page,
}) => {
  await page.goto('/');
  await lay(page, 'dotterel', 'Dotterel');
  await page.goto('/machines/dotterel/bring-up?view=power');
  const ohms = page.getByRole('textbox', { name: 'Heater of the hot end, in Ω' });
  await ohms.fill('nonsense');
  await ohms.press('Enter');
  await expect(page.getByText('a number with its unit, such as 14.4')).toBeVisible();
  await ohms.fill('3,6 Ω');
  await ohms.press('Enter');
  await expect(page.getByRole('complementary', { name: 'Docket' })).toContainText(
    'It is made for half the volts: 12 V.',
  );
  await page
    .getByRole('button', { name: 'Measure on the bench: Heater of the hot end', exact: true })
    .click();
  await expect(page.getByRole('row', { name: /^Heater of the hot end across/ })).toContainText('fits');
  // It stays over a reload.
  await page.getByLabel('Every module has its heat sink, and none touches a pin.').click();
  await expect(page.getByLabel('Every module has its heat sink, and none touches a pin.')).toBeChecked();
  await page.reload();
  await expect(page.getByLabel('Every module has its heat sink, and none touches a pin.')).toBeChecked();
  await expect(ohms).toHaveValue('14.4 Ω');
  // The bench answers with the fault that is laid.
  await page.getByRole('link', { name: 'Prove it', exact: true }).click();
  await page.getByText('Faults of the bench').click();
  await lays(page, 'the two windings of the X motor are mixed up', true);
  await page.getByRole('link', { name: 'First power', exact: true }).click();
  await page.getByRole('button', { name: 'Measure on the bench: Motor of X, winding a' }).click();
  await expect(page.getByRole('complementary', { name: 'Docket' })).toContainText(
    'The two windings are crossed in the plug.',
  );
});
