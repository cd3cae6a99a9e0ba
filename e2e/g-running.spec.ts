import { expect, test } from './test';
import { ask, button, flash, layRuff, plate, ruffAtBringUp, station } from './ownMachines';

test.describe.configure({ mode: 'serial' });

test.describe('1. what is shown of a running machine is what it is now', () => {
  test('heat asked for by hand, moves and a stop are on the screen and at the plate of every station', async ({
    page,
  }) => {
    const said = await ruffAtBringUp(page);
    await expect(said).toContainText('Hot end');
    await page.getByLabel('Speed of the bench').selectOption('20 × faster');
    await ask(page, 'M104 S200');
    await expect(said).toContainText('target 200.0 °C');
    await expect(said).toContainText(/Hot end\s*1\d\d\.\d °C, target 200/);
    // Not homed: nobody knows the place, so none is shown.
    await expect(said).toContainText('X ? Y ? Z ? mm');
    await station(page, 'Settings').click();
    await expect(plate(page)).toContainText(/hot end \d+ → 200 °C/);
    await station(page, 'Bring-up').click();
    await ask(page, 'G28');
    await expect(plate(page)).toContainText('homing');
    await expect(said).toContainText(/Homed\s*XYZ/);
    await ask(page, 'G1 X100 F9000');
    await expect(said).toContainText('X 100.000');
    await page.keyboard.press('Escape');
    await page.locator('body').click({ position: { x: 640, y: 780 } });
    await page.keyboard.press('.');
    await expect(said).toContainText(/Hot end\s*\d+\.\d °C, off/);
    await expect(page.getByRole('alert').filter({ hasText: 'Stopped: asked by the host' })).toBeVisible();
    await button(page, 'Wake it').click();
    await expect(said).toContainText(/State\s*idle/);
    // A command that holds the line still tells how things stand; a board that says nothing is said to be silent.
    await ask(page, 'M109 S230');
    await expect(said).toContainText(/State\s*waiting/);
  });

  test('leaving while something is hot is asked about, and what happened is said afterwards', async ({
    page,
  }) => {
    await page.goto('/machines/ruff/bring-up');
    await button(page, 'Switch the power on').click();
    await expect(page.getByLabel('Identity')).toContainText('Ruff');
    await ask(page, 'M104 S200');
    await expect(plate(page)).toContainText('→ 200 °C');
    await page.getByRole('link', { name: '‹ Shelf' }).click();
    const dialog = page.getByRole('dialog', { name: 'Ruff is not at rest' });
    await expect(dialog).toContainText('switches its bench off: heat goes off');
    await dialog.getByRole('button', { name: 'Stay here' }).click();
    await expect(plate(page)).toContainText('→ 200 °C');
    let asked = '';
    page.once('dialog', (leaving) => {
      asked = leaving.type();
      void leaving.accept();
    });
    await page.reload();
    expect(asked).toBe('beforeunload');
    await expect(page.getByText('The bench was switched off when its window went')).toBeVisible();
    await expect(page.getByText(/Under way then: hot end \d+ → 200 °C/)).toBeVisible();
    await button(page, 'I have read it').click();
    await page.reload();
    await expect(page.getByRole('heading', { name: 'Prove it' })).toBeVisible();
    await expect(page.getByText('The bench was switched off when its window went')).toHaveCount(0);
  });

  test('a board that falls silent is said to be, and what it said is old', async ({ page }) => {
    // From a moment on nothing reaches the bench any more, as when a lead is pulled.
    await page.addInitScript(() => {
      const post = Worker.prototype.postMessage as (...words: unknown[]) => void;
      Worker.prototype.postMessage = function (this: Worker, ...words: unknown[]) {
        if (!document.documentElement.dataset['pulled']) post.apply(this, words);
      };
    });
    await layRuff(page);
    await flash(page, 'ruff');
    await page.goto('/machines/ruff/bring-up');
    await button(page, 'Switch the power on').click();
    const said = page.getByLabel('Identity');
    await expect(said).toContainText(/Hot end\s*\d+\.\d °C, off/);
    await expect(said).not.toContainText('not heard for');
    await page.evaluate(() => (document.documentElement.dataset['pulled'] = 'yes'));
    await expect(said).toContainText(/not heard for [3-9] s/);
    await expect(said.locator('[data-old="true"]').first()).toBeVisible();
  });
});
