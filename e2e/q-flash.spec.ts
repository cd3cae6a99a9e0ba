import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { parse } from 'yaml';
import { build, button, call, change, docket, lay, slip, station } from './ownMachines';
import { goThrough } from './proving';
import { expect, type Page, test } from './test';

test.describe.configure({ mode: 'serial' });

/** A copy of a demo machine with a newest build and nothing in its flash. */
async function built(page: Page, id: string, name: string, from: string): Promise<void> {
  await page.goto('/');
  await lay(page, id, name, from);
  await build(page, id);
}
/** Plover as it stood on the bench before its job: an eight-bit board. */
async function whimbrel(page: Page): Promise<void> {
  await page.goto('/');
  const job = parse(readFileSync(join(import.meta.dirname, '../catalogue/demo/jobs/plover.yaml'), 'utf8')) as { before: object }; // the demo's own file
  const file = JSON.stringify({ ...job.before, id: 'whimbrel', name: 'Whimbrel' });
  const { status } = await call(page, 'POST', '/machines', { file });
  if (status === 200) await build(page, 'whimbrel');
} // prettier-ignore
const route = (page: Page, title: RegExp) =>
  page.getByRole('navigation', { name: 'Routes' }).getByRole('link', { name: title });
async function open(page: Page, id: string, title: RegExp): Promise<void> {
  await page.goto(`/machines/${id}/flash`);
  await route(page, title).click();
  const off = button(page, 'Switch the power off');
  if (await off.isVisible()) await off.click();
}
/** As fast as the bench can: the tool's own time is not what is tested. */
async function hurry(page: Page, id: string): Promise<void> {
  await page.goto(`/machines/${id}/bring-up`);
  await page.getByLabel('Speed of the bench').selectOption('as fast as can be, while it works');
  await station(page, 'Flash').click();
}
async function write(page: Page): Promise<void> {
  await button(page, 'Write it').click();
  const sure = page.getByRole('button', { name: /^Overwrite .* with/ });
  if (await sure.isVisible()) await sure.click();
}
async function provesIdentity(page: Page, name: string): Promise<void> {
  await station(page, 'Bring-up').click();
  await page.getByRole('main').getByRole('button', { name: 'Switch the power on' }).click();
  await expect(page.getByLabel('Identity')).toContainText(name);
  // What was proven of this very image before is proven still.
  const proof = slip(page, 'The right image runs');
  if (await proof.getByRole('button', { name: /^Test/ }).isVisible())
    await goThrough(page, 'The right image runs');
  await expect(proof).toContainText('Proven');
  await page.getByRole('button', { name: 'Switch the power off' }).click();
}
/** `by` tells this run's outcome from that of a run before. */
async function flashedBy(page: Page, id: string, title: RegExp, says: string, by: string): Promise<void> {
  await hurry(page, id);
  await route(page, title).click();
  await write(page);
  await expect(slip(page, says)).toContainText(by, { timeout: 60_000 });
}
const READS_BACK = 'It is written, and reads back the same.';

