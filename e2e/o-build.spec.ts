import { readFile } from 'node:fs/promises';
import { writeMachineFile } from '@jolly/core/formats/machineFile';
import { ploverOnF8 } from '../packages/server/test/fixtures/ploverOnF8';
import { expect, type Page, test } from './test';

const docket = (page: Page) => page.getByRole('complementary', { name: 'Docket' });
const LONG = { timeout: 240_000 };

test.describe.configure({ mode: 'serial' });

/** Ruff: Plover's twin, still on the old board, with what Plover wishes for. */
async function addRuff(page: Page) {
  const file = writeMachineFile({ ...(await ploverOnF8()), id: 'ruff', name: 'Ruff' });
  const added = await page.request.post('/api/machines', { data: { file } });
  expect(added.ok()).toBe(true);
}

test('too much for the old board: measured, made to fit, built, saved', async ({ page }) => {
  await page.goto('/');
  await addRuff(page);
  await page.goto('/machines/ruff/build');
  // Nothing was built yet: the base tells whether the set-up is sound.
  await page.getByRole('button', { name: 'Build the base unchanged' }).click();
  await expect(page.getByText(/Base moving bed, for Lantern .* builds: [\d,]+ bytes/)).toBeVisible(LONG);
  await page.getByRole('button', { name: 'Build', exact: true }).click();
  await expect(docket(page)).toContainText(/Flash is [\d,]+ bytes too small for this image/, LONG);
  await expect(page.getByRole('main')).toContainText(
    'It does not fit its board: no board could take it as a file.',
  );
  await docket(page).getByRole('button', { name: 'Make it fit' }).click();
  await expect(page.getByText('Not measured yet')).toBeVisible();
  await page.getByRole('button', { name: 'Measure', exact: true }).click();
  await expect(page.getByRole('progressbar', { name: 'Measuring' })).toBeVisible();
  await expect(page.getByRole('heading', { name: 'Ways to make it fit' })).toBeVisible(LONG);
  // The other way out: first the boards where every part finds a place.
  const other = page.getByRole('region', { name: 'Or leave nothing out: boards that hold everything' });
  await expect(other.getByRole('listitem').first()).toContainText('Every part finds a place');
  await expect(other.getByRole('link', { name: /^What the swap to Harrow H6 rev A/ })).toHaveAttribute(
    'href',
    /wiring\?at=sheet&to=harrow-h6/,
  );
  // What the smallest loss leaves out stays when it is worth more than the rest.
  const smallest = page
    .getByRole('radiogroup', { name: 'Proposals' })
    .getByText(/^Leaves/)
    .first();
  const before = await smallest.innerText();
  const [, gone = ''] = /Leaves out ([^,;]+)/.exec(before) ?? [];
  await page.getByRole('checkbox', { name: `${gone} stays` }).check();
  await expect(smallest).not.toContainText(gone);
  // What stays has no worth to be set.
  await expect(page.getByRole('slider', { name: `What ${gone} is worth to you` })).toHaveCount(0);
  await page.getByRole('checkbox', { name: `${gone} stays` }).uncheck();
  await expect(smallest).toHaveText(before);
  await expect(page.getByText('A proposal is a sum of single costs until it is built.')).toBeVisible();
  await page.getByRole('button', { name: 'Build it to see' }).click();
  await expect(page.getByText(/Really built: .* It fits, clear of the last 2 %/)).toBeVisible(LONG);
  await page.getByRole('button', { name: 'Take it over' }).click();
  await page.getByRole('button', { name: 'Make the change' }).click();
  await expect(page.getByText('The machine has changed since')).toBeVisible();
  await page.getByRole('link', { name: 'Image', exact: true }).click();
  await page.getByRole('button', { name: 'Build', exact: true }).click();
  await expect(docket(page)).toContainText(/Build [0-9a-f]{8} is ready/, LONG);
  const [saved] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('link', { name: '.bin, for a card' }).click(),
  ]);
  const bytes = await readFile(await saved.path());
  expect(bytes.length).toBeLessThan(39_936 * 0.98);
  // What a feature takes is told at its setting.
  await page.goto('/machines/ruff/settings?part=map&key=map.on');
  await expect(
    page.getByText(/Without it [\d,]+ bytes of flash and [\d,]+ bytes? of RAM become free, as built/),
  ).toBeVisible();
});

