import { Hands } from './hands';
import { expectAccessible } from './accessible';
import { button, call, docket, station } from './ownMachines';
import { expect, type Page, test } from './test';

/** Everything but the board of a machine of this test. */
const ANSWERS = {
  name: 'Whimbrel', place: 'Loft', kinematics: 'moving-bed',
  'plate.width': 220, 'plate.depth': 210, 'beyond.left': 4, 'beyond.right': 5, 'beyond.front': 0, 'beyond.back': 7, height: 240,
  'x.kind': 'belt', 'x.pitch': 2, 'x.teeth': 16, 'y.kind': 'belt', 'y.pitch': 2, 'y.teeth': 16, 'z.kind': 'screw', 'z.lead': 4, 'e.roller': 11.2,
  'motor.x': 'motor-200-12', 'motor.y': 'motor-200-12', 'motor.z': 'motor-200-12', 'motor.e': 'motor-200-12', driver: 'hush-plain',
  'switch.x': 'lever-switch-nc', 'switch.y': 'lever-switch-nc', 'switch.z': 'lever-switch-nc', 'hotend.heater': 'cartridge-24-40', 'hotend.sensor': 't100-a',
  'end.x': 'min', 'end.y': 'min', 'end.z': 'min', 'bed.heater': 'none', probe: 'none', microsteps: '16', 'supply.volts': 24, 'supply.amps': 12,
}; // prettier-ignore

/** An invented board, photographed askew. */
const CORNERS = [[140, 760], [1080, 700], [1010, 130], [200, 180]] as const; // prettier-ignore
async function photo(page: Page): Promise<Buffer> {
  const table = await page.context().newPage();
  await table.setViewportSize({ width: 1200, height: 900 });
  const corners = CORNERS.map((at) => at.join()).join(' ');
  await table.setContent(
    `<body style="margin:0"><svg width="1200" height="900"><rect width="1200" height="900" fill="#9a8f7c"/><polygon points="${corners}" fill="#1d6d56"/></svg>`,
  );
  const picture = await table.screenshot({ type: 'jpeg' });
  await table.close();
  return picture;
}

/** A click on the drawing, in millimetres of a board so deep. */
async function pointAt(hands: Hands, page: Page, x: number, y: number): Promise<void> {
  const box = await page.locator('[role="application"] svg').boundingBox();
  if (!box) throw new Error('no drawing');
  const scale = Math.min(box.width / (SIZE.x + 10), box.height / (SIZE.y + 10));
  const left = box.x + (box.width - (SIZE.x + 10) * scale) / 2;
  const top = box.y + (box.height - (SIZE.y + 10) * scale) / 2;
  await hands.clickAt(left + (x + 5) * scale, top + (SIZE.y + 5 - y) * scale);
}

const SIZE = { x: 110, y: 80 };
const KINDS: readonly { at: readonly [number, number]; name: string; for: string; contacts: string; family: string; amps: string; more: number }[] = [
  { at: [96, 66], name: 'STOP-X', for: 'X switch', contacts: '5v gnd 10', family: 'K3 latch', amps: '0,5', more: 2 },
  { at: [8, 70], name: 'TEMP-1', for: 'hot-end sensor', contacts: '60 gnd', family: 'K2 latch', amps: '', more: 1 },
  { at: [80, 40], name: 'FAN-1', for: 'part fan', contacts: 'vin s42', family: 'K2 latch', amps: '1', more: 3 },
  { at: [12, 14], name: 'HEAT-1', for: 'hot-end heater', contacts: 'vin s40', family: 'screw 5', amps: '10', more: 1 },
  { at: [40, 72], name: 'SHOW', for: 'display', contacts: 'gnd 5v 20..27', family: 'D10 box', amps: '0,5', more: 0 },
  { at: [40, 62], name: 'AUX', for: 'additions', contacts: 'gnd 3v3 5v 13 14 48 49 nc', family: 'K8 latch', amps: '0,3', more: 0 },
  { at: [96, 30], name: 'PROBE', for: 'bed probe', contacts: 'gnd 5v 50 gnd 15', family: 'K5 latch', amps: '1', more: 0 },
  { at: [90, 6], name: 'POWER', for: 'main supply', contacts: 'vin gnd', family: 'screw 7.5', amps: '15', more: 0 },
]; // prettier-ignore