test.describe('from unflashed to the right image', () => {
  test('by three wires, by USB update, and by the card over USB', async ({ page }) => {
    await built(page, 'ruff', 'Ruff', 'plover');
    await flashedBy(page, 'ruff', /^Three wires/, READS_BACK, 'written by debug probe');
    await provesIdentity(page, 'Ruff');
    await open(page, 'ruff', /^USB update/);
    await expect(page.getByRole('main')).toContainText('Bridge the two pads');
    await flashedBy(page, 'ruff', /^USB update/, READS_BACK, 'written by USB update');
    await provesIdentity(page, 'Ruff');
    // Over USB the card has to be in the slot, and the board on.
    await open(page, 'ruff', /^By card/);
    await button(page, 'Write the card').click();
    await expect(page.getByText('The card is in the slot, with')).toBeVisible();
    await button(page, 'Switch the power on').click();
    await expect(slip(page, 'The board took the image.')).toBeVisible();
    await route(page, /^Card over USB/).click();
    await button(page, 'Write the card').click();
    await button(page, 'Switch the power off and on').click();
    await expect(page.getByRole('region', { name: 'Attempts' }).getByRole('listitem').first()).toContainText(
      'taken',
    );
    await station(page, 'Logbook').click();
    await expect(page.getByRole('main')).toContainText('by debug probe from');
    await expect(page.getByRole('main')).toContainText('by USB update from');
  });

  test('by USB serial, and as a USB drive', async ({ page }) => {
    await built(page, 'knot', 'Knot', 'bittern');
    await open(page, 'knot', /^USB serial/);
    await hurry(page, 'knot');
    await route(page, /^USB serial/).click();
    await button(page, 'Only try whether it answers').click();
    await expect(slip(page, 'Its bootloader answers.')).toContainText('Nothing was written');
    await expect(route(page, /^Bootloader/)).toContainText('is there');
    await write(page);
    await expect(slip(page, READS_BACK)).toBeVisible();
    await provesIdentity(page, 'Knot');
    await built(page, 'sanderling', 'Sanderling', 'dunlin');
    await flashedBy(
      page,
      'sanderling',
      /^USB drive/,
      'The drive took every block and left by itself.',
      'written as a USB drive',
    );
    await provesIdentity(page, 'Sanderling');
  });

  test('by six wires; its labels are translated, and the board is turned as it lies', async ({ page }) => {
    await whimbrel(page);
    await open(page, 'whimbrel', /^Six wires/);
    const wiring = page.getByRole('region', { name: 'Wiring of the tool' });
    await expect(wiring.getByRole('row', { name: /TX SI data to the chip/ })).toBeVisible();
    await wiring.getByLabel('Your tool').selectOption('Dabchick Ten');
    await expect(wiring.getByRole('row', { name: /OUT SI data to the chip/ })).toBeVisible();
    await expect(wiring).toContainText('gives no voltage');
    await button(page, 'Turn the board a quarter').click();
    await expect(wiring.getByRole('img', { name: /OUT to SI/ })).toBeVisible();
    await wiring.getByLabel('Your tool').selectOption('A spare Fenwick F8 as programmer');
    await expect(wiring).toContainText('Flash the spare board');
    await flashedBy(page, 'whimbrel', /^Six wires/, READS_BACK, 'written by programmer');
    await provesIdentity(page, 'Whimbrel');
  });
});

test('a flash that is cut is rescued; a board without bootloader gets one', async ({ page }) => {
  await whimbrel(page);
  await open(page, 'whimbrel', /^USB serial/);
  await write(page);
  await expect(page.getByRole('group', { name: 'The tool' })).toContainText(/writing/i, { timeout: 60_000 });
  await button(page, 'Let the power go, to see what is left').click();
  const cut = slip(page, /^The power went while it was/);
  await expect(cut).toContainText('Its bootloader was not touched: begin again over USB serial.');
  await expect(cut).toContainText('no whole image of ours');
  await hurry(page, 'whimbrel');
  await route(page, /^USB serial/).click();
  await write(page);
  await expect(slip(page, READS_BACK)).toBeVisible();

  // A bootloader that is missing: nobody answers, and the wires put one in.
  await station(page, 'Bring-up').click();
  await page.getByText(/^Faults of the bench/).click();
  await page.getByLabel('the board has no bootloader').check();
  await station(page, 'Flash').click();
  await route(page, /^USB serial/).click();
  await button(page, 'Only try whether it answers').click();
  const silent = slip(page, /^Nobody answered the call/);
  await expect(silent).toContainText('There is no bootloader');
  await expect(silent).toContainText('Nothing was written.');
  await station(page, 'Bring-up').click();
  await page.getByText(/^Faults of the bench/).click();
  await page.getByLabel('the board has no bootloader').uncheck();
  await station(page, 'Flash').click();
  await route(page, /^Bootloader/).click();
  await button(page, 'Install the bootloader').click();
  await button(page, 'Overwrite the first bytes of the flash with it').click();
  await expect(slip(page, 'The bootloader is installed, and reads back the same.')).toBeVisible();
  await expect(route(page, /^Bootloader/)).toContainText('is there');
  await route(page, /^USB serial/).click();
  await write(page);
  await expect(slip(page, READS_BACK)).toBeVisible();
  await provesIdentity(page, 'Whimbrel');
});

