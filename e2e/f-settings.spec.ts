import { readFile } from 'node:fs/promises';
import { expect, type Page, test } from './test';
import { docket, slip, station } from './ownMachines';

test.describe.configure({ mode: 'serial' });

const settings = (id: string, query = '') => `/machines/${id}/settings${query && `?${query}`}`;
const fact = (page: Page, label: string) => page.getByRole('textbox', { name: label, exact: true });
const part = (page: Page, name: string) =>
  page.getByRole('navigation', { name: 'Parts of the machine' }).getByRole('link', { name });
const goToPart = async (page: Page, name: string) => {
  await part(page, name).click();
  await expect(page.getByRole('heading', { name, level: 2 })).toBeVisible();
};
const view = (page: Page, name: string) =>
  page.getByRole('navigation', { name: 'Views of the settings' }).getByRole('link', { name });
const enter = async (page: Page, label: string, value: string) => {
  await fact(page, label).fill(value);
  await fact(page, label).press('Enter');
};

test('a bigger plate and a taller frame on Plover: from facts to findings to fixed', async ({ page }) => {
  await page.goto(settings('plover', 'part=frame'));
  await fact(page, 'Plate to, X').fill('25 cm');
  // Said while it is typed; nothing is saved yet.
  await expect(docket(page)).toContainText('The nozzle cannot reach the whole plate in X.');
  await fact(page, 'Plate to, X').press('Escape');
  await expect(docket(page)).not.toContainText('cannot reach the whole plate');
  await enter(page, 'Plate to, X', '25 cm');
  await expect(fact(page, 'Plate to, X')).toHaveValue('250');
  await expect(docket(page)).toContainText('frame.bed-outside-travel');

  await goToPart(page, 'X axis');
  await enter(page, 'Travel to', '256');
  await expect(docket(page)).not.toContainText('frame.bed-outside-travel');
  await expect(slip(page, /Travel of X is 262 mm; the frame allows 244 mm/)).toBeVisible();
  await enter(page, 'Room in the frame', '266,5 mm');
  await expect(docket(page)).not.toContainText('frame.travel-over-frame');

  await goToPart(page, 'Z axis');
  await enter(page, 'Travel to', '300');
  await slip(page, /Travel of Z is 300 mm/)
    .getByRole('button', { name: 'End the travel at 252 mm' })
    .click();
  await expect(page.getByRole('group', { name: 'Change to be made' })).toBeVisible();
  await page.getByRole('button', { name: 'Leave it' }).click();
  await enter(page, 'Room in the frame', '308');
  await expect(docket(page)).not.toContainText('frame.travel-over-frame');
  await expect(station(page, 'Settings')).not.toHaveAccessibleName(/stopped/);

  await view(page, 'Bed plan').click();
  await expect(page.getByRole('region', { name: 'Figures of the plan' })).toContainText('X 0 to 250');
  await page.getByRole('button', { name: 'Try homing' }).click();
  await expect(page.getByRole('region', { name: 'Dry run of homing' })).toContainText('Z is homed');
});

test('undo and redo outlast a reload', async ({ page }) => {
  await page.goto(settings('dunlin', 'part=y'));
  await enter(page, 'Acceleration', '800');
  await expect(page.getByRole('button', { name: /^Y acceleration/ })).toContainText('800');
  await page.reload();
  await page.getByRole('button', { name: 'Undo (u)' }).click();
  await expect(fact(page, 'Acceleration')).toHaveValue('1000');
  await page.reload();
  await page.getByRole('button', { name: 'Do again (shift u)' }).click();
  await expect(fact(page, 'Acceleration')).toHaveValue('800');
  await page.getByRole('button', { name: 'Undo (u)' }).click();
  await expect(fact(page, 'Acceleration')).toHaveValue('1000');
});