const part = (page: Page, name: string) =>
  page.getByRole('navigation', { name: 'Parts of the board' }).getByRole('link', { name: new RegExp(`^${name}`) }); // prettier-ignore
const field = (page: Page, label: string) => page.getByLabel(label, { exact: true });

async function describeBoard(page: Page, hands: Hands): Promise<void> {
  await hands.click(part(page, 'Photo'));
  await page.getByLabel('Photo of the board').setInputFiles({ name: 'board.jpg', mimeType: 'image/jpeg', buffer: await photo(page) }); // prettier-ignore
  const picture = page.getByRole('img', { name: 'The board as it was photographed' });
  await picture.waitFor();
  const box = await picture.boundingBox();
  if (!box) throw new Error('no photo');
  for (const [index, [x, y]] of CORNERS.entries()) {
    await hands.clickAt(box.x + (box.width * x) / 1200, box.y + (box.height * y) / 900);
    await expect(page.getByRole('button', { name: /corner: / })).toHaveCount(index + 1);
  }
  await hands.type(field(page, 'Width, mm'), '11 cm');
  await hands.type(field(page, 'Depth, mm'), '80');

  await hands.click(part(page, 'Board'));
  await hands.type(field(page, 'Name'), 'Wagtail W3');
  await hands.type(field(page, 'Revision'), '1');
  await hands.pick(field(page, 'Chip'), 'Mica-C, marked Mica-C 2Q');
  await hands.type(field(page, 'Printed on it'), 'WAGTAIL W3');
  await hands.type(field(page, 'Supplies it may have, V'), '12 24');
  await hands.pick(field(page, 'Its drivers are'), 'plugged in');
  await hands.type(field(page, 'Pin of the host’s line, receiving'), '70');
  await hands.type(field(page, 'Pin of the host’s line, sending'), '71');
  await hands.click(button(page, 'Point at it: The chip, its middle'));
  await pointAt(hands, page, 80, 50);
  await hands.click(button(page, 'Point at it: The print, its middle'));
  await pointAt(hands, page, 60, 52);

  await hands.click(part(page, 'Headers'));
  for (const kind of KINDS) {
    await hands.click(button(page, 'Point at its contact 1'));
    await pointAt(hands, page, kind.at[0], kind.at[1]);
    const fresh = page.getByRole('group', { name: /^Header H\d/ });
    await hands.type(fresh.getByLabel('Name'), kind.name);
    const row = page.getByRole('group', { name: `Header ${kind.name}`, exact: true });
    await hands.type(row.getByLabel('For'), kind.for);
    await hands.type(page.getByRole('combobox', { name: 'Plug family' }), kind.family);
    if (kind.amps) await hands.type(field(page, 'Gives at most, A (if any)'), kind.amps);
    await hands.type(row.getByLabel('Contacts in order'), kind.contacts);
    for (let more = 0; more < kind.more; more += 1) await hands.click(button(page, /^One more like /));
  }
}

