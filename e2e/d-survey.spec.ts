import { expect, type Locator, type Page, test } from './test';
import { ruffAtBringUp } from './ownMachines';

test.describe.configure({ mode: 'serial' });

const survey = (id: string, at = '') => `/machines/${id}/survey${at && `?at=${at}`}`;
const docket = (page: Page) => page.getByRole('complementary', { name: 'Docket' });
const station = (page: Page, name: string) =>
  page.getByRole('navigation', { name: 'Stations' }).getByRole('link', { name: new RegExp(`^${name}`) });
const section = (page: Page, name: string) =>
  page.getByRole('navigation', { name: 'Survey' }).getByRole('link', { name });
const refused = (page: Page) => page.getByRole('main').getByRole('alert');

test('Plover’s survey: the tail, the board, the old settings, photos, and everything at hand', async ({
  page,
}) => {
  await page.goto(survey('plover'));
  await expect(page.getByRole('heading', { name: /^4 changes, 1?\d\d consequences$/ })).toBeVisible();
  await expect(station(page, 'Wiring')).toHaveAccessibleName(/^Wiring ?, 0 of 26 done$/);
  await page.getByRole('button', { name: /settings change by themselves/ }).click();
  const list = page.getByRole('region', { name: /settings change by themselves/ });
  await expect(list.getByRole('listitem').filter({ hasText: 'X reversed' })).toContainText('on → off');

  await section(page, 'Which board').click();
  await page.getByRole('textbox', { name: 'Printed on the board' }).fill('FENW1CK F?');
  const next = page.getByRole('region', { name: 'Look at this next' });
  await expect(next).toContainText('Read the marking on the biggest chip.');
  await expect(next.getByRole('img')).toHaveCount(2);
  await next.getByRole('button', { name: 'Flint-B 9P' }).click();
  const first = page.getByRole('list', { name: 'Boards, most likely first' }).getByRole('listitem').first();
  await expect(first).toContainText('Fenwick F8 rev 2');
  await first.getByRole('button', { name: 'This is it' }).click();
  await expect(page.getByText('You know which board it is.')).toBeVisible();

  await section(page, 'Present settings').click();
  await page.getByRole('button', { name: 'From the drawer: plover-settings.txt' }).click();
  const steps = page.getByRole('row', { name: /Extruder steps/ });
  await expect(steps).toContainText('330.0991');
  await expect(page.getByRole('row', { name: /Hot end PID P/ })).toContainText(
    'it belongs to the board, which changes',
  );
  await steps.getByRole('button', { name: 'Take 341.6' }).click();
  await expect(steps).toContainText('taken');
  await page.getByText('4 lines not understood').click();
  await expect(page.getByText('panel bright=180')).toBeVisible();
  await page.getByRole('button', { name: 'All of these are decided' }).click();
  await expect(section(page, 'Present settings')).toContainText('done');

  await section(page, 'The way back').click();
  await page.getByRole('button', { name: 'From the drawer: plover-f8-maker.hex' }).click();
  await expect(page.getByRole('list', { name: 'Kept' })).toContainText(
    'its vector points into the memory of Flint-B',
  );

  await section(page, 'What goes').click();
  await page.getByRole('checkbox', { name: 'I know what goes, and go on' }).click();

  await section(page, 'Photos').click();
  const photos = page.locator('input[type=file][aria-label="Photos"]');
  await photos.setInputFiles({ name: 'notes.png', mimeType: 'image/png', buffer: Buffer.from('no picture') });
  await expect(refused(page)).toContainText('notes.png is not a picture');
  await photos.setInputFiles({
    name: 'left side.png',
    mimeType: 'image/png',
    buffer: await page.screenshot(),
  });
  await page.getByRole('img', { name: 'left side, 0 pins' }).click({ position: { x: 80, y: 60 } });
  await page.getByLabel('Header').selectOption('LX');
  await page.getByRole('button', { name: 'Pin it there' }).click();
  await expect(page.getByRole('img', { name: 'left side, 1 pin' })).toBeVisible();

  await section(page, 'Before you start').click();
  await expect(page.getByText('a lead of 850 mm with 4 wires for probe')).toBeVisible();
  await page.keyboard.press('a');
  await expect(page.getByText('Mains shocks.').last()).toBeVisible();
  await page.keyboard.press('Enter');
  await expect(page.getByRole('dialog')).toHaveCount(0);
  const boxes = page.getByRole('main').getByRole('checkbox');
  const count = await boxes.count();
  for (let index = 0; index < count; index += 1) {
    await boxes.nth(index).click();
    await expect(boxes.nth(index)).toBeChecked();
  }
  await page.getByRole('button', { name: 'Everything is at hand' }).click();
  await expect(station(page, 'Survey')).toHaveAccessibleName(/^Survey ?, 7 of 7 done$/);

  await station(page, 'Wiring').click();
  await page.getByRole('button', { name: 'x-switch, STOP-X' }).click();
  const lead = page.getByRole('region', { name: 'Lead x-switch' });
  await expect(lead.getByRole('img', { name: 'left side: LX' })).toBeVisible();
  await page.getByRole('navigation', { name: 'Wiring' }).getByRole('link', { name: 'Swap sheet' }).click();
  await page.getByRole('checkbox', { name: 'Move the lead of x-switch' }).click();
  await expect(station(page, 'Wiring')).toHaveAccessibleName(/^Wiring ?, 1 of 26 done$/);
  await station(page, 'Settings').click();
  await expect(docket(page)).toContainText(
    'a date or version in the name lets the board prove which image runs',
  );
  await station(page, 'Logbook').click();
  await expect(page.getByRole('main')).toContainText(
    'Done: Move the lead of x-switch → STOP-X: signal 3, ground 2',
  );
});

