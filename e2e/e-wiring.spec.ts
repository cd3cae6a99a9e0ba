import { readFileSync } from 'node:fs';
import { expect, type Page, test } from './test';

test.describe.configure({ mode: 'serial' });

const wiring = (id: string, at = '') => `/machines/${id}/wiring${at && `?at=${at}`}`;
const docket = (page: Page) => page.getByRole('complementary', { name: 'Docket' });
const station = (page: Page, name: string) =>
  page.getByRole('navigation', { name: 'Stations' }).getByRole('link', { name: new RegExp(`^${name}`) });
const section = (page: Page, name: string) =>
  page.getByRole('navigation', { name: 'Wiring' }).getByRole('link', { name });
const tag = (page: Page, part: string) => page.getByRole('button', { name: new RegExp(`^${part}, `) });
const panel = (page: Page, part: string) => page.getByRole('region', { name: `Lead ${part}` });
const middle = async (page: Page, selector: string) => {
  const box = (await page.locator(selector).first().boundingBox())!;
  return { x: box.x + box.width / 2, y: box.y + box.height / 2 };
};

test('Plover’s swap by mouse: a lead is dragged where it is lit, the sheet ticked, and both outlast a reload', async ({
  page,
}) => {
  await page.goto(wiring('plover'));
  const drawing = page.getByRole('group', { name: 'Fenwick F8 and Alder A32 with every lead' });
  await expect(drawing).toBeVisible();
  await page.getByRole('textbox', { name: 'Find a lead, header or pin' }).fill('OUT-F');
  await expect(page.getByText('1 of 14 leads')).toBeVisible();
  await tag(page, 'part-fan').click();
  await expect(panel(page, 'part-fan')).toContainText('Contacts in this order, FAN-1: 1 supply, 2 control.');
  await expect(panel(page, 'part-fan')).toContainText('A fan burns at the wrong voltage');
  await expect(page.locator('[data-new] [data-place="FAN-3"][data-lit="free"]')).toBeVisible();

  const from = await middle(page, '[data-part="part-fan"] rect');
  const to = await middle(page, '[data-new] [data-place="FAN-3"] rect');
  await page.mouse.move(from.x, from.y);
  await page.mouse.down();
  await page.mouse.move((from.x + to.x) / 2, to.y - 30, { steps: 4 });
  await page.mouse.move(to.x, to.y, { steps: 4 });
  await page.mouse.up();
  await expect(tag(page, 'part-fan')).toHaveAccessibleName(/^part-fan, FAN-3/);

  await section(page, 'Swap sheet').click();
  const row = page
    .getByRole('list', { name: 'Swap sheet' })
    .getByRole('listitem')
    .filter({ hasText: 'part-fan' });
  await expect(row).toContainText('FAN-3: 1 supply, 2 control');
  await row.getByRole('checkbox').click();
  await page.getByRole('checkbox', { name: 'Set jumpers: driver mode' }).click();
  await expect(page.getByRole('checkbox', { name: 'Set jumpers: driver mode' })).toBeChecked();
  // The power goes half way through.
  await page.reload();
  await expect(page.getByRole('checkbox', { name: 'Set jumpers: driver mode' })).toBeChecked();
  await expect(row.getByRole('checkbox')).toBeChecked();
  await expect(page.getByRole('checkbox', { name: 'Move the lead of bed-heater' })).not.toBeChecked();
  await expect(station(page, 'Wiring')).toHaveAccessibleName(/^Wiring ?, \d of 26 done$/);

  const saved = async (button: string) => {
    const waiting = page.waitForEvent('download');
    await page.getByRole('button', { name: button }).click();
    return readFileSync((await (await waiting).path())!, 'utf8');
  };
  expect(await saved('Save as CSV')).toContain(
    'yes,Move the lead of part-fan,"OUT-F: 1 control, 2 supply","FAN-3: 1 supply, 2 control"',
  );
  const html = await saved('Save as HTML');
  expect(html).toMatch(/Plover( A32)?: Fenwick F8 rev 2 to Alder A32 rev 1\.1/);
  expect(html).not.toMatch(/<script|https?:/);

  await page.keyboard.press('a');
  await expect(page.getByRole('dialog')).toContainText('Fix the Alder A32 in its place');
  await page.keyboard.press('Escape');

  // What is measured while the job is open counts for the plan.
  await section(page, 'Electricity').click();
  await page.getByLabel('Measure the cable of').selectOption('bed-heater');
  await page.getByRole('textbox', { name: 'gauge' }).fill('14');
  await page.keyboard.press('Tab');
  await expect(page.getByText('Cable of bed-heater').first()).toBeVisible();
  await page.getByRole('textbox', { name: 'length' }).fill('900');
  await page.keyboard.press('Tab');
  await expect(page.getByRole('list', { name: 'Wires' })).toContainText('bed-heater: gauge 14');
});

