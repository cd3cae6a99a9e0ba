import type { Page } from './test';

/** As long as nothing may change on a page for it to count as drawn: what Playwright asks of the network. */
const QUIET_MS = 500;

/** Goes somewhere as a link of the interface does, without loading the page anew, and waits until all is drawn there. */
export async function goTo(page: Page, path: string): Promise<void> {
  await page.evaluate(
    ([to, quiet]) =>
      new Promise<void>((drawn) => {
        let timer = 0;
        const changed = () => {
          clearTimeout(timer);
          timer = window.setTimeout(() => {
            observer.disconnect();
            drawn();
          }, quiet);
        };
        const observer = new MutationObserver(changed);
        observer.observe(document.body, { subtree: true, childList: true, characterData: true });
        changed();
        history.pushState(null, '', to);
        dispatchEvent(new PopStateEvent('popstate'));
      }),
    [path, QUIET_MS] as const,
  );
  await page.waitForURL(`**${path}`);
}
