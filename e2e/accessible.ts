import AxeBuilder from '@axe-core/playwright';
import { expect, type Page } from '@playwright/test';

async function expectNothing(axe: AxeBuilder, rules?: string[]): Promise<void> {
  // There are no frames of other origins, and only what is wrong is asked for.
  const { violations } = await axe
    .setLegacyMode()
    .options({ resultTypes: ['violations'], ...(rules && { runOnly: { type: 'rule', values: rules } }) })
    .analyze();
  expect(
    violations.map(({ id, nodes }) => `${id}: ${nodes.map((node) => node.html.slice(0, 160)).join(' | ')}`),
  ).toEqual([]);
}

/** Axe finds nothing to complain about on what the page shows now. */
export const expectAccessible = (page: Page): Promise<void> => expectNothing(new AxeBuilder({ page }));

/** Nothing on the page is too faint: all that the lamp changes. */
export const expectContrast = (page: Page): Promise<void> =>
  expectNothing(new AxeBuilder({ page }), ['color-contrast']);