test('a change that breaks the build is found among several, and set right', async ({ page }) => {
  const { version, machine } = (await (await page.request.get('/api/machines/ruff')).json()) as {
    version: number;
    machine: Awaited<ReturnType<typeof ploverOnF8>>;
  };
  const own = (value: number) => ({ value, source: 'override' as const, because: 'tried' });
  const settings = {
    ...machine.settings,
    'speed.y': own(9000),
    'accel.x': own(700),
    'park.lift': own(12),
    'accel.y': own(650),
  };
  // What stops it by a check is set aside.
  const waivers = { 'motion.pulse-limit speed.y': { because: 'tried' } };
  await page.request.put('/api/machines/ruff', {
    data: { version, machine: { ...machine, settings, waivers } },
  });
  await page.goto('/machines/ruff/build');
  await page.getByRole('button', { name: 'Build', exact: true }).click();
  const failed = docket(page).getByRole('listitem').filter({ hasText: 'The build failed.' });
  await expect(failed).toContainText('A value is out of what the firmware can do.', LONG);
  await expect(failed).toContainText('changed since the last good build: ');
  await failed.getByRole('button', { name: 'Find the change that breaks it' }).click();
  await expect(failed).toContainText(
    /the smallest change that breaks it, found in \d+ builds: speed\.y/,
    LONG,
  );
  await failed.getByRole('button', { name: 'Go to this setting' }).click();
  await expect(page).toHaveURL(/key=speed\.y/);
  await page.getByRole('button', { name: 'Let the facts decide', exact: true }).click();
  await page.goto('/machines/ruff/build');
  await page.getByRole('button', { name: 'Build', exact: true }).click();
  await expect(docket(page)).toContainText(/Build [0-9a-f]{8} is ready/, LONG);
});

test('builds so far: by keyboard alone labelled, pinned, held against each other; an older one goes to the card again', async ({
  page,
}) => {
  await page.goto('/machines/ruff/build?view=history');
  const builds = page.getByRole('list', { name: 'Builds' }).getByRole('listitem');
  await expect(builds.filter({ hasText: 'bytes' })).toHaveCount(3);
  const label = page.getByRole('textbox', { name: /^Label of build/ }).last();
  await label.focus();
  await page.keyboard.type('everything on');
  await page.keyboard.press('Enter');
  await page.keyboard.press('Tab');
  await page.keyboard.press('Space');
  await expect(page.getByRole('button', { name: 'Pinned' })).toBeVisible();
  await page.reload();
  await expect(label).toHaveValue('everything on');
  for (const box of [
    page.getByRole('checkbox', { name: /^Hold build/ }).first(),
    page.getByRole('checkbox', { name: /^Hold build/ }).last(),
  ]) {
    await box.focus();
    await page.keyboard.press('Space');
  }
  const compared = page.getByRole('region', { name: 'Compared' });
  await expect(compared).toContainText('The images differ.');
  await expect(compared).toContainText('accel.x');
  await page.getByRole('textbox', { name: 'Find' }).fill('everything');
  await expect(builds).toHaveCount(1);
  await page.getByRole('textbox', { name: 'Find' }).fill('');
  await expect(page.getByText('Nothing may go')).toBeVisible();
  // Nothing is flashed without a way back, or a word why not.
  await page.goto('/machines/ruff/survey?at=way-back');
  await page
    .getByRole('textbox', { name: 'Why it goes on without one' })
    .fill('the board is new and came empty');
  await page.getByRole('button', { name: 'Go on without a way back' }).click();
  await expect(page.getByText('the board is new and came empty')).toBeVisible();
  await page.goto('/machines/ruff/build?view=history');
  // The one before the newest, again.
  const second = builds.filter({ hasText: 'bytes' }).nth(1);
  await second.getByText('Save or flash again').click();
  await second.getByRole('link', { name: 'Flash this image again' }).click();
  await expect(page.getByText(/You flash build [0-9a-f]{8} of .* again/)).toBeVisible();
  await page.getByRole('button', { name: 'Write the card' }).click();
  await expect(page.getByText(/The card is in the slot, with FENWICK\.BIN on it/)).toBeVisible();
  await expect(docket(page)).toContainText('This image is not made from the settings as they are.');
  await page.getByRole('button', { name: 'Switch the power on' }).click();
  await expect(docket(page)).toContainText('The board took the image.', LONG);
  await page.goto('/machines/ruff/build?view=history');
  await expect(builds.filter({ hasText: 'in the board' })).toHaveCount(1);
});