async function describeDrivers(page: Page, hands: Hands): Promise<void> {
  await hands.click(part(page, 'Driver places'));
  for (let index = 0; index < 4; index += 1) {
    await hands.click(button(page, 'One more driver place'));
    const place = page.getByRole('group', { name: `M${index + 1}`, exact: true });
    const pins = { 'Step pin': index * 2, 'Direction pin': index * 2 + 1, 'Enable pin': 80 + index };
    for (const [label, pin] of Object.entries(pins)) await hands.type(place.getByLabel(label), String(pin));
    // The next one stands beside it, with a plug of the same kind.
    if (index > 0) continue;
    await hands.click(place.getByRole('button', { name: 'Point at it: Motor plug, contact 1' }));
    await pointAt(hands, page, 10, 24);
    await hands.type(place.getByLabel('Motor plug family'), 'K4 latch');
    await hands.type(place.getByLabel('Its pitch, mm'), '2,54');
    await hands.type(place.getByLabel('Its wires in order'), 'a1, a2, b1, b2');
  }
  await hands.click(part(page, 'Rails, inputs'));
  for (const pin of ['60', '61']) {
    await hands.click(button(page, 'One more input with a resistor'));
    const input = page.getByRole('group', { name: `input with a resistor ${pin === '60' ? 1 : 2}` });
    await hands.type(input.getByLabel('Pin', { exact: true }), pin);
    if (pin !== '60') continue;
    await hands.type(input.getByLabel('Resistor, Ω'), '4,7 kohm');
    await hands.type(input.getByLabel('To, V'), '3,3');
  }
  await hands.click(part(page, 'Card and boot'));
  await hands.click(button(page, 'One more route'));
  await hands.click(page.getByLabel('A name it has seen before is ignored'));
  await hands.click(page.getByLabel('It renames the file it has taken'));
  await page.getByLabel('It renames the file it has taken').uncheck();
  await hands.type(field(page, 'Largest card it reads, GB'), '32');
  await hands.type(field(page, 'Bytes of its bootloader before the image'), '32768');
  await hands.type(field(page, 'How one sees that it was taken'), 'its lamp blinks');
}

