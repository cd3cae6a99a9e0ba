import { expect, type Page } from './test';

export const slip = (page: Page, title: string) =>
  page
    .getByRole('complementary', { name: 'Docket' })
    .getByRole('listitem')
    .filter({ has: page.getByRole('heading', { name: title, exact: true }) });
const box = (page: Page) => page.getByRole('region', { name: 'The test under way' });
const OVER = 'over';

/** What a person stands before: the prompt with its keys, or that the test is over. */
async function stands(page: Page): Promise<string> {
  if ((await page.locator('[data-loading]').count()) === 0) return OVER;
  return (await box(page).allInnerTexts()).join();
}

/** Presses the key that a healthy machine's person would press now, if there is one; says whether. */
async function act(page: Page): Promise<boolean> {
  const first = box(page).getByRole('button').first();
  const label = (await first.allInnerTexts()).join();
  if (label === '' || label.startsWith('Give up')) return false;
  const pressed = await first.getAttribute('aria-pressed');
  const back = /the other way again|Take it off/.test((await box(page).allInnerTexts()).join());
  // A hand that does what was asked stays there until it is told to come back.
  if (pressed !== null && (pressed === 'true') !== back) return false;
  await first.click();
  return true;
}

/** Tests a step and does at the machine what it asks for, with the answers of a healthy one, until it is over. */
export async function goThrough(page: Page, title: string): Promise<void> {
  await slip(page, title)
    .getByRole('button', { name: /^Test (it|again)$/ })
    .click();
  for (let now = await stands(page); now !== OVER; now = await stands(page))
    if (!(await act(page))) await expect.poll(() => stands(page), { timeout: 60_000 }).not.toBe(now);
}