test('Plover’s swap by keys alone: from tag to tag, into the list of places, and landed', async ({
  page,
}) => {
  await page.goto(wiring('plover'));
  await tag(page, 'y-switch').focus();
  await page.keyboard.press('ArrowUp');
  const above = await page.evaluate(() => document.activeElement?.getAttribute('data-part'));
  expect(above).not.toBe('y-switch');
  await page.keyboard.press('ArrowDown');
  await expect(tag(page, 'y-switch')).toBeFocused();
  await expect(panel(page, 'y-switch').getByRole('list', { name: 'Places for y-switch' })).toContainText(
    'AUX: signal 6',
  );
  await page.keyboard.press('Enter');
  const places = panel(page, 'y-switch')
    .getByRole('list', { name: 'Places for y-switch' })
    .getByRole('button');
  await expect(places.filter({ hasText: 'AUX: signal 3' })).toBeFocused();
  await page.keyboard.press('ArrowDown');
  await expect(places.filter({ hasText: 'AUX: signal 6' })).toBeFocused();
  await page.keyboard.press('Enter');
  await expect(tag(page, 'y-switch')).toHaveAccessibleName(/^y-switch, AUX/);
  // And back to the header made for it, which is the cheapest again.
  await tag(page, 'y-switch').focus();
  await expect(places.filter({ hasText: 'STOP-Y: signal 3, ground 2' }).first()).toBeEnabled();
  await page.keyboard.press('Enter');
  await expect(places.filter({ hasText: 'STOP-Y: signal 3, ground 2' }).first()).toBeFocused();
  await page.keyboard.press('Enter');
  await expect(tag(page, 'y-switch')).toHaveAccessibleName(/^y-switch, STOP-Y/);
});

test('Bittern’s additions: each has a price, the faulty header is passed over, one decision opens a job', async ({
  page,
}) => {
  await page.goto(wiring('bittern', 'additions'));
  const best = page.getByRole('button', { name: 'Add it at the best place' });
  const places = page.getByRole('list', { name: 'Places' }).getByRole('listitem');
  await expect(places.first()).toContainText('SERVO: control 3');
  await expect(page.getByRole('region', { name: 'What else must change' })).toContainText(
    'one time to arrive for each',
  );
  await best.click();
  await expect(page.getByRole('status').filter({ hasText: 'A servo is part of the job now' })).toBeVisible();
  await page.getByLabel('I want').selectOption('chamber-thermistor');
  // A sensor of which nobody said the type would be read wrong.
  await expect(best).toHaveCount(0);
  await page.getByLabel('Which').selectOption('t100-b');
  await expect(places.first()).toContainText('WARM-3: signal 2');
  await best.click();
  await page.getByLabel('I want').selectOption('filament-sensor');
  await page.getByLabel('Which').selectOption('reel-eye');
  await expect(places.first()).toContainText('END-3: signal 2');
  await expect(places.first()).toContainText('no header is left for a Z switch later');
  await best.click();
  await expect(
    page.getByRole('status').filter({ hasText: 'A filament sensor is part of the job now' }),
  ).toBeVisible();
  await expect(station(page, 'Wiring')).toHaveAccessibleName(/^Wiring ?, 0 of 4 done$/);
  await section(page, 'Swap sheet').click();
  await expect(page.getByRole('checkbox', { name: 'New lead: filament-sensor' })).toBeVisible();

  await section(page, 'Doubtful ports').click();
  await expect(page.getByRole('region', { name: 'Known faults' })).toContainText('FILAMENT.2');
});