test('thermal protection is refused, set aside only by name, and then said on every screen', async ({
  page,
}) => {
  await page.goto(settings('dunlin', 'part=bed&key=guard.bed'));
  await page.getByRole('switch', { name: 'on' }).press('Space');
  await page.getByRole('textbox', { name: 'Because' }).fill('false alarms');
  await page.getByRole('button', { name: 'Use this value' }).click();
  const off = slip(page, 'The thermal guard of the bed is off.');
  const banner = page.getByText('Never leave this machine alone.');
  await expect(banner).toBeVisible();
  await station(page, 'Build').click();
  await expect(page.getByRole('button', { name: 'Build', exact: true })).toBeDisabled();
  await station(page, 'Settings').click();

  await off.getByRole('button', { name: 'Set it aside' }).click();
  await off.getByRole('textbox', { name: 'Because' }).fill('a test stand without a heater plugged in');
  await off.getByRole('textbox', { name: 'Name of the machine' }).fill('dunlin');
  await off.getByRole('button', { name: 'Set it aside' }).click();
  await expect(off).toContainText('Type the name of the machine, Dunlin, exactly');
  await off.getByRole('textbox', { name: 'Name of the machine' }).fill('Dunlin');
  await off.getByRole('button', { name: 'Set it aside' }).click();
  await expect(off).toContainText('Because a test stand without a heater plugged in.');
  await station(page, 'Build').click();
  await expect(page.getByRole('button', { name: 'Build', exact: true })).toBeEnabled();
  for (const name of ['Survey', 'Wiring', 'Flash', 'Bring-up', 'Calibrate', 'Logbook']) {
    await station(page, name).click();
    await expect(banner).toBeVisible();
  }
  await page.goto('/');
  await expect(page.getByText('no thermal guard')).toBeVisible();
  await page.goto(settings('dunlin', 'part=bed'));
  await off.getByRole('button', { name: 'Take it up again' }).click();
  await off.getByRole('button', { name: 'Switch the guard on' }).click();
  await page.getByRole('button', { name: 'Make the change' }).click();
  await expect(banner).toHaveCount(0);
});

test('two windows: what each changed is kept, and what both changed is chosen field by field', async ({
  context,
}) => {
  const [first, second] = [await context.newPage(), await context.newPage()];
  for (const page of [first, second]) await page.goto(settings('dunlin', 'part=x'));
  await fact(second, 'Top speed').waitFor();
  await enter(first, 'Top speed', '155');
  await expect(first.getByRole('button', { name: /^X top speed/ })).toContainText('155');

  await enter(second, 'Top speed', '160');
  const dialog = second.getByRole('dialog', { name: 'Changed elsewhere since you opened it' });
  await expect(dialog).toContainText('Top speed: 150 → 155 mm/s');
  await expect(dialog.getByRole('radio', { name: 'Yours: 160' })).toBeChecked();
  await dialog.getByRole('radio', { name: 'There now: 155' }).check();
  await dialog.getByRole('button', { name: 'Save it so' }).click();
  await expect(dialog).toHaveCount(0);
  await expect(fact(second, 'Top speed')).toHaveValue('155');

  await first.reload();
  await enter(first, 'Room in the frame', '190');
  await expect(first.getByRole('alert')).toHaveCount(0);
  await enter(second, 'Travel to', '183');
  await second.getByRole('button', { name: 'Keep both' }).click();
  await expect(fact(second, 'Room in the frame')).toHaveValue('190');
  await expect(fact(second, 'Travel to')).toHaveValue('183');
  await enter(second, 'Travel to', '182');
});

test('by keyboard: find by symptom, an own value, reset with one key, a handle of the plan', async ({
  page,
}) => {
  await page.goto(settings('plover'));
  await part(page, 'Frame and plate').waitFor();
  await page.keyboard.press('/');
  await page.getByRole('combobox', { name: 'Find anything' }).waitFor();
  await page.keyboard.type('runs bakwards');
  await expect(page.getByRole('option', { name: /X reversed.*look here/ })).toBeVisible();
  await page.keyboard.press('Enter');
  const row = page.getByRole('button', { name: /^X reversed/ });
  await expect(row).toHaveAttribute('aria-expanded', 'true');
  await page.getByRole('switch', { name: 'off' }).focus();
  await page.keyboard.press('Space');
  await page.keyboard.press('Tab');
  await page.keyboard.type('to see the parity');
  await page.getByRole('button', { name: 'Use this value' }).focus();
  await page.keyboard.press('Enter');
  await expect(docket(page)).toContainText('motion.direction-parity');
  await row.focus();
  await page.keyboard.press('r');
  await expect(docket(page)).not.toContainText('motion.direction-parity');

  await view(page, 'Bed plan').focus();
  await page.keyboard.press('Enter');
  const spot = page.getByRole('button', { name: /^Z home spot: X/ });
  const before = await spot.getAttribute('aria-label');
  await spot.focus();
  await page.keyboard.press('Shift+ArrowLeft');
  await page.keyboard.press('ArrowUp');
  await page.keyboard.press('Enter');
  await expect(spot).not.toHaveAttribute('aria-label', before!);
  await page.keyboard.press('u');
  await expect(spot).toHaveAttribute('aria-label', before!);
});

