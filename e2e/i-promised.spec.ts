import { expect, test } from './test';
import { layGodwit, layRuff, button, change, docket, lay, slip } from './ownMachines';

test.describe.configure({ mode: 'serial' });

test.beforeEach(async ({ page }) => {
  await layGodwit(page);
  await layRuff(page);
});

test.describe('3. what the kit cannot do is not promised', () => {
  test('start G-code is judged against this kit at this version', async ({ page }) => {
    await page.goto('/machines/ruff/settings?view=slicer');
    await expect(page.getByLabel('G-code written from the settings')).toContainText('G28');
    await page
      .getByLabel('Paste the start G-code here')
      .fill('G28\nG29\nM106 S255\nG2 I5\nM303 E0 S200\nM600');
    const problems = page.getByRole('region', { name: 'What your slicer has' });
    for (const words of [
      'Lantern 0.1.0 does not know G29.',
      'G2 is for arcs, which is off on this machine (arcs.on).',
      'Lantern 0.1.0 does not know M303.',
      'Lantern 0.1.0 does not know M600.',
    ])
      await expect(problems).toContainText(words);
    await expect(problems).not.toContainText('M106 is for');
    // What is typed and not kept yet is there after a look elsewhere.
    await page.goto('/machines/ruff/settings?part=x');
    await page.goto('/machines/ruff/settings?view=slicer');
    await expect(page.getByLabel('Paste the start G-code here')).toHaveValue(/M600/);
  });

  test('parts that are wired are spoken to, and the finder finds what this image can do', async ({
    page,
  }) => {
    await page.goto('/machines/ruff/wiring?at=electricity');
    await expect(page.getByRole('region', { name: 'Drivers and jumpers' })).toContainText(
      'told over its line',
    );
    await expect(page.getByRole('main')).not.toContainText('does not tell it');
    await page.goto('/machines/ruff/settings');
    await expect(docket(page)).not.toContainText('does nothing with');
    await expect(docket(page)).not.toContainText('neither current nor mode');
    for (const [asked, found] of [
      ['map take', 'map take, taking a bed map'],
      ['self-tune', 'PID self-tune'],
      ['nudge', 'Live nudge'],
    ] as const) {
      await page.keyboard.press('/');
      await page.getByRole('combobox', { name: 'Find anything' }).fill(asked);
      const line = page.getByRole('option').filter({ hasText: found }).first();
      await expect(line).toBeVisible();
      await expect(line).not.toContainText('comes with');
      await page.keyboard.press('Escape');
    }
  });
});

test.describe('4. what can hurt', () => {
  test('a mains bed never goes to a terminal of the board', async ({ page }) => {
    await page.goto('/');
    await lay(page, 'knot', 'Knot');
    await page.goto('/machines/knot/survey?at=job');
    await page.getByLabel('The change', { exact: true }).selectOption('heater');
    await button(page, 'Add this change').click();
    const form = page.getByRole('group', { name: 'Another heater' });
    await form.getByLabel('Which').selectOption('bed');
    await form.getByLabel('Part').selectOption('bed-230-500');
    await form.getByLabel('Relay that switches it').selectOption('sluice-s10');
    await button(page, 'Open the job').click();
    await page.goto('/machines/knot/wiring?at=sheet');
    const sheet = page.getByRole('main');
    await expect(sheet).toContainText(
      'Take bed-heater off the board; Bed heater 230 V 500 W, mains never meets it',
    );
    await expect(sheet).toContainText('a qualified electrician');
    await expect(sheet).toContainText('plus to the supply contact, minus to the switched one');
    await change(page, 'knot', (machine) => {
      const parts = machine['parts'] as { id: string; part: string }[];
      parts.find(({ id }) => id === 'bed-heater')!.part = 'bed-230-500';
    });
    await page.goto('/machines/knot/settings');
    const stop = slip(page, /runs on 230 V mains and is led to a terminal of the board/);
    await expect(stop).toContainText('heat.mains-on-terminal');
    await expect(stop).toContainText('a thermal cut-out on what it heats');
    await page.goto('/machines/knot/build');
    await expect(page.getByRole('button', { name: /^Build( without .*)?$/ })).toBeDisabled();
  });

  test('a positive probe offset, a Z that homes too fast and a preheat above the limit are findings', async ({
    page,
  }) => {
    await lay(page, 'dotterel', 'Dotterel');
    await change(page, 'dotterel', (machine) => {
      const own = (value: number | boolean) => ({ value, source: 'override', because: 'a test' });
      machine['settings'] = {
        'probe.offset.z': own(0.4),
        'home.speed.z': own(30),
        'preset.one.bed': own(140),
        'limits.lift': own(false),
      };
    });
    await page.goto('/machines/dotterel/settings');
    await expect(docket(page)).toContainText('The probe would trigger 0.4 mm above the tip of the nozzle');
    await expect(docket(page)).toContainText('Z would home at 30 mm/s; it may go 15 mm/s.');
    await expect(docket(page)).toContainText('Preheat one asks the bed for 140 °C; it may reach 118 °C.');
    await expect(docket(page)).toContainText('home.soft-limit-blocks');
  });

  test('no addition is recommended that overloads; a pin that cannot pulse is refused for a servo', async ({
    page,
  }) => {
    await page.goto('/machines/ruff/wiring?at=additions');
    await page.getByLabel('I want').selectOption('servo');
    const first = page.getByRole('list', { name: 'Places' }).getByRole('listitem').first();
    await expect(first).toContainText('best');
    await expect(first).not.toContainText('may give');
    await page.goto('/machines/ruff/wiring?at=pins');
    await page
      .getByRole('row', { name: /PIN_PROBE_SERVO/ })
      .getByRole('button')
      .first()
      .click();
    const decide = page.getByRole('dialog');
    await decide.getByRole('textbox', { name: 'Pin' }).fill('14');
    await decide.getByRole('textbox', { name: 'Because' }).fill('it is nearer');
    await expect(decide).toContainText('p14 of Mica-C cannot give pulses');
    await expect(decide.getByRole('button', { name: 'Decide', exact: true })).toBeDisabled();
  });

  test('another bed heater while a job is open is what Electricity reckons with', async ({ page }) => {
    await page.goto('/machines/godwit/wiring?at=electricity');
    const supply = page.getByRole('region', { name: 'Supply' });
    await expect(supply).toContainText(/bed-heater, 6\.3 A/);
    await page.goto('/machines/godwit/settings?part=bed');
    await page.getByLabel('Heater', { exact: true }).selectOption('bed-24-220');
    await expect(page.getByLabel('Tape', { exact: true })).toContainText('220');
    await page.goto('/machines/godwit/wiring?at=electricity');
    await expect(supply).toContainText(/bed-heater, 9\.2 A/);
  });

  test('what the next image takes away is listed before anything is flashed', async ({ page }) => {
    await page.goto('/machines/godwit/survey?at=losses');
    await page.getByRole('checkbox', { name: 'Resume after power loss' }).click();
    const goes = page.getByRole('list', { name: 'What goes' });
    await expect(goes).toContainText('Resume after power loss');
    await expect(goes).toContainText(
      'It is off in the settings of the next image; there it can be switched on.',
    );
    await page.goto('/machines/godwit/flash');
    await slip(page, 'The next image takes 1 thing away.')
      .getByRole('button', { name: 'See what goes' })
      .click();
    await page.getByRole('checkbox', { name: 'I know what goes, and go on' }).click();
    await page.goto('/machines/godwit/flash');
    await expect(slip(page, 'The next image takes 1 thing away.')).toHaveCount(0);
  });
});