test.describe.configure({ mode: 'serial' });
test.describe('a board nobody has described yet', () => {
  test('from a photo: drawn over it, checked while it is said, and used by a machine to its first image', async ({
    page,
  }) => {
    // A whole board, and a first build on a busy machine.
    test.setTimeout(480_000);
    const begun = await call(page, 'POST', '/descriptions', { from: 'nothing' });
    const { id, version } = (begun.body as { stored: { id: string; version: number } }).stored;
    const description = { jolly: 'description/1', answers: ANSWERS };
    expect((await call(page, 'PUT', `/descriptions/${id}`, { version, description })).status).toBe(200);
    await page.goto(`/describe/${id}?at=board`);
    await button(page, 'It is another: describe it').last().click();
    await button(page, 'Begin').click();
    const hands = new Hands(page);
    await describeBoard(page, hands);
    await expect(page.getByRole('application')).toHaveAccessibleName(/POWER/);
    // The rules speak while it is described.
    await expect(page.getByRole('region', { name: 'What is open' })).toContainText('Routes');
    const power = page.getByRole('group', { name: 'Header POWER', exact: true });
    await power.getByLabel('Contacts in order').fill('vin 250');
    await power.getByLabel('Contacts in order').press('Tab');
    await expect(page.getByRole('region', { name: 'What is open' })).toContainText('has no pin 250');
    await power.getByLabel('Contacts in order').fill('vin gnd');
    await power.getByLabel('Contacts in order').press('Tab');
    await expectAccessible(page);
    await describeDrivers(page, hands);
    await expect(page.getByText('It holds together')).toBeVisible();
    // The figure the guide names; nothing is asserted of it but that it is one.
    test.info().annotations.push({ type: 'acts', description: hands.told() });
    console.log(`Wagtail W3, ${66} contacts: ${hands.told()}`);
    // Left and gone on with: everything is there after a reload.
    await page.reload();
    await expect(page.getByText('It holds together')).toBeVisible();
    await button(page, 'Add this board').click();
    await expect(page.getByLabel('Controller board', { exact: true })).toHaveValue('wagtail-w3 1');
    await button(page, 'Put it on the shelf').click();
    await button(page, 'Only the record').click();
    await station(page, 'Wiring').click();
    await button(page, 'Propose the cheapest places').click();
    // Lead by lead, or all at once.
    await expect(docket(page)).toContainText(/proposed, not seen: x-switch, /);
    await page.getByRole('button', { name: /^x-switch, / }).press('Enter');
    const lead = page.getByRole('region', { name: 'Lead x-switch' });
    await lead.getByRole('button', { name: 'I have followed it: it sits there' }).click();
    await expect(lead).not.toContainText('nobody has looked');
    await lead.getByText('Colours of its leads, a note').click();
    await lead.getByLabel('signal').fill('white');
    await lead.getByLabel('signal').press('Enter');
    await lead.getByRole('button', { name: 'Lay the lead down' }).click();
    await page.getByLabel('Point at a header').selectOption('STOP-X');
    await expect(page.getByRole('region', { name: 'Header STOP-X' })).toContainText('In it: x-switch');
    await docket(page).getByRole('button', { name: 'I have followed every lead' }).click();
    await docket(page).getByRole('button', { name: 'Make the change' }).click();
    await expect(docket(page)).not.toContainText('Nobody has compared the leads');
    await station(page, 'Build').click();
    await button(page, 'Build').click();
    await expect(page.getByText(/Built/).first()).toBeVisible({ timeout: 180_000 });
    const saved = page.waitForEvent('download');
    await page.getByRole('link', { name: /^Intel HEX/ }).click();
    expect((await saved).suggestedFilename()).toMatch(/^whimbrel-[0-9a-f]{8}\.hex$/);
  });

  test('by keys on the drawing: chosen, moved, turned, copied, its contacts named', async ({ page }) => {
    await page.goto('/machines/dunlin/survey?at=board');
    await button(page, 'It is none of these: describe it').click();
    await page.getByLabel('Begin from').selectOption({ label: 'a copy of Pipit 2 1, under another name' });
    await button(page, 'Begin').click();
    await part(page, 'Headers').click();
    const drawing = page.getByRole('application');
    await drawing.focus();
    await page.keyboard.press('PageDown');
    const name = await drawing.getAttribute('aria-label');
    expect(name).toContain('contact 1');
    const id = /chosen|\. ([A-Z0-9-]+) at/.exec(name ?? '')?.[1] ?? '';
    const row = page.getByRole('group', { name: `Header ${id}`, exact: true });
    await page.keyboard.press('g');
    await page.keyboard.press('5');
    await expect(row.getByLabel('Contacts in order')).toHaveValue(/^gnd 5v/);
    const headers = await page.getByRole('group', { name: /^Header / }).count();
    await page.keyboard.press('c');
    await expect(page.getByRole('group', { name: /^Header / })).toHaveCount(headers + 1);
    const copied = await drawing.getAttribute('aria-label');
    await page.keyboard.press('ArrowUp');
    await expect(drawing).not.toHaveAccessibleName(copied ?? '');
    await page.keyboard.press('r');
    await expect(field(page, 'Contact 2 lies')).toHaveValue('up');
    await page.getByRole('link', { name: 'Back to where it is wanted' }).click();
    await page.goto('/');
    await expect(page.getByRole('region', { name: 'Being described' })).toContainText(
      'Board without a name yet',
    );
  });

  test('one’s own board and part are changed later; the machine that has them is named', async ({ page }) => {
    await page.goto('/');
    await page.getByText(/^Described here:/).click();
    await expect(page.getByText('on Whimbrel')).toBeVisible();
    await button(page, 'Change Wagtail W3 1').click();
    await part(page, 'Faults, tells').click();
    await button(page, 'One more known fault').click();
    await field(page, 'What happens').fill('the lamp flickers');
    await field(page, 'What happens').press('Enter');
    await field(page, 'Pins').fill('45');
    await field(page, 'Pins').press('Enter');
    await field(page, 'It hits').selectOption({ label: 'every sensor' });
    await field(page, 'How sure').selectOption({ label: 'reported' });
    await field(page, 'The way out').fill('leave that pin free');
    await field(page, 'The way out').press('Enter');
    await button(page, 'Keep this board').click();
    await expect(page.getByRole('heading', { name: 'Jolly Cog' })).toBeVisible();
    const entries = await call(page, 'GET', '/machines/whimbrel/entries');
    expect(JSON.stringify(entries.body)).toContain('Wagtail W3 rev 1 was described anew');
  });
});
