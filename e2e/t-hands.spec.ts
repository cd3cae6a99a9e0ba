import { brokenWords } from './brokenWords';
import { expectContrast, expectFingers } from './accessible';
import { goTo } from './goTo';
import { overlapping } from './overlapping';
import { expect, type Page, test } from './test';

test.describe.configure({ mode: 'serial' });

const stationOf = (machine: string, at: string) => `/machines/${machine}/${at}`;
/** The views of a machine, each where it is longest. */
const VIEWS = [
  '/',
  '/fleet',
  ...['survey', 'wiring', 'settings', 'build', 'flash', 'bring-up', 'calibrate', 'logbook'].map((at) =>
    stationOf('plover', at),
  ),
  ...['?at=tail', '?at=report', '?at=photos'].map((search) => stationOf('plover', `survey${search}`)),
  ...['?at=sheet', '?at=electricity', '?at=pins', '?at=ports'].map((search) => stationOf('plover', `wiring${search}`)), // prettier-ignore
  ...['?view=plan', '?view=files', '?view=file', '?view=slicer', '?view=directions', '?part=hotend'].map((search) => stationOf('plover', `settings${search}`)), // prettier-ignore
  ...['?view=fit', '?view=history'].map((search) => stationOf('plover', `build${search}`)),
  ...['?route=bootloader', '?route=files'].map((search) => stationOf('plover', `flash${search}`)),
  ...['?view=power', '?view=sheet'].map((search) => stationOf('plover', `bring-up${search}`)),
  ...['?tool=map', '?tool=z-offset'].map((search) => stationOf('plover', `calibrate${search}`)),
  ...['?view=beside', '?view=values', '?view=card'].map((search) => stationOf('plover', `logbook${search}`)),
];

/** What of a page has to be pushed sideways: a wide table and a file of code may, each by itself. */
const pushedSideways = () =>
  [...document.querySelectorAll('main, main *, aside, aside *')]
    .filter(
      (e) => e.scrollWidth > e.clientWidth + 1 && ['auto', 'scroll'].includes(getComputedStyle(e).overflowX),
    )
    .filter((e) => !e.matches('pre, [aria-label^="Lines of"]') && !e.querySelector(':scope > table'))
    .map(
      (e) =>
        `${e.tagName} ${e.getAttribute('aria-label') ?? e.className}: ${e.scrollWidth} of ${e.clientWidth}`,
    );

const focused = (page: Page) =>
  page.evaluate(() => ({
    tag: document.activeElement?.tagName,
    text: document.activeElement?.textContent?.trim() ?? '',
    inDocket: document.activeElement?.closest('aside') !== null,
  }));
/** Something other than the page has the focus. */
const somewhere = (page: Page) => expect.poll(async () => (await focused(page)).tag).not.toBe('BODY');

/** A test each for so many of them, so that none takes minutes. */
const SHARES = 4;
for (const share of Array.from({ length: SHARES }, (_, index) => index))
  test(`on a phone of 320 pixels every view fits, and axe finds nothing, also in forced colours: share ${share + 1} of ${SHARES}`, async ({ page }) => {
    await page.setViewportSize({ width: 320, height: 640 });
    await page.goto('/');
    await page.waitForLoadState('networkidle');
    for (const view of VIEWS.filter((_, index) => index % SHARES === share)) {
      await goTo(page, view);
      expect([view, await page.evaluate(() => document.documentElement.scrollWidth)]).toEqual([view, 320]);
      expect([view, await page.evaluate(pushedSideways)]).toEqual([view, []]);
      expect([view, await page.evaluate(overlapping)]).toEqual([view, []]);
      expect([view, await page.evaluate(brokenWords)]).toEqual([view, []]);
      await expectFingers(page);
      await page.emulateMedia({ forcedColors: 'active' });
      await expectContrast(page);
      await page.emulateMedia({ forcedColors: 'none' });
    }
  }); // prettier-ignore

test('on a phone the stop is in sight, however far one has scrolled', async ({ page }) => {
  await page.setViewportSize({ width: 320, height: 640 });
  await page.goto(stationOf('plover', 'calibrate'));
  await page.getByRole('heading', { name: 'Measure it at the machine' }).waitFor();
  await page.evaluate(() => window.scrollTo(0, document.body.scrollHeight));
  await expect(page.getByRole('button', { name: 'Stop' })).toBeInViewport();
});