test('the Z home spot is dragged off the reach, and the plan says so before it is let go', async ({
  page,
}) => {
  await page.goto(settings('plover', 'view=plan'));
  const spot = page.getByRole('button', { name: /^Z home spot: X/ });
  const from = (await spot.boundingBox())!;
  await page.mouse.move(from.x + from.width / 2, from.y + from.height / 2);
  await page.mouse.down();
  await page.mouse.move(from.x + 60, from.y, { steps: 4 });
  await page.mouse.move(from.x + 190, from.y, { steps: 6 });
  await expect(docket(page)).toContainText('home.spot-unreachable');
  await page.mouse.up();
  await slip(page, 'The probe cannot reach the Z home spot in X.')
    .getByRole('button', { name: /Let the facts decide/ })
    .click();
  await page.getByRole('button', { name: 'Make the change' }).click();
  await expect(docket(page)).not.toContainText('home.spot-unreachable');
});

test('directions: two motors on one belt are diagnosed, the fact is turned, homing tried runs away, and undone', async ({
  page,
}) => {
  await page.goto(settings('bittern', 'view=directions'));
  await page.getByLabel('X by +10 mm').selectOption('+y');
  await expect(
    page.getByRole('status').filter({ hasText: 'say what one X move and one Y move did' }),
  ).toBeVisible();
  await page.getByLabel('Y by +10 mm').selectOption('+x');
  const advice = page.getByRole('region', { name: 'What to do' }).or(page.getByRole('status'));
  await expect(advice.first()).toContainText(/Exchange the plugs|its shaft turns/);
  await page.getByLabel('X by +10 mm').selectOption('+x');
  await page.getByLabel('Y by +10 mm').selectOption('+y');
  await expect(advice.first()).toContainText('What you tried moves as asked. Not tried yet: Z, extruder.');

  await page.goto(settings('bittern', 'part=x&key=direction.x'));
  await page.getByRole('switch').press('Space');
  await page.getByRole('textbox', { name: 'Because' }).fill('wrong on purpose');
  await page.getByRole('button', { name: 'Use this value' }).click();
  await expect(docket(page)).toContainText('motion.direction-parity');
  await view(page, 'Bed plan').click();
  await page.getByRole('button', { name: 'Try homing' }).click();
  const run = page.getByRole('region', { name: 'Dry run of homing' });
  await expect(run).toContainText(/X stopped everything\. The image says: X homing did not meet its switch/);
  await expect(run).toContainText('Z was not begun');
  await page.keyboard.press('u');
  await expect(docket(page)).not.toContainText('motion.direction-parity');
  await page.getByRole('button', { name: 'Try homing' }).click();
  await expect(run).toContainText('X is homed');
});

test('a clip under a map point is told on the plan, and a card before it is written', async ({ page }) => {
  await page.goto(settings('bittern', 'view=plan'));
  await page.getByRole('button', { name: 'Add a clip' }).click();
  const clip = page.getByRole('button', { name: /^Clip 1: X/ });
  await clip.focus();
  for (const key of ['Up', 'Up', 'Left', 'Left']) await page.keyboard.press(`Shift+Arrow${key}`);
  await expect(docket(page)).toContainText('map.on-clip');
  await page.keyboard.press('Escape');
  await expect(docket(page)).not.toContainText('map.on-clip');
  await page.getByRole('button', { name: 'Take clip 1 off' }).click();
  await expect(clip).toHaveCount(0);

  await page.goto('/machines/dunlin/flash');
  await page.getByLabel('Card', { exact: true }).selectOption({ label: '64 GB, exFAT' });
  await expect(docket(page)).toContainText('card.format');
  await page.getByLabel('Card', { exact: true }).selectOption({ label: '8 GB, FAT32' });
  await expect(docket(page)).not.toContainText('card.format');
});

