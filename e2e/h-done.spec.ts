import { expect, test } from './test';
import { expectAccessible } from './accessible';
import {
  button,
  call,
  change,
  docket,
  lay,
  layGodwit,
  layRuff,
  flash,
  plate,
  slip,
  station,
} from './ownMachines';

test.describe.configure({ mode: 'serial' });

test.describe('2. done means done', () => {
  test.beforeEach(async ({ page }) => {
    await layGodwit(page);
    await layRuff(page);
  });

  test('the new board on the bench is no way back for the old one', async ({ page }) => {
    await page.goto('/machines/godwit/survey?at=way-back');
    await expect(page.getByText('On the bench lies Alder A32 rev 1.1. It is the new one')).toBeVisible();
    await expect(button(page, 'Read out the board on the bench')).toHaveCount(0);
    expect((await call(page, 'POST', '/machines/godwit/kept-from-board')).status).toBe(409);
    await expect(slip(page, /There is no way back to what Sedge S4/)).toBeVisible();
  });

  test('what is not taken over is said at every station, and building without it is a choice', async ({
    page,
  }) => {
    const notice = page.getByRole('region', { name: 'Which state of the machine' });
    for (const at of ['settings', 'wiring', 'build', 'flash', 'bring-up']) {
      await page.goto(`/machines/godwit/${at}`);
      await expect(notice).toContainText('Another fan: hotend: Fan 24 V 40 mm');
    }
    await page.goto('/machines/godwit/build');
    await expect(button(page, 'Build without the change')).toBeVisible();
    await expectAccessible(page);
    await expect(button(page, 'Build')).toHaveCount(0);
    await notice.getByRole('button', { name: 'Take it over' }).click();
    await expect(notice).toHaveCount(0);
    await expect(button(page, 'Build')).toBeVisible();
  });

  test('finishing lists what is not done, keeps what is due, and can be taken back', async ({ page }) => {
    await page.goto('/machines/godwit/survey?at=job');
    await button(page, 'It is finished').click();
    const dialog = page.getByRole('dialog');
    await expect(dialog.getByRole('list', { name: 'Not done yet' })).toContainText(/Wiring: 0 of \d+ done/);
    await expect(dialog).toContainText(/\d+ measurements stay due/);
    await expectAccessible(page);
    await dialog.getByRole('button', { name: 'Not yet' }).click();
    await expect(plate(page)).toContainText('Job: Another board and a fan');
    await button(page, 'It is finished').click();
    await dialog.getByRole('button', { name: 'Finish it all the same' }).click();
    await expect(page.getByText('“Another board and a fan” was finished')).toBeVisible();
    await station(page, 'Calibrate').click();
    await expect(slip(page, 'PID of the hot end is due.')).toBeVisible();
    const bed = slip(page, 'PID of the bed is due.');
    // Of many that are due the titles stand; the one that is chosen is laid out.
    const didIt = bed.getByRole('button', { name: 'I did this today' });
    await expect(didIt).toHaveCount(0);
    await bed.getByRole('heading').click();
    await didIt.click();
    await expect(bed).toHaveCount(0);
    await page.goto('/machines/godwit/calibrate');
    await expect(slip(page, 'PID of the hot end is due.')).toBeVisible();
    await expectAccessible(page);
    await page.goto('/');
    await expect(page.getByRole('listitem').filter({ hasText: 'Godwit' })).toContainText(/\d+ due/);
    await page.goto('/machines/godwit/survey?at=job');
    await button(page, 'Take that back: it is open again').click();
    await expect(plate(page)).toContainText('Job: Another board and a fan');
    await station(page, 'Calibrate').click();
    await expect(page.getByRole('heading', { name: /^Because of the job/ })).toBeVisible();
  });

  test('an image that does not fit has one verdict, and leads to what can be left out', async ({ page }) => {
    await page.goto('/');
    await lay(page, 'dotterel', 'Dotterel');
    // A build that came out too large is put where the station looks: sizes are the server's, the words are ours.
    await page.route('**/api/machines/dotterel/builds', async (route) => {
      const version = ((await call(page, 'GET', '/machines/dotterel')).body as { version: number }).version;
      await route.fulfill({
        json: [
          {
            id: 'b',
            machineId: 'dotterel',
            machineVersion: version,
            startedAt: '2026-11-25T10:00:00Z',
            endedAt: '2026-11-25T10:00:09Z',
            label: '',
            pinned: false,
            state: 'done',
            imageHash: 'a'.repeat(64),
            buildId: '0badf00d',
            compiled: 1,
            changed: [],
            sizes: {
              flashBytes: 90_000,
              ramBytes: 9000,
              stackBytes: 2048,
              bySource: [{ name: 'heat.c', bytes: 900 }],
            },
          },
        ],
      });
    });
    await page.goto('/machines/dotterel/build');
    const over = slip(page, /Flash is [\d,]+ bytes too small/);
    await expect(over).toContainText('The board cannot hold it');
    await expect(docket(page)).not.toContainText('is ready');
    await over.getByRole('button', { name: 'Make it fit' }).click();
    await expect(page.getByRole('heading', { name: 'What everything takes in the image' })).toBeVisible();
    await expect(page.getByText('Not measured yet')).toBeVisible();
    await page.goto('/machines/dotterel/flash');
    await expect(button(page, 'Write the card')).toBeDisabled();
  });

  test('an example is never a measurement', async ({ page }) => {
    await page.goto('/machines/ruff/settings?part=hotend&tool=relay-pid');
    const tool = page.getByRole('group', { name: 'PID from a swing' });
    await expect(tool.getByRole('textbox', { name: 'Highest' })).toHaveValue('');
    await expect(tool.getByRole('button', { name: /^Apply/ })).toHaveCount(0);
    await tool.getByRole('textbox', { name: 'Highest' }).fill('201.5');
    await tool.getByRole('textbox', { name: 'Lowest' }).fill('198.5');
    await tool.getByRole('textbox', { name: 'One swing' }).fill('20');
    await expect(tool.getByRole('button', { name: /^Apply to Ruff/ })).toBeVisible();
    await page.goto('/machines/ruff/survey?at=job');
    await page.getByLabel('The change', { exact: true }).selectOption('probe-added');
    await button(page, 'Add this change').click();
    const form = page.getByRole('group', { name: 'A bed probe is added' });
    // Nor is a part that nobody chose, or the side on which it hangs.
    await expect(form.getByLabel('Part')).toHaveValue('');
    await form.getByLabel('Part').selectOption('heron');
    await expect(form.getByLabel('Seen from the front')).toHaveValue('');
    await expect(page.getByText('Still to choose: Seen from the front')).toBeVisible();
    await expect(button(page, 'Open the job')).toBeDisabled();
    await expect(form.getByRole('textbox', { name: 'by' }).first()).toHaveValue('');
  });

  test('after another build the steps of the card are open again, and a used name gets no tick', async ({
    page,
  }) => {
    const board = async () =>
      (await call(page, 'GET', '/machines/ruff/board')).body as { namesTaken: string[] };
    if ((await board()).namesTaken.length === 0) await flash(page, 'ruff');
    await change(page, 'ruff', (machine) => {
      machine['mark'] = 'b2';
    });
    await page.goto('/machines/ruff/build');
    await button(page, 'Build').click();
    await expect(page.getByRole('heading', { name: 'Built from the settings as they are' })).toBeVisible({
      timeout: 180_000,
    });
    await page.goto('/machines/ruff/flash');
    const step = (title: string) =>
      page.getByRole('main').locator('li[data-done]').filter({ hasText: title });
    await expect(step('Name the file')).toHaveAttribute('data-done', 'false');
    await expect(step('Write the card')).toHaveAttribute('data-done', 'false');
    await expect(step('Write the card')).toContainText('with an older image than the newest build');
    const used = (await board()).namesTaken[0]!;
    await page.getByRole('textbox', { name: 'File name on the card' }).fill(used);
    await button(page, 'Write the card').click();
    await expect(step('Write the card')).toHaveAttribute('data-done', 'true');
    await expect(step('Name the file')).toHaveAttribute('data-done', 'false');
  });
});