test('without a bootloader there is more room, fewer routes, and an image that begins at the start', async ({
  page,
}) => {
  await page.goto('/');
  await lay(page, 'turnstone', 'Turnstone', 'plover');
  await page.goto('/machines/turnstone/flash?route=bootloader');
  await expect(page.getByRole('main')).toContainText('begin behind the bootloader, at byte 32,768');
  await button(page, 'Do without a bootloader').click();
  await expect(page.getByRole('main')).toContainText('begin at the first byte');
  await expect(route(page, /^By card/)).toHaveCount(0);
  await build(page, 'turnstone');
  await expect(page.getByRole('meter', { name: 'Flash' })).toHaveAttribute('aria-valuetext', /of 118,784 bytes$/);
  await flashedBy(page, 'turnstone', /^Three wires/, READS_BACK, 'written by debug probe');
  await expect(route(page, /^Bootloader/)).toContainText('none');
  await provesIdentity(page, 'Turnstone');
}); // prettier-ignore

test('the wires exchanged, the port held, and a tool that is wrong about itself are told apart', async ({
  page,
}) => {
  await built(page, 'dotterel', 'Dotterel', 'bittern');
  const laid = async (fault: string, on: boolean) => {
    await page.goto('/machines/dotterel/bring-up');
    await page.getByLabel('Speed of the bench').selectOption('as fast as can be, while it works');
    await page.getByText(/^Faults of the bench/).click();
    await page.getByLabel(fault).setChecked(on);
    await station(page, 'Flash').click();
  };
  await laid('two wires of the programmer or debug probe are exchanged', true);
  await route(page, /^Three wires/).click();
  await write(page);
  await expect(slip(page, /^The chip did not answer/)).toContainText('the board holds what it held');
  await laid('another program has the port', true);
  await route(page, /^USB serial/).click();
  await write(page);
  await expect(slip(page, /^Another program holds the port/)).toContainText('Close slicers');
  await laid('the flashing tool reports an error although the image was taken', true);
  await route(page, /^USB serial/).click();
  await write(page);
  await expect(slip(page, 'The tool reports that writing failed.')).toContainText('ask the board who it is');
  await provesIdentity(page, 'Dotterel');
});

test('at arm’s length, by keyboard', async ({ page }) => {
  await page.goto('/machines/bittern/flash?route=probe');
  await expect(page.getByRole('heading', { name: 'Three wires, to Harrow H6' })).toBeVisible();
  await page.keyboard.press('a');
  const arms = page.getByRole('dialog');
  await expect(arms).toContainText('Power off, everything out');
  await page.keyboard.press('Space');
  await expect(arms).toContainText('Wire the tool');
  await page.keyboard.press('Space');
  await expect(arms).toContainText('read back every byte');
  await page.keyboard.press('Backspace');
  await expect(arms).toContainText('Wire the tool');
  await page.keyboard.press('Enter');
  await expect(arms).toBeHidden();
});

