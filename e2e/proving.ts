import type { Page } from './test';

export const slip = (page: Page, title: string) =>
  page
    .getByRole('complementary', { name: 'Docket' })
    .getByRole('listitem')
    .filter({ has: page.getByRole('heading', { name: title, exact: true }) });

/**
 * Tests a step and does at the machine what it asks for, with the answers of a healthy one, until it is over. In the page,
 * at every change of it: a look from outside takes longer than most steps.
 */
export async function goThrough(page: Page, title: string): Promise<void> {
  await slip(page, title)
    .getByRole('button', { name: /^Test (it|again)$/ })
    .click();
  await page.evaluate(
    () =>
      new Promise<void>((over) => {
        let done = '';
        const look = () => {
          if (!document.querySelector('[data-loading]')) {
            watch.disconnect();
            return over();
          }
          const box = document.querySelector<HTMLElement>('section[aria-label="The test under way"]');
          const key = box?.querySelector('button');
          if (!box || !key || key.innerText.startsWith('Give up')) return;
          const pressed = key.getAttribute('aria-pressed');
          // A hand that does what was asked stays there until it is told to come back.
          const back = /the other way again|Take it off/.test(box.innerText);
          const now = `${box.innerText} ${pressed}`;
          if (now === done || (pressed !== null && (pressed === 'true') !== back)) return;
          done = now;
          key.click();
        };
        const watch = new MutationObserver(look);
        watch.observe(document.body, {
          subtree: true,
          childList: true,
          attributes: true,
          characterData: true,
        });
        look();
      }),
  );
}