test('each section has an address, Back goes one step, and the window says where it is', async ({ page }) => {
  await page.goto(stationOf('dunlin', 'settings'));
  const names = ['Bed plan', 'Directions', 'Slicer', 'Machine file'];
  for (const name of names) {
    await page.getByRole('link', { name, exact: true }).click();
    await expect(page.getByRole('link', { name, exact: true })).toHaveAttribute('aria-current', 'page');
  }
  await page.getByRole('link', { name: /^Wiring/ }).click();
  await expect(page).toHaveTitle('Wiring, Dunlin · Jolly Cog');
  await page.getByRole('link', { name: 'Pin table' }).click();
  await page.goBack();
  await page.goBack();
  for (const name of [...names].reverse()) {
    await expect(page.getByRole('link', { name, exact: true })).toHaveAttribute('aria-current', 'page');
    await page.goBack();
  }
  await expect(page).toHaveURL(/settings$/);
  await expect(page).toHaveTitle('Settings, Dunlin · Jolly Cog');
}); // prettier-ignore

test('the focus goes on when what had it is settled, left, or closed', async ({ page }) => {
  await page.goto(stationOf('plover', 'settings'));
  const keep = page.getByRole('button', { name: /^Keep / }).first();
  await keep.focus();
  const settled = await keep.textContent();
  await page.keyboard.press('Enter');
  await expect(page.getByRole('button', { name: settled ?? '', exact: true })).toHaveCount(0);
  await somewhere(page);
  expect((await focused(page)).inDocket).toBe(true);
  for (const key of ['4', '7', '2', '8', '3']) {
    await page.keyboard.press(key);
    await expect(page).toHaveURL(/machines\/plover\/[a-z-]+$/);
    await somewhere(page);
  }
  await page.keyboard.press('/');
  await page.getByRole('combobox', { name: 'Find anything' }).fill('24v');
  await expect(page.getByRole('option').first()).toContainText('Supply');
  await page.getByRole('combobox', { name: 'Find anything' }).fill('pid hot end');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('dialog')).toHaveCount(0);
  await somewhere(page);
});

test('ctrl z takes the last change back and names it, but leaves a text field its own; what was done is said', async ({ page }) => {
  await page.goto(stationOf('dunlin', 'settings?part=y'));
  const field = page.getByRole('textbox', { name: 'Acceleration', exact: true });
  const was = await field.inputValue();
  await field.fill('850');
  await field.press('Enter');
  await expect(page.locator('[data-spoken]')).toContainText('850');
  await expect(page.getByRole('button', { name: 'Undo (u)' })).toHaveAttribute('aria-description', /850/);
  await field.focus();
  await page.keyboard.type('1');
  await page.keyboard.press('Control+z');
  await expect(page.getByRole('button', { name: 'Undo (u)' })).toHaveAttribute('aria-description', /850/);
  await page.keyboard.press('Escape');
  await page.getByRole('heading', { name: 'What follows' }).click();
  await page.keyboard.press('Control+z');
  await expect(field).toHaveValue(was);
  await expect(page.locator('[data-spoken]')).toContainText('Undone');
}); // prettier-ignore

test('a tick is taken back by name, where it was made, before what was done before it', async ({ page }) => {
  await page.goto(stationOf('plover', 'settings?part=y'));
  const field = page.getByRole('textbox', { name: 'Acceleration', exact: true });
  const was = await field.inputValue();
  await field.fill('870');
  await field.press('Enter');
  const undo = page.getByRole('button', { name: 'Undo (u)' });
  await expect(undo).toHaveAttribute('aria-description', /870/);
  const keep = page.getByRole('button', { name: /^Keep / }).first();
  const settled = (await keep.textContent()) ?? '';
  await keep.click();
  const gone = page.getByRole('button', { name: settled, exact: true });
  await expect(gone).toHaveCount(0);
  await expect(undo).toHaveAttribute('aria-description', /^Done: /);
  await page.reload();
  await expect(undo).toHaveAttribute('aria-description', /^Done: /);
  await undo.click();
  await expect(gone.first()).toBeVisible();
  await expect(field).toHaveValue('870');
  await page.getByRole('button', { name: 'Do again (shift u)' }).click();
  await expect(gone).toHaveCount(0);
  await undo.click();
  await expect(undo).toHaveAttribute('aria-description', /870/);
  await undo.click();
  await expect(field).toHaveValue(was);
}); // prettier-ignore