test('Bittern’s filament sensor on the faulty header: warned, exchanged, traded away, by keys', async ({
  page,
}) => {
  await page.goto(`${wiring('bittern', 'bench')}&lead=filament-sensor`);
  const list = panel(page, 'filament-sensor').getByRole('list', { name: 'Places for filament-sensor' });
  await expect(list).toContainText('END-3');
  await panel(page, 'filament-sensor')
    .getByRole('button', { name: /with those in the way/ })
    .press('Enter');
  await list
    .getByRole('button', { name: /FILAMENT: signal 2, ground 1, supply 3.*proven fault/ })
    .press('Enter');
  await expect(tag(page, 'filament-sensor')).toHaveAccessibleName(/FILAMENT/);
  await expect(docket(page)).toContainText('fault.known');

  await section(page, 'Doubtful ports').press('Enter');
  // Nothing is doubted before somebody says so.
  await expect(page.getByText('no, as found')).toHaveCount(0);
  await page.getByLabel('This does not read').selectOption('filament-sensor');
  const verdict = page.getByRole('region', { name: 'Verdict' });
  await expect(verdict).toContainText('One more test is needed');
  const attempt = async (sensor: string, port: string, reads: boolean) => {
    await page.getByLabel('Sensor to try').selectOption(sensor);
    await page.getByLabel('Port to try').selectOption(port);
    await page.getByRole('button', { name: reads ? 'It reads' : 'It does not' }).press('Enter');
  };
  await attempt('filament-sensor', 'END-3.2', true);
  await attempt('another of the same make', 'FILAMENT.2', false);
  await expect(verdict).toContainText('The port is at fault: FILAMENT.2.');
  const trade = page.getByRole('region', { name: 'Best trade' });
  await expect(trade).toContainText('filament-sensor to END-3: signal 2');
  await trade.getByRole('button', { name: 'Make this trade' }).press('Enter');
  await section(page, 'Leads').press('Enter');
  await expect(tag(page, 'filament-sensor')).toHaveAccessibleName(/END-3/);
  await expect(docket(page)).not.toContainText('fault.known');
});

test('a pin decided against the harness keeps its reason, says what it costs, and goes back', async ({
  page,
}) => {
  await page.goto(wiring('dunlin', 'pins'));
  await page.getByRole('button', { name: 'Decide PIN_X_SWITCH' }).click();
  await page.getByRole('textbox', { name: 'Pin' }).fill('11');
  await expect(page.getByRole('list', { name: 'What it costs' })).toContainText(
    'PIN_Y_SWITCH has this pin already',
  );
  await page.getByRole('textbox', { name: 'Pin' }).fill('99');
  await expect(page.getByText('Shale-F has no pin 99')).toBeVisible();
  await page.getByRole('textbox', { name: 'Pin' }).fill('13');
  await page.getByRole('textbox', { name: 'Because' }).fill('the contact of SW-X is broken off');
  await page.getByRole('dialog').getByRole('button', { name: 'Decide' }).click();
  await expect(page.getByRole('row', { name: /PIN_X_SWITCH/ })).toContainText('p13');
  await expect(docket(page)).toContainText('pins.overridden');
  await page.getByRole('button', { name: 'PIN_X_SWITCH back to the harness' }).click();
  await expect(page.getByRole('row', { name: /PIN_X_SWITCH/ })).toContainText('p10');
  await expect(docket(page)).not.toContainText('pins.overridden');
});

test('Dunlin’s harness tells its currents, and a cable that is measured too thin is found', async ({
  page,
}) => {
  await page.goto(wiring('dunlin', 'electricity'));
  await expect(page.getByRole('region', { name: 'Drivers and jumpers' })).toContainText(
    'x-driver: 0.84 A, 0.67 V at its pot',
  );
  await page.getByLabel('Measure the cable of').selectOption('bed-heater');
  await page.getByRole('textbox', { name: 'gauge' }).fill('24');
  await page.keyboard.press('Tab');
  await expect(docket(page)).toContainText('wire.gauge');
  await expect(page.getByRole('list', { name: 'Wires' })).toContainText('bed-heater: gauge 24');
  await page.getByRole('textbox', { name: 'gauge' }).fill('16');
  await page.keyboard.press('Tab');
  await expect(docket(page)).not.toContainText('wire.gauge');
});

test('Dunlin’s move to the smaller board is looked at, then opened as a job', async ({ page }) => {
  await page.goto(wiring('dunlin', 'sheet'));
  const board = page.getByLabel('The swap to another board would be');
  await board.selectOption('fenwick-f8 1');
  const sheet = page.getByRole('list', { name: 'Swap sheet' });
  await expect(sheet).toContainText('Fix the Fenwick F8 in its place');
  await board.selectOption('pipit-2 1');
  await expect(sheet).toContainText('E1 takes its plug from the right, where a wall is');
  await expect(sheet).toContainText('converter to 12 V in the supply lead');
  await expect(sheet.getByRole('checkbox').first()).toBeDisabled();
  await page.getByRole('button', { name: 'Open this as a job' }).click();
  await sheet.getByRole('checkbox', { name: 'Move the lead of lamp' }).click();
  await expect(station(page, 'Wiring')).toHaveAccessibleName(/^Wiring ?, 1 of \d+ done/);
});
