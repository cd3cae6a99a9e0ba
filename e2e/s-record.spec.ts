import { call, flash, lay } from './ownMachines';
import { expect, type Page, test } from './test';

test.describe.configure({ mode: 'serial' });

test.use({ trace: 'off' });

const lines = (page: Page) => page.getByRole('list').filter({ has: page.locator('time') });

test('the time line is filtered, searched, and stays so over a reload', async ({ page }) => {
  await page.goto('/machines/bittern/logbook');
  await expect(page.getByText(/^\d+ entries$/)).toBeVisible();
  const only = page.getByRole('checkbox', { name: 'measured' });
  await only.click();
  await expect(only).toBeChecked();
  await page.getByRole('textbox', { name: 'With the words' }).fill('offset');
  await expect(page.getByText('4 entries')).toBeVisible();
  await expect(lines(page)).not.toContainText('rails');
  await page.reload();
  await expect(page.getByText('4 entries')).toBeVisible();
  await expect(page.getByRole('checkbox', { name: 'measured' })).toBeChecked();
  await page.getByRole('textbox', { name: 'With the words' }).fill('nowhere written');
  await expect(page.getByText('No entry is like that.')).toBeVisible();
});

test('of a long logbook only what is seen is laid out, and its end is reached', async ({ page }) => {
  await page.goto('/');
  await lay(page, 'stint', 'Stint', 'dunlin');
  for (let nth = 0; nth < 450; nth += 1)
    await call(page, 'POST', '/machines/stint/entries', { summary: `Line ${nth} of many` });
  await page.goto('/machines/stint/logbook');
  await expect(page.getByText('451 entries')).toBeVisible();
  expect(await lines(page).getByRole('listitem').count()).toBeLessThan(80);
  const first = page.getByText('Added from a machine file');
  await expect(async () => {
    await page.getByRole('main').evaluate((main) => main.scrollTo(0, main.scrollHeight));
    await expect(first).toBeVisible({ timeout: 500 });
  }).toPass();
});

test('values over time are curves, and the card says what was measured', async ({ page }) => {
  await page.goto('/machines/bittern/logbook?view=values');
  await expect(page.getByRole('img', { name: /^Z offset: .*−1\.4 mm.*−1\.468 mm/ })).toBeVisible();
  await page.getByRole('link', { name: 'Card for the wall' }).click();
  const card = page.getByRole('article');
  await expect(card).toContainText('Z offset');
  await expect(card).toContainText('Harrow H6 rev A');
});

test('two states stand side by side, and the earlier one is one act away', async ({ page }) => {
  test.setTimeout(300_000);
  await page.goto('/');
  await lay(page, 'whimbrel', 'Whimbrel');
  await flash(page, 'whimbrel');
  const { machine, version } = (await call(page, 'GET', '/machines/whimbrel')).body as {
    machine: { settings: Record<string, unknown> };
    version: number;
  };
  machine.settings['heat.bed.max'] = { value: 88, source: 'override', because: 'a test' };
  await call(page, 'PUT', '/machines/whimbrel', { machine, version, label: 'a cooler bed' });
  await page.goto('/machines/whimbrel/logbook');
  await expect(page.getByText(/runs on it, build/)).toBeVisible();
  await page.getByRole('link', { name: 'Side by side', exact: true }).click();
  const states = page.getByRole('region', { name: 'Two states' });
  await expect(states).toContainText(/heat\.bed\.max \d+ °C → 88 °C/);
  await states.getByRole('button', { name: /^Go back to the settings of/ }).click();
  await expect(states).toContainText('The machine file is as it was');
  const now = (await call(page, 'GET', '/machines/whimbrel')).body as { machine: { settings: object } };
  expect(now.machine.settings).not.toHaveProperty(['heat.bed.max']);
  await page.keyboard.press('u');
  await expect(states).toContainText(/heat\.bed\.max \d+ °C → 88 °C/);
});

test('the fleet: a policy holds one back, one setting goes to the others after a look', async ({ page }) => {
  await page.goto('/');
  await page.getByRole('link', { name: /^The fleet/ }).click();
  await page.getByLabel('When Bittern is updated').selectOption('stay');
  await expect(page.getByText('It works. Nothing is changed on it')).toBeVisible();
  for (const name of ['Bittern', 'Dunlin']) await page.getByLabel(`Choose ${name}`).check();
  await expect(page.getByRole('region', { name: 'Settings apart' })).toContainText('probe.kind');
  const one = page.getByRole('region', { name: 'One setting on several' });
  await one.getByRole('combobox', { name: 'Setting' }).fill('heat.bed.max');
  await page.getByRole('option', { name: /heat\.bed\.max/ }).click();
  await one.getByLabel('Value').fill('85');
  await one.getByRole('button', { name: 'Look what it makes of each' }).click();
  await expect(one.getByRole('listitem').filter({ hasText: 'Bittern' })).toContainText('is to stay');
  await expect(one.getByRole('listitem').filter({ hasText: 'Dunlin' })).toContainText('→ 85 °C');
  await one.getByLabel(/^Because/).fill('the plates are all the same');
  await one.getByRole('button', { name: 'Set it on 1 machine' }).click();
  await expect(one).toContainText('Set on Dunlin');
  const { machine } = (await call(page, 'GET', '/machines/dunlin')).body as { machine: { settings: Record<string, { value: number }> } }; // prettier-ignore
  expect(machine.settings['heat.bed.max']?.value).toBe(85);
});
