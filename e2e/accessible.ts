import { readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import type Axe from 'axe-core';
import { expect, type Page } from '@playwright/test';

declare const axe: typeof Axe;
const AXE = readFileSync(createRequire(import.meta.url).resolve('axe-core/axe.min.js'), 'utf8');

/** What axe has against the page as it is; axe is put into it once, and stays while views change. */
async function expectNothing(page: Page, options: Axe.RunOptions = {}): Promise<void> {
  if (!(await page.evaluate(() => 'axe' in window))) await page.evaluate(AXE);
  const { violations } = await page.evaluate<Axe.AxeResults, Axe.RunOptions>(
    // Only what is wrong is asked for, and there are no frames.
    async (asked) => axe.run({ ...asked, resultTypes: ['violations'], iframes: false }),
    options,
  );
  expect(
    violations.map(({ id, nodes }) => `${id}: ${nodes.map((node) => node.html.slice(0, 160)).join(' | ')}`),
  ).toEqual([]);
}

/** Axe finds nothing to complain about on what the page shows now. */
export const expectAccessible = (page: Page): Promise<void> => expectNothing(page);

/** Nothing on the page is too faint: all that the lamp changes. */
export const expectContrast = (page: Page): Promise<void> =>
  expectNothing(page, { runOnly: { type: 'rule', values: ['color-contrast'] } });

/** As `expectAccessible`, and everything that is touched is 24 pixels large, or far enough from the next. */
export const expectFingers = (page: Page): Promise<void> =>
  expectNothing(page, { rules: { 'target-size': { enabled: true } } });
