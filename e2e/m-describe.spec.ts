import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { Hands } from './hands';
import { expectAccessible } from './accessible';
import { button, call, docket, station } from './ownMachines';
import { expect, type Locator, type Page, test } from './test';

const begin = async (page: Page) => {
  await page.goto('/');
  await button(page, 'Describe a machine').click();
  await expect(page.getByLabel('What you call it', { exact: true })).toBeVisible();
};
/** The pages of the description, by counted hands. */
const pagesOf = (page: Page, hands: Hands) => ({
  leaf: (name: string) =>
    hands.click(page.getByRole('navigation', { name: 'Pages' }).getByRole('link', { name: new RegExp(`^${name}`) })),
  fill: (label: string, text: string) => hands.type(page.getByLabel(label, { exact: true }), text, 'Enter'),
  pick: (label: string, choice: string | { index: number }) => hands.pick(page.getByLabel(label, { exact: true }), choice),
}); // prettier-ignore

/** Goes on with the tabulator until it is there, as a person does. */
async function tabTo(page: Page, target: Locator): Promise<void> {
  await target.waitFor();
  for (let presses = 0; presses < 120; presses += 1) {
    // What the tabulator passes may hide it for a moment: leads show what they are while they have the focus.
    const there = (await target.count()) > 0;
    if (there && (await target.evaluate((element) => element === document.activeElement))) return;
    await page.keyboard.press('Tab');
  }
  throw new Error(`the tabulator never reached ${String(target)}`);
}

