import AxeBuilder from '@axe-core/playwright';
import { expect, type Page } from '@playwright/test';

async function expectNothing(
  axe: AxeBuilder,
  { only, also }: { only?: string[]; also?: string } = {},
): Promise<void> {
  // There are no frames of other origins, and only what is wrong is asked for.
  const { violations } = await axe
    .setLegacyMode()
    .options({
      resultTypes: ['violations'],
      ...(only && { runOnly: { type: 'rule', values: only } }),
      ...(also !== undefined && { rules: { [also]: { enabled: true } } }),
    })
    .analyze();
  expect(
    violations.map(({ id, nodes }) => `${id}: ${nodes.map((node) => node.html.slice(0, 160)).join(' | ')}`),
  ).toEqual([]);
}

/** Axe finds nothing to complain about on what the page shows now. */
export const expectAccessible = (page: Page): Promise<void> => expectNothing(new AxeBuilder({ page }));

/** Nothing on the page is too faint: all that the lamp changes. */
export const expectContrast = (page: Page): Promise<void> =>
  expectNothing(new AxeBuilder({ page }), { only: ['color-contrast'] });

/** As above, and everything that is touched is 24 pixels large, or far enough from the next. */
export const expectFingers = (page: Page): Promise<void> =>
  expectNothing(new AxeBuilder({ page }), { also: 'target-size' });