test('a change taken out of a job that is half done leaves what to put back, and nothing else', async ({
  page,
}) => {
  await page.goto(survey('plover', 'job'));
  await page.getByRole('button', { name: 'Take out: Another fan' }).click();
  await page.getByRole('button', { name: 'Save the changes' }).click();
  await expect(docket(page)).toContainText('hotend-fan burns: it is made for 12 V and gets 24 V then');
  await expect(station(page, 'Settings')).toHaveAccessibleName(/stopped/);
  await page.getByLabel('And another change').selectOption('fan');
  await page.getByRole('button', { name: 'Add this change' }).click();
  const fan = page.getByRole('group', { name: 'Another fan' });
  await fan.getByLabel('Which').selectOption('hotend');
  await expect(page.getByRole('button', { name: 'Save the changes' })).toBeDisabled();
  await fan.getByLabel('Part').selectOption('fan-24-40');
  await page.getByRole('button', { name: 'Save the changes' }).click();
  await page.getByRole('button', { name: 'Take it over' }).click();
  await expect(docket(page)).not.toContainText('burns');
  await expect(station(page, 'Settings')).not.toHaveAccessibleName(/stopped/);
  await expect(station(page, 'Wiring')).toHaveAccessibleName(/^Wiring ?, 1 of 26 done$/);
});

test('what cannot be kept is refused in words, and nothing is kept', async ({ page }) => {
  await page.goto(survey('bittern', 'way-back'));
  const file = page.locator('input[type=file][aria-label="File to keep"]');
  const kept = page.getByRole('list', { name: 'Kept' }).getByRole('listitem');
  await expect(kept).toHaveCount(1);
  const give = (name: string, buffer: Buffer) =>
    file.setInputFiles({ name, mimeType: 'application/octet-stream', buffer });
  await give('nothing.bin', Buffer.alloc(0));
  await expect(refused(page)).toContainText('nothing.bin: the file is empty (0 bytes)');
  await give('erased.bin', Buffer.alloc(4096, 0xff));
  await expect(refused(page)).toContainText('every byte is 0xFF');
  await give('huge.bin', Buffer.alloc(17 * 2 ** 20));
  await expect(refused(page)).toContainText('at most 16777216 (16 MB)');
  await expect(kept).toHaveCount(1);
  await page.goto(survey('bittern', 'report'));
  await page.getByRole('textbox', { name: 'Or paste it here' }).fill('this is a letter');
  await page.getByRole('button', { name: 'Read it', exact: true }).click();
  await expect(refused(page)).toContainText('no setting was found');
});