test('generated files: held against the old machine, searched, and a line leads to its setting', async ({
  page,
}) => {
  await page.goto(settings('plover', 'view=files'));
  await page.getByLabel('Held against').selectOption({ label: 'the machine before this job' });
  await expect(page.getByText(/^\d+ lines differ, in /)).toBeVisible();
  const files = page.getByRole('navigation', { name: 'Generated files' });
  await files.getByRole('link', { name: /option_homing\.h.*differ/ }).click();
  const lines = page.getByRole('list', { name: 'Lines of option_homing.h' });
  await expect(
    lines.locator('[data-kind="added"]').filter({ hasText: 'HOME_Z_WITH_PROBE /* home.z.with' }),
  ).toBeVisible();
  await expect(lines.locator('[data-kind="removed"]').first()).toBeVisible();
  await page.getByRole('textbox', { name: 'Search in all files' }).fill('speed.x');
  await files.getByRole('link', { name: /option_drive\.h.*found/ }).click();
  await page.getByRole('button', { name: /#define SPEED_X/ }).click();
  await expect(page).toHaveURL(/key=speed\.x/);
  await expect(page.getByRole('button', { name: /^X top speed/ })).toHaveAttribute('aria-expanded', 'true');
  await page.getByRole('link', { name: 'Its line in the generated files' }).click();
  await expect(page.locator('[data-chosen="true"]').filter({ hasText: '#define SPEED_X' })).toBeVisible();
});

test('the machine file goes out and comes back with its differences first; half of one is never taken', async ({
  page,
}) => {
  await page.goto(settings('bittern', 'view=file'));
  const [download] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('link', { name: 'Export bittern.yaml' }).click(),
  ]);
  const text = await readFile((await download.path())!, 'utf8');
  const offer = (content: string) =>
    page.getByLabel('Machine file to compare').setInputFiles({
      name: 'given.yaml',
      mimeType: 'text/yaml',
      buffer: Buffer.from(content),
    });
  await offer(text);
  await expect(page.getByText('given.yaml says what is here already.')).toBeVisible();
  await offer(text.replace('jolly: machine/1', 'jolly: machine/7'));
  await expect(page.getByRole('alert')).toContainText('this file is machine/7');
  await offer(text.replace('volts_v: 24', 'volts_v: plenty'));
  await expect(page.getByRole('alert')).toContainText(
    /line \d+, column \d+: "supply\.volts_v" must be a number/,
  );
  await expect(page.getByRole('alert')).toContainText('Nothing was taken over');

  await offer(text.replace('amps_a: 20', 'amps_a: 22').replace(/^note: .*$/m, 'note: The large one, moved.'));
  await expect(page.getByRole('heading', { name: 'given.yaml differs in 2 values' })).toBeVisible();
  await page.getByRole('checkbox', { name: 'note' }).uncheck();
  await page.getByRole('button', { name: 'Take 1 over' }).click();
  await expect(page.getByRole('heading', { name: /differs in/ })).toHaveCount(0);
  await page.goto(settings('bittern', 'part=frame'));
  await expect(fact(page, 'Supply, most')).toHaveValue('22');
  await page.keyboard.press('u');
  await expect(fact(page, 'Supply, most')).toHaveValue('20');
});

test('settings are copied from another machine, a tool is applied, and start G-code is read', async ({
  page,
}) => {
  await page.goto(settings('dunlin', 'view=file'));
  await page.getByLabel('Copy from').selectOption('bittern');
  await page.getByLabel('Part', { exact: true }).selectOption('x');
  await page.getByRole('checkbox', { name: 'X top speed' }).check();
  await page.getByRole('button', { name: 'Copy 1 setting' }).click();
  await page.goto(settings('dunlin', 'part=x&key=speed.x'));
  await expect(page.getByRole('button', { name: /^X top speed/ })).toContainText('300');
  await expect(page.getByText('copied from Bittern', { exact: true })).toBeVisible();
  await page.keyboard.press('r');
  await expect(page.getByText('copied from Bittern', { exact: true })).toHaveCount(0);

  await page.goto(settings('dunlin', 'part=hotend&tool=relay-pid'));
  const tool = page.getByRole('group', { name: 'PID from a swing' });
  await fact(page, 'Highest').fill('201.75');
  await fact(page, 'Lowest').fill('198.25');
  await fact(page, 'One swing').fill('often');
  await expect(tool).toContainText('One swing: type a number of s');
  await fact(page, 'One swing').fill('30');
  await expect(tool).toContainText('Ultimate gain 92.76');
  await tool.getByRole('button', { name: /^Apply to Dunlin/ }).click();
  await expect(page.getByRole('button', { name: /^Hot end PID P/ })).toContainText('55.66');
  await page.goto(settings('dunlin', 'part=frame'));
  await enter(page, 'Supply, most', '12');
  await expect(docket(page)).toContainText('heat.pid-foreign');
  await page.getByRole('button', { name: 'Undo (u)' }).click();
  await expect(fact(page, 'Supply, most')).toHaveValue('10');
  await page.getByRole('button', { name: 'Undo (u)' }).click();
  await expect(page.getByRole('region', { name: 'Tape' })).toContainText('Undone: PID of the hot end');
  await page.goto(settings('dunlin', 'part=hotend'));
  await expect(page.getByRole('button', { name: /^Hot end PID P/ })).toContainText('18');

  await page.goto(settings('dunlin', 'view=slicer'));
  await fact(page, 'Paste the start G-code here').fill('M104 S400\nG28 X Y\nG1 X200');
  await page.getByRole('button', { name: 'Keep it with the machine' }).click();
  for (const id of ['start.over-limit', 'start.outside', 'start.no-home'])
    await expect(docket(page)).toContainText(id);
  await page.getByRole('button', { name: 'Begin with it' }).click();
  await expect(
    page.getByText(
      'Every line is known to Lantern 0.1.0 with these settings, and none speaks against this machine.',
    ),
  ).toBeVisible();
  await page.getByRole('button', { name: 'Keep it with the machine' }).click();
  await expect(docket(page)).not.toContainText('start.over-limit');
});