test.describe.configure({ mode: 'serial' });
test.describe('your own machine, from nothing', () => {
  test('looked at and answered by mouse: on the shelf, with what is not known as questions, to its first image', async ({
    page,
  }) => {
    await begin(page);
    const hands = new Hands(page);
    const { leaf, fill, pick } = pagesOf(page, hands);
    await fill('What you call it', 'Knot');
    await fill('Where it stands', 'Cellar');
    await leaf('What moves');
    await hands.check(page.getByRole('radio', { name: /the plate slides/ }));
    await leaf('Plate and travel');
    await fill('Plate, left to right', '30 cm');
    await fill('Plate, front to back', '200,5');
    await fill('Nozzle goes past the left edge', '4');
    await fill('Nozzle goes past the right edge', '0,5 in');
    await fill('Nozzle goes past the front edge', 'much');
    await expect(page.getByText('“much” is no number of mm')).toBeVisible();
    await fill('Nozzle goes past the front edge', '3');
    await fill('Nozzle goes past the back edge', '7');
    await fill('From the nozzle on the plate to its highest place', '310');
    await expect(page.getByRole('img', { name: /from above/ })).toContainText('300 × 200.5 mm');
    await leaf('Ends and switches');
    await pick('X: its switch is met', 'at the left');
    await pick('X: kind of switch', { index: 1 });
    await pick('Y: its switch is met', 'with the nozzle at the back of the plate');
    await pick('Y: kind of switch', { index: 1 });
    await pick('Z: its switch is met', 'with the nozzle on the plate');
    await pick('Z: kind of switch', { index: 1 });
    await leaf('X and Y');
    await pick('X is moved by', 'a belt');
    await fill('X belt, from tooth to tooth', '3 mm');
    await fill('X pulley, teeth', '18');
    await pick('Y is moved by', 'a screw');
    await fill('Y screw, rise in one turn', '12');
    await leaf('Z ');
    await pick('Z is moved by', 'a screw');
    await fill('Z screw, rise in one turn', '4');
    await leaf('Extruder');
    await fill('Drive roller of the extruder, diameter', '11,2');
    await leaf('Motors and drivers');
    for (const axis of ['X', 'Y', 'Z', 'the extruder']) await pick(`Motor of ${axis}`, { index: 1 });
    await pick('Drivers', 'Hush Plain');
    await pick('Microsteps', '16');
    // Begun, and left: after a reload everything is there.
    await page.reload();
    await expect(page.getByLabel('Microsteps', { exact: true })).toHaveValue('16');

    await leaf('Hot end');
    await hands.click(button(page, 'It is another: describe it').first());
    const form = page.getByRole('group', { name: /Describe it: a heater/ });
    await hands.type(form.getByLabel('Its name'), 'Brazier cartridge');
    await hands.type(form.getByLabel('Made for, V'), '24V');
    await hands.type(form.getByLabel('Stands at most, °C'), '285');
    await hands.type(form.getByLabel(/No label/), '14,4 ohm');
    await hands.click(form.getByRole('button', { name: 'Its watts: 40 W' }));
    await hands.click(form.getByRole('button', { name: 'Add this part' }));
    await expect(form).toContainText('Choose the part whose leads it has.');
    await pick('Its leads, and what is not asked here, are like those of', 'Cartridge heater 24 V 40 W');
    await hands.click(form.getByRole('button', { name: 'Add this part' }));
    await expect(page.getByLabel('Hot end: its heater', { exact: true })).toHaveValue('brazier-cartridge');
    await pick('Hot end: its sensor', 'T100-A thermistor');
    await leaf('Heated bed');
    await pick('Bed: its heater', 'there is none');
    await leaf('Bed probe');
    await pick('Probe that finds the plate', 'there is none');
    await leaf('Supply and board');
    await fill('Supply, volts', '24V');
    await fill('Supply, amperes at most', '12');
    await pick('Controller board', 'Alder A32, revision 1.1');
    await hands.check(page.getByRole('radio', { name: 'yes' }));
    await expectAccessible(page);
    await hands.click(button(page, 'Put it on the shelf'));

    console.log(`Knot, described from nothing: ${hands.told()}`);
    await expect(page.getByText('Knot is on the shelf. What did you come for?')).toBeVisible();
    await hands.click(button(page, 'Only the record'));
    await station(page, 'Wiring').click();
    await hands.click(button(page, 'Propose the cheapest places'));
    await expect(docket(page)).toContainText('Nobody has compared the leads');
    await docket(page).getByRole('button', { name: 'I have followed every lead' }).click();
    await docket(page).getByRole('button', { name: 'Make the change' }).click();
    await expect(docket(page)).not.toContainText('Nobody has compared the leads');
    await station(page, 'Settings').click();
    await expect(docket(page)).toContainText(
      'Not known yet of X, Y, Z and the extruder: which way the shaft turns',
    );
    await expect(docket(page)).toContainText('Not known yet: Fan that cools the print.');
    // What nobody said is not shown as the first of a list.
    await page.getByRole('link', { name: 'X axis' }).click();
    await expect(page.getByLabel('Shaft turns, towards plus').locator('option:checked')).toHaveText(
      'not known',
    );
    await station(page, 'Build').click();
    await hands.click(button(page, 'Build'));
    await expect(page.getByText(/Built/).first()).toBeVisible({ timeout: 180_000 });
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
    await pagesOf(page, new Hands(page)).leaf('X and Y');
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

  test('by keyboard alone: from nothing to the first built image', async ({ page }) => {
    let presses = 0;
    await page.exposeFunction('keyHeard', () => (presses += 1));
    await page.addInitScript(() => {
      const { keyHeard } = window as unknown as { keyHeard: () => void }; // what the test has exposed
      window.addEventListener('keydown', keyHeard, { capture: true });
    });
    await page.goto('/');
    await tabTo(page, button(page, 'Describe a machine'));
    await page.keyboard.press('Enter');
    const said: [page: string, answers: [label: string, keys: string][]][] = [
      ['Name', [['What you call it', 'Reef'], ['Where it stands', 'Attic']]],
      ['Plate and travel', [
        ['Plate, left to right', '31 cm'], ['Plate, front to back', '280'], ['Nozzle goes past the left edge', '2'],
        ['Nozzle goes past the right edge', '3'], ['Nozzle goes past the front edge', '0'], ['Nozzle goes past the back edge', '4,5'],
        ['From the nozzle on the plate to its highest place', '250'],
      ]],
      ['Ends and switches', [
        ['X: its switch is met', 'at the left'], ['X: kind of switch', 'Optical'], ['Y: its switch is met', 'with the nozzle at the front'],
        ['Y: kind of switch', 'Optical'], ['Z: its switch is met', 'with the nozzle on'], ['Z: kind of switch', 'Magnetic'],
      ]],
      ['X and Y', [
        ['X is moved by', 'a belt'], ['X belt, from tooth to tooth', '2'], ['X pulley, teeth', '20'],
        ['Y is moved by', 'a belt'], ['Y belt, from tooth to tooth', '3'], ['Y pulley, teeth', '16'],
      ]],
      ['Z', [['Z is moved by', 'a screw'], ['Z screw, rise in one turn', '2']]],
      ['Extruder', [['Drive roller of the extruder, diameter', '10,5']]],
      ['Motors and drivers', [
        ['Motor of X', 'Motor'], ['Motor of Y', 'Motor'], ['Motor of Z', 'Motor'], ['Motor of the extruder', 'Motor'], ['Drivers', 'Hush Plain'], ['Microsteps', '32'],
      ]],
      ['Hot end', [['Hot end: its heater', 'Cartridge heater 24'], ['Hot end: its sensor', 'T100-B']]],
      ['Heated bed', [['Bed: its heater', 'there is none']]],
      ['Bed probe', [['Probe that finds the plate', 'there is none']]],
      ['Supply and board', [['Supply, volts', '24V'], ['Supply, amperes at most', '15'], ['Controller board', 'Alder A32, revision 1.0']]],
    ]; // prettier-ignore
    const titles = ['Name', 'What moves', ...said.slice(1).map(([title]) => title)];
    titles.splice(titles.indexOf('Bed probe'), 0, 'Heated chamber');
    titles.splice(titles.indexOf('Supply and board'), 0, 'Fans and the rest');
    for (const [index, title] of titles.entries()) {
      await expect(page.getByRole('heading', { name: title, exact: true })).toBeVisible();
      if (title === 'What moves') {
        await tabTo(page, page.getByRole('radio').first());
        await page.keyboard.press('Space');
      }
      for (const [label, keys] of said.find(([entry]) => entry === title)?.[1] ?? []) {
        const field = page.getByLabel(label, { exact: true });
        await tabTo(page, field);
        await page.keyboard.type(keys);
        await page.keyboard.press('Enter');
      }
      const next = titles[index + 1];
      if (next === undefined) break;
      await tabTo(page, button(page, `Next: ${next}`));
      await page.keyboard.press('Enter');
    }
    const press = async (target: Locator) => {
      await tabTo(page, target);
      await page.keyboard.press('Enter');
    };
    await expect(button(page, 'Put it on the shelf')).toBeEnabled();
    await press(button(page, 'Put it on the shelf'));
    console.log(`Reef, described by keyboard alone: ${presses} presses, tabulators counted`);
    await press(button(page, 'Only the record'));
    await press(station(page, 'Wiring'));
    await press(button(page, 'Propose the cheapest places'));
    await press(docket(page).getByRole('button', { name: 'I have followed every lead' }));
    await press(docket(page).getByRole('button', { name: 'Make the change' }));
    await expect(docket(page)).not.toContainText('Nobody has compared the leads');
    await press(station(page, 'Build'));
    await expect(button(page, 'Build')).toBeEnabled();
    await press(button(page, 'Build'));
    await expect(page.getByText(/Built/).first()).toBeVisible({ timeout: 180_000 });
  });

  test('a machine is copied, archived, deleted and put back', async ({ page }) => {
    await page.goto('/');
    await button(page, 'What to do with Dunlin').click();
    await page.getByRole('menuitem', { name: 'Copy it' }).click();
    await page.getByLabel('Name of the copy').fill('Stint');
    await button(page, 'Copy Dunlin').click();
    await expect(page.getByRole('link', { name: 'Stint' }).first()).toBeVisible();
    await button(page, 'What to do with Stint').click();
    await page.getByRole('menuitem', { name: /Rename it/ }).click();
    await page.getByLabel('Where it stands', { exact: true }).fill('Porch');
    await button(page, 'Keep this name').click();
    await expect(page.getByRole('dialog')).toHaveCount(0);
    const stint: object = (await call(page, 'GET', '/machines/stint')).body;
    expect(stint).toMatchObject({ machine: { name: 'Stint', place: 'Porch' } });
    await button(page, 'What to do with Stint').click();
    await page.getByRole('menuitem', { name: /Delete it/ }).click();
    await button(page, 'Delete Stint').click();
    await expect(page.getByRole('link', { name: 'Stint' })).toHaveCount(0);
    await page.getByText(/Not on the shelf: 1/).click();
    await expect(button(page, 'Put Stint back')).toBeVisible();
    // Who has it open in a window is told, and puts it back from there.
    await page.goto('/machines/stint/settings');
    await expect(page.getByText('Stint was deleted.')).toBeVisible();
    await button(page, 'Put it back on the shelf').click();
    await expect(page.getByText('Stint was deleted.')).toHaveCount(0);
    await page.getByRole('link', { name: 'Shelf' }).click();
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
