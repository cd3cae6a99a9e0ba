import { expect, test } from './test';
import { button, change, layRuff, ruffAtBringUp } from './ownMachines';

test.describe.configure({ mode: 'serial' });

test.describe('Bring-up shows what the image does', () => {
  test('a map is taken and drawn, a print runs from the card to its end, with a pause, by keys alone', async ({
    page,
  }) => {
    const said = await ruffAtBringUp(page);
    await expect(said).toContainText(/Bed map\s*none taken, 5 × 5/);
    await page.getByLabel('Speed of the bench').selectOption('as fast as can be, while it works');
    await button(page, 'Home all').click();
    await expect(said).toContainText(/Homed\s*XYZ/);
    await button(page, 'Take the map').click();
    await expect(said).toContainText(/Bed map\s*in use, 5 × 5/, { timeout: 60_000 });
    const machine = page.getByRole('region', { name: 'Machine on the bench' });
    await expect(machine.locator('svg text').filter({ hasText: /^-?\d+$/ })).toHaveCount(25);
    await button(page, 'Put in our tray').click();
    await button(page, 'Files on the card').click();
    const answer = page.getByRole('region', { name: 'Tell the board' });
    await expect(answer).toContainText(/name=TRAY\.GCO bytes=\d+/);
    await page.getByLabel('Speed of the bench').selectOption('20 × faster');
    await button(page, 'Print the first').click();
    await expect(said).toContainText(/Card\s*TRAY\.GCO, \d+ %/);
    // Heating up, homing and the first layer take minutes of the bench's clock.
    await page.getByLabel('Speed of the bench').selectOption('as fast as can be, while it works');
    await expect(said).toContainText(/Card\s*TRAY\.GCO, [1-9]\d? %/, { timeout: 60_000 });
    await button(page, 'Pause').click();
    await expect(said).toContainText(/Paused\s*yes: asked by the host/, { timeout: 60_000 });
    await button(page, 'Go on').click();
    await expect(said).toContainText(/Card\s*in\b/, { timeout: 120_000 });
    await expect(said).toContainText(/Homed\s*no axis/);
    await expect(page.getByText('Temperature, the last ten minutes')).toBeVisible();
    await expect(page.getByText('cannot be run again by the server')).toBeVisible();
    await button(page, 'Take it out').click();
    await expect(page.getByText('No card to print from is in the slot.')).toBeVisible();
    // It is as warm when its power comes back: it does not begin anew. How far it has cooled by now nobody knows.
    await page.getByLabel('Speed of the bench').selectOption('real time');
    const warm = async () => Number(/Hot end\s*(\d+\.\d) °C, off/.exec(await said.innerText())?.[1]);
    // What stands there first is still of the time that flew; the second one after it is of now.
    for (let fresh = 0; fresh < 2; fresh += 1) {
      const shown = await warm();
      await expect.poll(warm).not.toBe(shown);
    }
    const was = await warm();
    await button(page, 'Switch the power off').click();
    await button(page, 'Switch the power on').click();
    await expect(said).toContainText(/Hot end\s*\d+\.\d °C, off/);
    expect(Math.abs((await warm()) - was)).toBeLessThan(10);
  });

  test('the machine’s own display is drawn from its memory and worked by its knob', async ({ page }) => {
    await layRuff(page);
    await change(page, 'ruff', (machine) => {
      (machine['parts'] as object[]).push({ id: 'display', part: 'slate-20', role: 'display' });
      (machine['harness'] as Record<string, unknown>)['display'] = {
        leads: { supply: 'SHOW.2', ground: 'SHOW.1' },
      };
    });
    await ruffAtBringUp(page);
    const display = page.getByRole('application');
    // What it shows while it starts stands for two seconds of the bench's clock only; a slow page may never see it.
    await expect(display).toContainText('Ruff');
    await expect(display).toContainText('H21/0C B21/0C');
    await expect(display).toContainText('X? Y? Z?');
    await display.focus();
    await page.keyboard.press('Enter');
    await expect(display).toContainText('>Back');
    await page.keyboard.press('ArrowRight');
    await expect(display).toContainText('>Print');
    await button(page, 'Turn the knob right').click();
    await page.keyboard.press('Escape');
    await expect(display).toContainText('>Pause');
    await button(page, 'Turn the knob right').click();
    await button(page, 'Turn the knob right').click();
    await expect(display).toContainText('>Heat');
    await button(page, 'Press the knob').click();
    await button(page, 'Turn the knob right').click();
    await expect(display).toContainText('>Preheat one');
    await button(page, 'Press the knob').click();
    await expect(page.getByLabel('Identity')).toContainText('target 200.0 °C');
  });

  test('a display that is touched wants its two marks first, then its rows are worked by a finger', async ({
    page,
  }) => {
    await layRuff(page);
    await change(page, 'ruff', (machine) => {
      const others = (machine['parts'] as { id: string }[]).filter(({ id }) => id !== 'display');
      machine['parts'] = [...others, { id: 'display', part: 'vista-128', role: 'display' }];
      (machine['harness'] as Record<string, unknown>)['display'] = {
        leads: { supply: 'SHOW.2', ground: 'SHOW.1' },
      };
    });
    await ruffAtBringUp(page);
    const display = page.getByRole('application', { name: /is touched/ });
    const glass = display.locator('canvas');
    const shown = () => glass.evaluate((canvas: HTMLCanvasElement) => canvas.toDataURL());
    const tap = async (row: number, letter: number) => {
      const before = await shown();
      const { width, height } = await glass.evaluate((canvas) => canvas.getBoundingClientRect());
      await glass.click({ position: { x: ((letter + 0.5) / 21) * width, y: ((row + 0.5) / 8) * height } });
      await expect.poll(shown).not.toBe(before);
    };
    await expect(glass).toBeVisible();
    await tap(0, 0);
    await tap(7, 20);
    await tap(0, 0);
    await tap(4, 2);
    await display.focus();
    await page.keyboard.press('ArrowDown');
    await expect(display).toHaveAccessibleName(/Row 2 of 8/);
    await page.keyboard.press('Enter');
    await expect(page.getByLabel('Identity')).toContainText('target 200.0 °C');
  });
});
