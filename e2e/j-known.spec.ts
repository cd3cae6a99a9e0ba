import { expect, test } from './test';
import { expectAccessible } from './accessible';
import { button, docket, lay, plate, station, layGodwit } from './ownMachines';

test.describe.configure({ mode: 'serial' });

test.beforeEach(async ({ page }) => {
  await layGodwit(page);
});

test.describe('5. not known yet, failed, and nothing are three states', () => {
  const NOTHING =
    /Nothing to settle|No check speaks against|No job is open|Nothing stops|Nothing stands in the way|Nothing is kept|No image yet|Nothing yet/;

  test('with a slow worker nothing is said to be nothing before it is known', async ({ page }) => {
    // Every answer of a worker waits a while, so that what stands on the screen meanwhile can be read.
    await page.addInitScript(() => {
      const post = Worker.prototype.postMessage as (...words: unknown[]) => void;
      Worker.prototype.postMessage = function (this: Worker, ...words: unknown[]) {
        setTimeout(() => post.apply(this, words), 700);
      };
    });
    for (const at of ['survey', 'wiring', 'settings', 'build']) {
      await page.goto(`/machines/godwit/${at}`);
      const seen: string[] = [];
      for (let look = 0; look < 12; look += 1) {
        seen.push(await page.locator('body').innerText());
        if (/Not known yet|One moment|Weighing|still checking/.test(seen.at(-1)!)) break;
      }
      expect(seen.at(-1)).toMatch(/Not known yet|One moment|Weighing|still checking/);
      expect(seen.at(-1)).not.toMatch(NOTHING);
      await expect(docket(page)).toBeVisible();
    }
  });

  test('an answer that fails is said, and is no nothing', async ({ page }) => {
    await page.route('**/api/machines/godwit/job', (route) =>
      route.fulfill({
        status: 500,
        json: { error: { code: 'internal', message: 'something went wrong in the server' } },
      }),
    );
    for (const at of ['survey', 'wiring', 'settings', 'build', 'flash', 'calibrate']) {
      await page.goto(`/machines/godwit/${at}`);
      const alert = page.getByRole('alert').filter({ hasText: 'Not known: the job' });
      await expect(alert).toContainText('something went wrong in the server');
      expect(await page.locator('body').innerText()).not.toMatch(NOTHING);
    }
    await expectAccessible(page);
    await page.unroute('**/api/machines/godwit/job');
    await button(page, 'Ask again').click();
    await expect(page.getByRole('heading', { name: /^Because of the job/ })).toBeVisible();
  });

  test('what a part of a view wants to know and could not is said by the frame', async ({ page }) => {
    const may = '**/api/machines/godwit/clearable*';
    await page.route(may, (route) =>
      route.fulfill({
        status: 500,
        json: { error: { code: 'internal', message: 'something went wrong in the server' } },
      }),
    );
    await page.goto('/machines/godwit/build?view=history');
    const alert = page.getByRole('alert').filter({ hasText: 'Not known: which images may go.' });
    await expect(alert).toContainText('something went wrong in the server');
    await expect(page.getByRole('region', { name: 'Clear away' })).not.toContainText('Nothing may go');
    await page.unroute(may);
    await button(page, 'Ask again').click();
    await expect(alert).toHaveCount(0);
    await expect(page.getByRole('region', { name: 'Clear away' })).toContainText('Nothing may go');
  });
});

test('files that could not be held against an earlier state are not said to be the same', async ({
  page,
}) => {
  const at = '/api/machines/godwit';
  // As the server answers it.
  const { machine, version } = (await (await page.request.get(at)).json()) as {
    machine: object;
    version: number;
  };
  await page.request.put(at, { data: { machine: { ...machine, note: 'read' }, version, label: 'a note' } });
  await page.route(`**${at}/edits/*`, (route) =>
    route.fulfill({ status: 500, json: { error: { code: 'internal', message: 'the disk is broken' } } }),
  );
  await page.goto('/machines/godwit/settings?view=files');
  const against = page.getByLabel('Held against');
  const before = against.locator('option', { hasText: 'before “a note”' });
  await against.selectOption((await before.getAttribute('value')) ?? '');
  await expect(page.getByRole('alert')).toContainText('Not compared: the disk is broken');
  await expect(page.getByText('Every line is the same.')).toHaveCount(0);
});

test.describe('6. and faults found by using it', () => {
  test('a change taken out of a job and not saved is there after a look elsewhere', async ({ page }) => {
    await page.goto('/machines/godwit/survey?at=job');
    await button(page, 'Take out: Another fan').click();
    await expect(page.getByRole('group', { name: 'Edited changes' })).toBeVisible();
    await station(page, 'Settings').click();
    await page.goto('/machines/godwit/survey?at=job');
    await expect(page.getByRole('group', { name: 'Edited changes' })).toBeVisible();
    await button(page, 'Drop them').click();
    await expect(button(page, 'Take out: Another fan')).toBeVisible();
  });

  test('a probe moves to another plug, and the form shows it after a reload', async ({ page }) => {
    await page.goto('/');
    await lay(page, 'sanderling', 'Sanderling', 'bittern');
    await page.goto('/machines/sanderling/survey?at=job');
    await page.getByLabel('The change', { exact: true }).selectOption('probe-replugged');
    await button(page, 'Add this change').click();
    const to = page
      .getByRole('group', { name: 'The probe moves to another plug' })
      .getByLabel('To', { exact: true });
    const option = await to.locator('option').nth(2).getAttribute('value');
    await to.selectOption(option);
    await button(page, 'Open the job').click();
    await expect(plate(page)).toContainText('Job:');
    await page.reload();
    await expect(to).toHaveValue(option!);
  });

  test('a report line is taught and read from then on', async ({ page }) => {
    await page.goto('/machines/godwit/survey?at=report');
    await page.getByLabel('Or paste it here').fill('> M92 X100 Y100 Z400 E94.3\n> pause lifts 12 draws 75\n');
    await button(page, 'Read it').click();
    await page.getByText('1 line not understood').click();
    await button(page, 'Teach it').click();
    const form = page.getByRole('form', { name: 'Teach this line' });
    await expect(form).toBeVisible();
    await expectAccessible(page);
    await form.getByRole('combobox', { name: '12 is' }).click();
    await page.getByRole('option', { name: /Park lift/ }).click();
    await form.getByRole('combobox', { name: '75 is' }).click();
    await page.getByRole('option', { name: 'a number that is not taken' }).click();
    await button(page, 'Read such lines from now on').click();
    await expect(page.getByRole('row', { name: /Park lift/ })).toContainText('12');
    await expect(page.getByText('not understood')).toHaveCount(0);
  });

  test('the logbook takes a note of one’s own', async ({ page }) => {
    await page.goto('/machines/godwit/logbook');
    await page.getByRole('textbox', { name: 'A note of your own' }).fill('Belt tightened by a quarter turn');
    await button(page, 'Write it down').click();
    await expect(page.getByRole('main').getByRole('listitem').first()).toContainText('Belt tightened');
  });
});