test('a report of another machine is recognised', async ({ page }) => {
  await page.goto(survey('dunlin', 'report'));
  await page.getByRole('textbox', { name: 'Or paste it here' }).fill('M92 X160 Y160 Z1600 E415');
  await page.getByRole('button', { name: 'Read it', exact: true }).click();
  await expect(page.getByRole('main').getByRole('alert')).toContainText('This is hardly a report of Dunlin');
});

test('where there is no good reason it says to leave the machine alone, and can be overruled', async ({
  page,
}) => {
  await page.goto(survey('dunlin', 'job'));
  await page.getByLabel('Why you want to touch this machine').selectOption('newer');
  const advice = page.getByRole('main').getByRole('status');
  await expect(advice).toContainText('Leave it alone');
  await page.getByLabel('The change').selectOption('plate');
  await page.getByRole('button', { name: 'Add this change' }).click();
  await expect(advice).toContainText('A part of the same kind changes nothing the firmware knows.');
  const open = page.getByRole('button', { name: 'Open the job' });
  await expect(open).toBeDisabled();
  await page
    .getByRole('textbox', { name: 'Overrule this, in your own words' })
    .fill('to have it in the record');
  await open.click();
  await expect(page.getByText('Started against the advice: to have it in the record.')).toBeVisible();
  await expect(station(page, 'Build')).toHaveAccessibleName(/^Build ?, nothing to do in this job$/);
  await page.getByRole('button', { name: 'Pause the job' }).click();
  await expect(page.getByRole('button', { name: 'Resume the job' })).toBeVisible();
  await page.getByRole('button', { name: 'Abandon it' }).click();
  const dialog = page.getByRole('dialog', { name: /^Abandon “A new plate/ });
  await expect(dialog).toContainText('cannot be opened again');
  await dialog
    .getByRole('button', { name: /^Abandon/ })
    .first()
    .click();
  await expect(page.getByRole('heading', { name: 'What changed, or what is missing?' })).toBeVisible();
  await station(page, 'Logbook').click();
  await expect(page.getByRole('main')).toContainText('Job abandoned: A new plate of the same kind');
});

test('a kept image goes back onto the board, after a question that names what it overwrites', async ({
  page,
}) => {
  await page.goto('/machines/dunlin/flash?route=back');
  await expect(page.getByRole('radio', { name: /dunlin-s4-maker.uf2/ })).toBeChecked();
  await expect(page.getByRole('main')).toContainText('What the flash holds is not on record here.');
  await page.getByRole('button', { name: 'Write it', exact: true }).click();
  await page.getByRole('button', { name: /^Overwrite whatever the flash holds with/ }).click();
  await expect(docket(page)).toContainText('It is written, and reads back the same.', { timeout: 60_000 });
  await expect(docket(page)).toContainText('written by debug probe: dunlin-s4-maker.uf2');
  await page.getByRole('button', { name: 'Write it', exact: true }).click();
  await expect(page.getByRole('button', { name: /^Overwrite .* with dunlin-s4-maker.uf2$/ })).toBeVisible();
  await page.goto('/machines/dunlin/logbook');
  await expect(docket(page)).toContainText('The board holds no whole image of ours.');
});

test('a board nobody knows is described from one like it, and found afterwards', async ({ page }) => {
  await page.goto(survey('dunlin', 'board'));
  await page.getByRole('button', { name: 'It is none of these: describe it' }).click();
  await page.getByLabel('Begin from').selectOption({ label: 'a copy of Sedge S4 1, under another name' });
  await page.getByRole('button', { name: 'Begin', exact: true }).click();
  const field = async (label: string, text: string) => {
    await page.getByLabel(label, { exact: true }).fill(text);
    await page.getByLabel(label, { exact: true }).press('Tab');
  };
  await field('Name', 'Curlew C5');
  await field('Revision', '1');
  await field('Printed on it', 'CURLEW C5');
  await page.getByRole('button', { name: 'Add this board' }).click();
  await page.getByRole('textbox', { name: 'Printed on the board' }).fill('curl?w');
  await expect(
    page.getByRole('list', { name: 'Boards, most likely first' }).getByRole('listitem').first(),
  ).toContainText('Curlew C5');
});

async function tabTo(page: Page, target: Locator): Promise<void> {
  await target.waitFor();
  for (let presses = 0; presses < 150; presses += 1) {
    if (await target.evaluate((element) => element === document.activeElement)) return;
    await page.keyboard.press('Tab');
  }
  throw new Error(`tab never reached ${String(target)}`);
}