test('an image leaves on a real card, and the renamed file comes back', async ({ page }) => {
  await page.addInitScript(() => {
    // The browser's own private folder stands in for a card: it is the same access.
    Object.assign(window, { showDirectoryPicker: () => navigator.storage.getDirectory() });
  });
  await page.goto('/machines/bittern/flash?route=files');
  const files = page.getByRole('list', { name: 'Save the image' });
  await expect(files.getByRole('link', { name: 'HARROW.IMG' })).toBeVisible();
  const [saved] = await Promise.all([
    page.waitForEvent('download'),
    files.getByRole('link', { name: /\.hex$/ }).click(),
  ]);
  expect(readFileSync(await saved.path(), 'utf8')).toMatch(/^:[0-9A-F]+\n/);
  await page.evaluate(async () => {
    const root = await navigator.storage.getDirectory();
    for (const name of ['OTHER.IMG', 'HARROW.OLD']) {
      const out = await (await root.getFileHandle(name, { create: true })).createWritable();
      await out.write(new Uint8Array(64).fill(7));
      await out.close();
    }
  });
  await button(page, 'Pick the card').click();
  const main = page.getByRole('main');
  await expect(main).toContainText('Say which file system the card has');
  await page.getByLabel('File system of the card').selectOption('exFAT');
  await page.getByLabel('Its size, GB').fill('64');
  await expect(main).toContainText('The bootloader reads FAT32 only');
  await expect(main).toContainText('2 files end in .IMG');
  await expect(button(page, 'Write HARROW.IMG')).toBeDisabled();
  await button(page, 'Remove OTHER.IMG from the card').click();
  await page.getByLabel('File system of the card').selectOption('FAT32');
  await page.getByLabel('Its size, GB').fill('16');
  await button(page, 'Write HARROW.IMG').click();
  await expect(main).toContainText('HARROW.IMG is on the card and reads back the same');
  await button(page, 'Keep HARROW.OLD as a way back').click();
  await expect(page.getByLabel('Tape', { exact: true })).toContainText('HARROW.OLD kept as a way back');
  const lies = await page.evaluate(async () => {
    const file = await (await (await navigator.storage.getDirectory()).getFileHandle('HARROW.IMG')).getFile();
    return file.size;
  });
  expect(lies).toBe(18432);
  await station(page, 'Logbook').click();
  await expect(main).toContainText('to a real card as HARROW.IMG');
});

test('of ready-made images the one that fits by its name is told, and what none of them is for', async ({
  page,
}) => {
  await page.goto('/machines/plover/flash?route=ready-made');
  const names = page.getByLabel('Names of the files');
  await names.fill('a32-1.1-wire-heron.bin\na32-1.0-wire-heron.bin\na32-1.1-d1-plumb.bin');
  await expect(slip(page, /By its name, a32-1\.1-wire-heron\.bin is for this machine/)).toBeVisible();
  await expect(page.getByRole('row', { name: /a32-1\.0-wire-heron/ })).toContainText('it is for 1.0, this machine has 1.1');
  await names.fill('a32-1.0-d1.bin');
  await expect(slip(page, 'None of them is for your drivers.')).toBeVisible();
  await expect(docket(page)).toContainText('The names say nothing of bed probe, display');
}); // prettier-ignore

test('nothing is overwritten without a way back', async ({ page }) => {
  await page.goto('/');
  await lay(page, 'curlew', 'Curlew', 'plover');
  await change(page, 'curlew', (machine) => void (machine['note'] = 'no way back yet'));
  const refused = await call(page, 'POST', '/machines/curlew/flash-run', {
    route: 'probe',
    does: 'bootloader',
    laid: [],
    pace: 0,
  });
  expect(refused.status).toBe(409);
});

test('the job goes on with another board: what was built for the one before goes onto nothing', async ({
  page,
}) => {
  await page.goto('/machines/plover/build');
  await button(page, 'Build').click();
  await page.getByRole('heading', { name: 'Built from the settings as they are' }).waitFor();
  await page.goto('/machines/plover/survey?at=job');
  await button(page, 'Take out: Another controller board').click();
  await button(page, 'Save the changes').click();
  await expect(page.getByText('Changes of the job saved').first()).toBeVisible();
  await station(page, 'Build').click();
  await expect(page.getByRole('heading', { name: 'No image for this board yet' })).toBeVisible();
  await expect(page.getByRole('meter')).toHaveCount(0);
  await page.getByRole('link', { name: 'Builds so far' }).click();
  await page.getByText('Save or flash again').click();
  await page.getByRole('link', { name: 'Flash this image again' }).click();
  await page.getByRole('link', { name: 'Six wires' }).click();
  await expect(docket(page)).toContainText('is made for alder-a32-1-1; this board is fenwick-f8-2');
  await expect(button(page, 'Write it')).toBeDisabled();
  await page.getByRole('link', { name: 'Files' }).click();
  await expect(docket(page)).toContainText('is made for alder-a32-1-1; this board is fenwick-f8-2');
  await expect(page.getByRole('main')).toContainText('This image is not for Fenwick F8 as it is set up');
});