test('the time line is there again when one comes back to it by a key', async ({ page }) => {
  await page.goto(stationOf('dunlin', 'logbook'));
  const line = page.getByRole('main').getByText('Kept the image of', { exact: false }).first();
  await expect(line).toBeVisible();
  for (let round = 0; round < 2; round += 1) {
    await page.keyboard.press('1');
    await expect(page).toHaveURL(/survey/);
    await page.keyboard.press('8');
    await expect(line).toBeVisible();
  }
});

test('single keys can be switched off, for good; the stop keeps one with ctrl', async ({ page }) => {
  await page.goto(stationOf('dunlin', 'settings'));
  await page.getByRole('heading', { name: 'Frame and plate' }).waitFor();
  await page.keyboard.press('?');
  await page.getByRole('switch', { name: /Single keys/ }).press('Space');
  await page.keyboard.press('Escape');
  await page.reload();
  await page.getByRole('heading', { name: 'Frame and plate' }).waitFor();
  await page.keyboard.press('4');
  await page.keyboard.press('/');
  await expect(page.getByRole('dialog')).toHaveCount(0);
  await expect(page).toHaveURL(/settings$/);
  await page.getByRole('button', { name: /^Keys/ }).click();
  await page.getByRole('switch', { name: /Single keys/ }).press('Space');
  await page.keyboard.press('Escape');
  await page.keyboard.press('4');
  await expect(page).toHaveURL(/build$/);
});

test('at arm’s length on a phone: opened, read and left by fingers alone', async ({ page }) => {
  await page.setViewportSize({ width: 320, height: 640 });
  await page.goto(stationOf('plover', 'bring-up'));
  await page.getByRole('heading', { name: 'Your hands on the bench' }).waitFor();
  await page.getByRole('button', { name: /^At arm’s length/ }).click();
  const arms = page.getByRole('dialog');
  await expect(arms.getByText(/^Step 1 of \d+/)).toBeVisible();
  expect(await arms.evaluate((element) => element.scrollWidth)).toBeLessThanOrEqual(320);
  await expectFingers(page);
  await arms.getByRole('button', { name: /^Next/ }).click();
  await expect(arms.getByText(/^Step 2 of \d+/)).toBeVisible();
  await arms.getByRole('button', { name: /^Leave this page/ }).click();
  await expect(arms).toHaveCount(0);
});

test('two fingers on a touch screen zoom board and plan, and drag nothing', async ({ browser, page }) => {
  await page.goto('/');
  const touched = await browser.newContext({ viewport: { width: 390, height: 844 }, hasTouch: true, isMobile: true }); // prettier-ignore
  const phone = await touched.newPage();
  const fingers = await touched.newCDPSession(phone);
  const file = async () => (await phone.request.get(new URL('/api/machines/bittern/file', page.url()).href)).text(); // prettier-ignore
  const before = await file();
  for (const [at, drawing] of [
    ['wiring?at=leads', phone.getByLabel(/with every lead$/)],
    ['settings?view=plan', phone.getByLabel(/^Plate from above/)],
  ] as const) {
    await phone.goto(new URL(`/machines/bittern/${at}`, page.url()).href);
    await drawing.scrollIntoViewIfNeeded();
    const box = (await drawing.boundingBox())!;
    const [x, y] = [box.x + box.width / 2, Math.min(box.y + box.height / 2, 700)];
    const apart = (by: number) => [-by, by].map((dx, id) => ({ x: x + dx, y, id }));
    await fingers.send('Input.dispatchTouchEvent', { type: 'touchStart', touchPoints: apart(20) });
    for (let by = 24; by <= 90; by += 6)
      await fingers.send('Input.dispatchTouchEvent', { type: 'touchMove', touchPoints: apart(by) });
    await fingers.send('Input.dispatchTouchEvent', { type: 'touchEnd', touchPoints: [] });
    await expect.poll(() => phone.evaluate(() => visualViewport?.scale ?? 1)).toBeGreaterThan(1.5);
  }
  expect(await file()).toBe(before);
  await touched.close();
});