test('a job by keyboard alone: opened, its tail read, a calibration ticked off, finished', async ({
  page,
}) => {
  await page.goto(survey('bittern'));
  await tabTo(page, page.getByLabel('The change'));
  await page.keyboard.type('Another nozzle');
  await page.keyboard.press('Tab');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('group', { name: 'Another nozzle' })).toBeVisible();
  await expect(page.getByRole('status')).toContainText('Do not flash');
  await tabTo(page, page.getByRole('button', { name: 'Open the job' }));
  await page.keyboard.press('Enter');
  await expect(page.getByRole('heading', { name: /^1 change, \d consequences$/ })).toBeVisible();
  await expect(station(page, 'Flash')).toHaveAccessibleName(/^Flash ?, nothing to do in this job$/);
  await tabTo(page, page.getByRole('button', { name: /calibrations fall due/ }));
  await page.keyboard.press('Enter');
  await expect(page.getByRole('region', { name: /calibrations fall due/ })).toContainText('Z offset by shim');
  await page.keyboard.press('7');
  await tabTo(page, page.getByRole('checkbox', { name: 'Z offset by shim' }));
  await page.keyboard.press('Space');
  await expect(station(page, 'Calibrate')).toHaveAccessibleName(/^Calibrate ?, 1 of \d done$/);
  await page.keyboard.press('1');
  await tabTo(page, section(page, 'The job'));
  await page.keyboard.press('Enter');
  await tabTo(page, page.getByRole('button', { name: 'It is finished' }));
  await page.keyboard.press('Enter');
  // What is left is listed, and stays due: a key of its own ends the job all the same.
  const question = page.getByRole('dialog', { name: /finished\?$/ });
  await expect(question.getByRole('list', { name: 'Not done yet' })).toContainText('Calibrate: 1 of');
  await tabTo(page, question.getByRole('button', { name: 'Finish it all the same' }));
  await page.keyboard.press('Enter');
  await expect(docket(page)).toContainText('No job is open.');
});

test('the settings are read over the link from the board that runs', async ({ page }) => {
  await page.goto('/machines/plover/build');
  await page.getByRole('button', { name: 'Build', exact: true }).click();
  await expect(page.getByRole('heading', { name: 'Built from the settings as they are' })).toBeVisible({
    timeout: 180_000,
  });
  await station(page, 'Flash').click();
  await page.getByRole('button', { name: 'Write the card' }).click();
  await expect(page.getByText('The card is in the slot')).toBeVisible();
  await page.getByRole('button', { name: 'Switch the power on' }).click();
  await expect(docket(page)).toContainText('The board took the image.');
  await station(page, 'Survey').click();
  await section(page, 'Present settings').click();
  await expect(page.getByRole('main')).toContainText(
    'Over the link answers Alder A32 rev 1.1, which is not the old board',
  );
  await expect(page.getByRole('button', { name: 'Read it over the link' })).toBeDisabled();

  // A value that somebody stores on the board is told against the machine file.
  const power = (way: string) => page.getByRole('button', { name: `Switch the power ${way}` });
  await station(page, 'Bring-up').click();
  for (const line of ['M92 X123.5', 'M500']) {
    await page.getByRole('textbox', { name: 'Ask the board' }).fill(line);
    await page.keyboard.press('Enter');
    await expect(page.getByRole('region', { name: 'What the board says' })).toContainText(
      new RegExp(`> ${line}\\s*done`),
    );
  }
  await power('off').click();
  await power('on').click();
  await expect(docket(page)).toContainText(
    '“X steps” is 123.5 steps/mm on the board and 100 steps/mm in the machine file.',
  );
  await station(page, 'Logbook').click();
  await expect(docket(page)).toContainText('upkeep.due');

  await ruffAtBringUp(page);
  await station(page, 'Survey').click();
  await section(page, 'Present settings').click();
  await page.getByRole('button', { name: 'Read it over the link' }).click();
  await page.getByText('The same as it would be').click();
  await expect(page.getByRole('row', { name: /^X steps/ })).toContainText('100 steps/mm');
  await section(page, 'The way back').click();
  await expect(page.getByRole('list', { name: 'Kept' })).toContainText('ruff-from-link.txt');
});
