import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import type { Locator } from '@playwright/test';
import { expect, type Page } from './test';

/**
 * Machines of a test's own, so that what other tests leave behind does not matter, and what is looked for on a screen.
 */
const catalogue = join(import.meta.dirname, '../catalogue/demo');
export const docket = (page: Page) => page.getByRole('complementary', { name: 'Docket' });
export const station = (page: Page, name: string) =>
  page.getByRole('navigation', { name: 'Stations' }).getByRole('link', { name: new RegExp(`^${name}`) });
export const slip = (page: Page, title: string | RegExp) =>
  docket(page)
    .getByRole('listitem')
    .filter({ has: page.getByRole('heading', { name: title }) });
export const button = (page: Page, name: string | RegExp) => page.getByRole('button', { name, exact: true });

export type Machine = Record<string, unknown> & { id: string };
export const call = async (page: Page, method: string, path: string, data?: unknown) => {
  const reply = await page.request.fetch(`/api${path}`, { method, ...(data !== undefined && { data }) });
  return { status: reply.status(), body: (await reply.json()) as never };
};
/** Puts a copy of a demo machine on the shelf, once. */
export async function lay(page: Page, id: string, name: string, from = 'plover'): Promise<void> {
  const file = readFileSync(join(catalogue, `${from}.yaml`), 'utf8')
    .replace(`id: ${from}`, `id: ${id}`)
    .replace(/name: \w+/, `name: ${name}`);
  await call(page, 'POST', '/machines', { file });
}
export async function change(page: Page, id: string, edit: (machine: Machine) => void): Promise<void> {
  const { machine, version } = (await call(page, 'GET', `/machines/${id}`)).body as {
    machine: Machine;
    version: number;
  };
  edit(machine);
  expect((await call(page, 'PUT', `/machines/${id}`, { machine, version, label: 'a test' })).status).toBe(
    200,
  );
}
/** Builds a machine of a test's own, whose board came empty. */
export async function build(page: Page, id: string): Promise<void> {
  await call(page, 'POST', `/machines/${id}/waivers`, {
    check: 'keep.no-way-back',
    because: 'a board of this test, it came empty',
  });
  await page.goto(`/machines/${id}/build`);
  await button(page, 'Build').click();
  await expect(page.getByRole('heading', { name: 'Built from the settings as they are' })).toBeVisible({
    timeout: 180_000,
  });
}
export async function flash(page: Page, id: string): Promise<void> {
  await build(page, id);
  await page.goto(`/machines/${id}/flash`);
  await button(page, 'Write the card').click();
  await expect(page.getByText('The card is in the slot, with')).toBeVisible();
  await button(page, 'Switch the power on').click();
  await expect(slip(page, 'The board took the image.')).toBeVisible();
}
export const ask = async (page: Page, line: string) => {
  await page.getByRole('textbox', { name: 'Ask the board' }).fill(line);
  await page.keyboard.press('Enter');
};
export const plate = (page: Page) => page.getByRole('region', { name: 'Machine and link' });

/** Puts Godwit on the shelf, a copy of Dunlin, with a job of which only the board and its drivers are taken over, once. */
export async function layGodwit(page: Page): Promise<void> {
  await page.goto('/');
  await lay(page, 'godwit', 'Godwit', 'dunlin');
  await call(page, 'POST', '/machines/godwit/job', {
    title: 'Another board and a fan',
    reason: 'part',
    changes: [
      { id: 'board', kind: 'new-board', board: 'alder-a32', revision: '1.1' },
      // Those of the board before are soldered to it.
      { id: 'drivers', kind: 'drivers', part: 'dray-d1', axes: ['x', 'y', 'z', 'e'], microsteps: 16 },
      { id: 'fan', kind: 'fan', role: 'hotend', part: 'fan-24-40' },
    ],
    taken: ['board', 'drivers'],
  });
}
/** Ruff, built, flashed and powered, at Bring-up: what its board says. */
export async function ruffAtBringUp(page: Page): Promise<Locator> {
  await layRuff(page);
  await flash(page, 'ruff');
  await station(page, 'Bring-up').click();
  return page.getByLabel('Identity');
}
/** Puts Ruff on the shelf, a copy of Plover as its job makes it, once. */
export async function layRuff(page: Page): Promise<void> {
  await page.goto('/');
  await lay(page, 'ruff', 'Ruff');
}
